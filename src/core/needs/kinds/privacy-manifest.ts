import { inWords } from "../../model/suggest.js";
import type { NeedOnSide, WireResult } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { words } from "../form.js";

export const privacyManifest: NeedDefinition = {
  title: "privacy manifest",
  side: "ios",
  form: words("own"),
  rules: ["permit/manifest-missing"],
  what: () => "privacy manifest in its own files",
  check,
};

/** Missing only where everything lies here that the SDK brings. */
function check({ app, presence: { packages }, sheet, side }: NeedOnSide): WireResult {
  const wanted = "PrivacyInfo.xcprivacy";
  if (side !== "ios") return { state: "unneeded", wanted };
  const read = app.iosPackagesRead.filter(({ name }) => packages.some((one) => one.name === name || one.name.startsWith(`${name}/`)));
  const readers = read.map(({ by }) => by);
  const found = app.privacyManifests.filter(({ by, taken }) => taken && by !== undefined && readers.includes(by));
  if (found.length > 0)
    return {
      state: "connected",
      wanted,
      found: found.map(({ file }) => file).join(", "),
      places: found.map(({ file }) => ({ file, line: 1, column: 1 })),
    };
  const unread = [
    ...packages.filter(({ name }) => !read.some((one) => name === one.name || name.startsWith(`${one.name}/`))),
    // What its native half asks for may be what carries it.
    ...app.packageNeeds.filter(
      (need) => need.side === "ios" && need.ecosystem === "cocoapods" && readers.includes(need.by) && !readers.includes(need.name),
    ),
  ].map(({ name }) => name);
  if (unread.length > 0) return { state: "unknown", wanted, why: `the files of ${inWords([...new Set(unread)])} are not on this machine` };
  const open = app.privacyOpen.filter((name) => readers.includes(name));
  if (open.length > 0) return { state: "unknown", wanted, why: `which resources ${inWords(open)} brings could not be worked out` };
  return {
    state: "missing",
    wanted,
    fix: `take a version of ${sheet.sdk} that ships a PrivacyInfo.xcprivacy`,
    places: packages.flatMap(({ places }) => places.slice(0, 1)),
  };
}
