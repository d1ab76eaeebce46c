import { NATIVE } from "../../derive/presence.js";
import { inWords } from "../../model/suggest.js";
import type { NeedOnSide, WireResult } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { words } from "../form.js";
import { reason } from "../../model/reason.js";

export const privacyManifest: NeedDefinition = {
  title: "privacy manifest",
  side: "ios",
  form: words("own"),
  rules: ["permit/manifest-missing"],
  what: () => "privacy manifest in its own files",
  check,
};

/**
 * Asked of the SDK's native packages; of what wraps them in shared code only where there are none. Connected where each carries one, missing where
 * none does and all of them are here.
 */
function check({ app, presence: { packages }, sheet, side }: NeedOnSide): WireResult {
  const wanted = "PrivacyInfo.xcprivacy";
  if (side !== "ios") return { state: "unneeded", wanted };
  const wrappers = new Set(packages.map(({ name }) => name));
  const natives = [
    ...packages.filter(({ ecosystem, broughtBy }) => NATIVE.has(ecosystem) && !broughtBy),
    ...app.packageNeeds.filter((need) => need.side === "ios" && need.ecosystem === "cocoapods" && wrappers.has(need.by)),
  ];
  const names = [...new Set((natives.length > 0 ? natives : packages).map(({ name }) => name))];
  const parts = names.map((name) => {
    const by = app.iosPackagesRead.find((one) => name === one.name || name.startsWith(`${one.name}/`))?.by;
    const files = app.privacyManifests.filter((manifest) => manifest.taken && by !== undefined && manifest.by === by);
    return { name, isHere: by !== undefined, isOpen: by !== undefined && app.privacyOpen.includes(by), files };
  });
  const without = parts.filter(({ files }) => files.length === 0);
  const found = parts.flatMap(({ files }) => files.map(({ file }) => file));
  if (without.length === 0)
    return { state: "connected", wanted, found: found.join(", "), places: found.map((file) => ({ file, line: 1, column: 1 })) };
  const away = without.filter(({ isHere }) => !isHere).map(({ name }) => name);
  if (away.length > 0) return { state: "unknown", wanted, why: reason("package-files-elsewhere", { packages: inWords(away) }) };
  const open = without.filter(({ isOpen }) => isOpen).map(({ name }) => name);
  if (open.length > 0) return { state: "unknown", wanted, why: reason("package-resources-open", { packages: inWords(open) }) };
  if (found.length > 0)
    return {
      state: "unknown",
      wanted,
      why: reason("manifest-in-some-only", { there: found.join(", "), without: inWords(without.map(({ name }) => name)) }),
    };
  return {
    state: "missing",
    wanted,
    fix: `take a version of ${sheet.sdk} that ships a PrivacyInfo.xcprivacy`,
    places: packages.flatMap(({ places }) => places.slice(0, 1)),
  };
}
