import { existsSync } from "node:fs";
import path from "node:path";
import { createInterface } from "node:readline/promises";
import { Args, Flags } from "@oclif/core";
import { COMMON_FLAGS, EnredoCommand, UsageProblem } from "../base.js";
import { core } from "../core.js";

const ECOSYSTEMS = ["maven", "cocoapods", "swiftpm", "npm"] as const;
const HINTS: Record<(typeof ECOSYSTEMS)[number], string> = {
  maven: "group:artifact on Android",
  cocoapods: "name of the pod",
  swiftpm: "address of the Swift package",
  npm: "name of the npm package",
};

export default class SheetNewCommand extends EnredoCommand {
  static override summary = "Write a new sheet: asks for what it needs, or takes it as options";
  static override examples = [
    "<%= config.bin %> sheet new",
    "<%= config.bin %> sheet new quaymap --maven example.quaymap:quaymap-android --cocoapods QuaymapSDK",
  ];
  static override args = { sdk: Args.string({ description: "short id of the SDK, in lower case" }) };
  static override flags = {
    title: Flags.string({ description: "name of the SDK as people write it" }),
    docs: Flags.string({ description: "address of the vendor's instructions" }),
    maven: Flags.string({ description: HINTS.maven }),
    cocoapods: Flags.string({ description: HINTS.cocoapods }),
    swiftpm: Flags.string({ description: HINTS.swiftpm }),
    npm: Flags.string({ description: HINTS.npm }),
    output: Flags.string({ description: "folder for the sheet", default: "enredo/sheets", helpValue: "DIR" }),
    verbose: COMMON_FLAGS.verbose,
  };

  async run(): Promise<void> {
    const { args, flags } = await this.parse(SheetNewCommand);
    const given: Record<string, string | undefined> = { title: flags.title, docs: flags.docs, sdk: args.sdk };
    for (const key of ECOSYSTEMS) given[key] = flags[key];
    const asks = process.stdin.isTTY && args.sdk === undefined;
    if (!asks && args.sdk === undefined)
      throw new UsageProblem("give the SDK's short id: enredo sheet new quaymap --maven example.quaymap:quaymap-android");
    if (asks) {
      const reader = createInterface({ input: process.stdin, output: process.stderr });
      given.sdk = (await reader.question("Short id of the SDK, in lower case: ")).trim();
      given.title ??= (await reader.question("Its name as people write it: ")).trim();
      for (const key of ECOSYSTEMS) given[key] ??= (await reader.question(`${HINTS[key]} (empty if it does not come that way): `)).trim();
      reader.close();
    }
    const sdk = given.sdk ?? "";
    if (!/^[a-z0-9][a-z0-9._-]*$/.test(sdk))
      throw new UsageProblem(`"${sdk}" is not an id: use lower case letters, digits, dots and hyphens, such as quaymap`);
    const packages = Object.fromEntries(ECOSYSTEMS.flatMap((key) => (given[key] ? [[key, given[key]]] : [])));
    if (Object.keys(packages).length === 0) throw new UsageProblem("say how the SDK arrives: --maven, --cocoapods, --swiftpm or --npm");
    const file = path.join(flags.output, `${sdk}.sdk.yaml`);
    if (existsSync(file)) throw new UsageProblem(`${file} already exists`);
    const { yamlOf } = await core();
    const sheet = yamlOf({
      sdk,
      title: given.title || sdk.charAt(0).toUpperCase() + sdk.slice(1),
      ...(given.docs ? { docs: given.docs } : {}),
      packages,
    });
    const on = packages.maven !== undefined || packages.npm !== undefined ? "android" : "ios";
    const example = on === "android" ? "    minSdk: 24\n" : '    iosTarget: "15.0"\n';
    this.output(
      `${sheet}needs: # one entry each, in the vendor's order; see the sheet reference for all kinds\n  # - on: ${on}\n  # ${example.trimEnd()}\n  #     why: say why the SDK needs it\n  []\n`,
      file,
    );
    this.output(`${file} was written. Next: add its needs, then enredo sheet check and enredo trace ${sdk}.\n`);
  }
}
