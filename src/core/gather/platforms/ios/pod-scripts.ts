import { withoutComments } from "../../../syntax/comments.js";
import type { ProjectFiles } from "../../project-files.js";
import type { FactSink } from "../../sink.js";

/**
 * Functions that scripts of frameworks bring to a Podfile, and the scripts. Sources: the templates of React Native (0.63 to 0.79), Expo, Flutter and
 * Capacitor.
 */
const POD_SCRIPTS: readonly [calls: RegExp, script: RegExp][] = [
  [
    /\b(use_react_native!|prepare_react_native_project!|react_native_post_install|min_ios_version_supported)/,
    /\bscripts\/react_native_pods\b/,
  ],
  [/\buse_expo_modules!/, /\bscripts["'),\s/]*[,/]?\s*["']?autolinking\b/],
  [/\bflutter_(install_all_ios_pods|ios_podfile_setup|additional_ios_build_settings)\b/, /\bpodhelper\b/],
  [/\bassertDeploymentTarget\b/, /\bpods_helpers\b/],
];

/** Calls of the framework's functions in a Podfile that loads nothing that has them, as far as it is written out. */
export function noteLoadedScripts(project: ProjectFiles, app: FactSink, file: string): void {
  const source = project.text(file);
  if (!source) return;
  const text = withoutComments(source.text, "hash");
  if (/^\s*(eval|instance_eval|load)\b/m.test(text)) return;
  for (const [calls, script] of POD_SCRIPTS) {
    const call = calls.exec(text);
    const isOwn = call && new RegExp(`\\bdef\\s+${call[1] ?? call[0]}`).test(text);
    if (!call || isOwn || script.test(text)) continue;
    app.templateLine({ line: "scripts of the pods", side: "ios", at: source.place(call.index) });
    return;
  }
}
