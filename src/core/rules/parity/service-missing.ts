import type { BridgeFact } from "../../model/code.js";
import type { RawFinding } from "../../model/finding.js";
import { linkingExample } from "../native/examples.js";
import { defineRule } from "../rule.js";

const module =
  'package example.maresia.pilot\n\nclass TideModule(context: ReactApplicationContext) : ReactContextBaseJavaModule(context) {\n  override fun getName() = "Tide"\n}\n';
const app = (swift: string) => ({
  ...linkingExample(),
  "App.js": 'import { NativeModules } from "react-native";\n\nexport const level = () => NativeModules.Tide.level();\n',
  "android/app/src/main/java/example/maresia/pilot/TideModule.kt": module,
  "ios/Pilot/Tide.m": swift,
});

export const serviceMissing = defineRule({
  name: "parity/service-missing",
  severity: "error",
  title: "Shared code uses a service that one side does not have",
  looksAt:
    "Native modules with their functions and events, view managers with their properties, channels, platform views, generated interfaces, plugins and services by interface that the shared code asks for by name, and declarations that shared Kotlin code expects, against what the app's own native code of each side offers under that name. A name that neither side offers comes from a package. Code that checks the platform first is left alone.",
  silentFor: "Native apps, but for what the Kotlin code that both phones share expects of each.",
  why: "On that side the call fails as soon as it is made.",
  advice: "Register the service on the other side too, or check the platform first.",
  examples: {
    reported: app("#import <React/RCTBridgeModule.h>\n\n@implementation Depth\nRCT_EXPORT_MODULE(Depth)\n@end\n"),
    silent: app("#import <React/RCTBridgeModule.h>\n\n@implementation Tide\nRCT_EXPORT_MODULE(Tide)\n@end\n"),
  },
  // eslint-disable-next-line complexity -- one question after the other for each service that is asked for
  check({ app: model }) {
    if (!model.code) return [];
    const { bridges } = model.code;
    const findings: RawFinding[] = [];
    const told = new Set<string>();
    for (const asked of bridges) {
      if (asked.role !== "asked" || told.has(`${asked.kind} ${asked.name}`)) continue;
      if (asked.near !== undefined) {
        told.add(`${asked.kind} ${asked.name}`);
        if (asked.side !== "shared") {
          findings.push({
            side: asked.side,
            message: `the ${asked.side === "ios" ? "iOS" : "Android"} code uses the ${asked.kind} ${asked.name}, but the shared code has ${asked.near === "" ? "none of this name" : asked.near}`,
            fix: "use one name on both sides",
            places: [asked.at],
            subject: `${asked.kind} ${asked.name} ${asked.side}`,
          });
          continue;
        }
        findings.push({
          side: "shared",
          message: `the shared code uses the ${asked.kind} ${asked.name}, but neither side offers it${asked.near === "" ? "" : `; they offer ${asked.near}`}`,
          fix:
            asked.advice ??
            (asked.near === "" ? "offer it on both sides, or remove the call" : `use ${asked.near}, or offer it under this name`),
          places: [asked.at],
          subject: `${asked.kind} ${asked.name}`,
        });
        continue;
      }
      // What one side alone offers, of an app of one side, is all there is.
      if (!model.android || !model.ios) continue;
      const offers = bridges.filter((other) => other.role === "offered" && sameName(asked, other));
      const sides = new Set(offers.map(({ side }) => side));
      const [offer] = offers;
      if (!offer || sides.has("shared") || sides.size !== 1) continue;
      const missing = sides.has("android") ? "ios" : "android";
      // Something is offered there under a name that cannot be made out.
      if (bridges.some(({ kind, role, name, side }) => kind === asked.kind && role === "offered" && name === "" && side === missing))
        continue;
      // Without any native source of that side nothing is known of it.
      if (!model.code.files.some(({ side, searched }) => side === missing && searched > 0)) continue;
      const all = bridges.filter((other) => other.role === "asked" && other.kind === asked.kind && other.name === asked.name);
      // Another phone's widget asks for nothing here.
      if (all.every(({ on }) => on !== undefined && on !== missing)) continue;
      if (all.some(({ guards }) => guards.some(({ kind }) => kind !== "debug" && kind !== "release"))) continue;
      told.add(`${asked.kind} ${asked.name}`);
      const title = missing === "ios" ? "iOS" : "Android";
      findings.push({
        side: missing,
        message: `the shared code uses the ${asked.kind} ${asked.name}, but only ${missing === "ios" ? "Android" : "iOS"} offers it`,
        fix: asked.advice ?? `offer ${asked.name} on ${title}, or check the platform first`,
        places: [asked.at, offer.at],
        subject: `${asked.kind} ${asked.name} ${missing}`,
      });
    }
    return findings;
  },
});

/** A view is asked for with or without the ending of its manager. */
function sameName(asked: BridgeFact, offered: BridgeFact): boolean {
  if (asked.kind === "native module" || asked.kind === "view manager") {
    const plain = (name: string): string => name.replace(/^RCT/, "").replace(/Manager$/, "");
    return (
      (offered.kind === "native module" || offered.kind === "view manager") &&
      (asked.name === offered.name || plain(asked.name) === plain(offered.name))
    );
  }
  return asked.kind === offered.kind && asked.name === offered.name;
}
