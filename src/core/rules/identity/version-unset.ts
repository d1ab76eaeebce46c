import { unsaid } from "../../derive/android-plugin.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const app = (more: string) =>
  androidExample(`apply plugin: 'com.android.application'\n${androidBlock(`minSdk 24\n    targetSdk 36\n    ${more}versionName "4.7"`)}`);

export const versionUnset = defineRule({
  name: "identity/version-unset",
  severity: "warning",
  title: "An app without the number that the store tells its versions apart by",
  looksAt: "The versionCode of an Android app that states a versionName, in its build script, the scripts around it and its manifest.",
  silentFor: "iOS, where a property list without its version is told as project/component-broken; builds in which a plugin may state it.",
  why: "The store takes an upload only with a number that is higher than the last one, and an update is not installed without it.",
  advice: "State versionCode in defaultConfig, or take it from where the release is made.",
  examples: { reported: app(""), silent: app("versionCode 112\n    ") },
  check({ app: model }) {
    const applied = unsaid(model, /versionCode/i);
    // One that states neither is no app for a store, or has both from elsewhere.
    const isNamed = model.android?.module.settings.some(({ name }) => /^(set)?versionName$/i.test(name));
    if (
      !model.android ||
      !isNamed ||
      !applied ||
      model.entries.some(({ kind, name }) => kind === "manifestAttribute" && name === "versionCode")
    )
      return [];
    return [
      {
        side: "android",
        message: `${model.android.module.path} states no versionCode: the store does not take the app`,
        fix: `add versionCode to defaultConfig in ${model.android.module.buildFile ?? model.android.module.folder}`,
        places: [applied.at],
        subject: "versionCode",
      },
    ];
  },
});
