import { RUNTIME_PERMISSIONS } from "../../knowledge/android-permissions.js";
import type { Entry } from "../../model/facts.js";
import { mainText, textIn, type NeedValue } from "../../model/sheet.js";
import { type WireResult, type NeedOnSide, entriesNamed, onlyInSomeVariants, homeOf, placesOf, isUnseen } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { entriesFor, scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import { TEXT, VERSION, WORDS, optional, table } from "../form.js";
import { reason } from "../../model/reason.js";

export const permission: NeedDefinition = {
  title: "permission",
  side: "android",
  form: table({ name: WORDS, maxSdkVersion: optional(VERSION), flags: optional(TEXT) }, { short: TEXT }),
  main: "name",
  home: { android: "manifest" },
  rules: ["permit/permission-missing"],
  draft,
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const name = mainText(need.value, "name");
  if (side !== "android") return { state: "unneeded", wanted: name };
  const { here, removed } = entriesNamed(app, side, "permission", name);
  const [taken] = removed;
  if (taken) return { state: "loose", wanted: name, found: "removed by a merge marker", fix: "remove the marker", places: [taken.at] };
  const partly = onlyInSomeVariants(app, side, here, name, "move it to the main manifest");
  if (partly) return partly;
  const [first] = here;
  const apart = first && attributesApart(here, need.value, name);
  if (apart) return apart;
  if (first)
    return {
      state: "connected",
      wanted: name,
      found: first.by === undefined ? "in the manifest" : `comes with ${first.by}`,
      places: placesOf(here),
    };
  if (app.editorPermissions.includes(name)) return { state: "unknown", wanted: name, why: reason("editor-adds-it") };
  if (isUnseen(app, "android")) return { state: "unknown", wanted: name, why: reason("manifest-missing") };
  const [manifest] = app.manifests;
  return {
    state: "missing",
    wanted: name,
    fix: `add <uses-permission android:name="${name}" /> to ${homeOf(app, side, "manifest")}`,
    quickFix: manifest === undefined ? undefined : [{ do: "permission", file: manifest, name }],
  };
}

/** What the app's own manifest says of a permission, where that is less than the SDK needs. */
function attributesApart(here: readonly Entry[], value: NeedValue, wanted: string): WireResult | undefined {
  const own = here.filter(({ by }) => by === undefined);
  const [first] = own;
  if (!first || own.length < here.length) return undefined;
  const until = textIn(value, "maxSdkVersion");
  const flags = textIn(value, "flags");
  const places = placesOf([first]);
  const limit = own.every(({ limits }) => limits?.highest !== undefined) ? first.limits?.highest : undefined;
  // A sheet that states no level says nothing of limits: some permissions are rightly stated for old systems alone.
  if (limit !== undefined && until !== undefined && Number(limit) < Number(until))
    return {
      state: "loose",
      wanted: `${wanted} up to level ${until}`,
      found: `there up to level ${limit} only`,
      fix: `set android:maxSdkVersion to ${until}`,
      places,
    };
  if (flags !== undefined && !own.some((entry) => entry.flags?.split("|").includes(flags)))
    return {
      state: "loose",
      wanted: `${wanted} with ${flags}`,
      found: `there without the flag ${flags}`,
      fix: `add android:usesPermissionFlags="${flags}"`,
      places,
    };
  return undefined;
}

/** Those that a user is asked for: which SDK uses them no file says. */
function draft(subject: DraftSubject): DraftedNeed[] {
  return entriesFor(subject, "permission")
    .filter(({ by, name }) => by === undefined && RUNTIME_PERMISSIONS.has(name))
    .map(({ name, at }) => ({ on: "android", value: scalar(name), from: at, unsure: `keep it if ${subject.sdk} uses it` }));
}
