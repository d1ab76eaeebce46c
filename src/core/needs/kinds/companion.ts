import { versionOf } from "../../derive/presence.js";
import { mainText, textIn } from "../../model/sheet.js";
import { compareIn } from "../../versions/ecosystem.js";
import type { WireResult, NeedOnSide } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { TEXT, WORDS, matching, optional, table } from "../form.js";
import { reason } from "../../model/reason.js";

export const companion: NeedDefinition = {
  title: "companion",
  main: "package",
  form: table(
    { package: WORDS, atLeast: optional(matching(/^\d+(\.\d+)*/, 'atLeast must be a version such as "2.1.0"')) },
    { short: TEXT },
  ),
  home: { ios: "pods" },
  rules: ["version/companion-missing"],
  what: ({ value }) => ["companion", mainText(value, "package"), textIn(value, "atLeast")].filter((text) => text !== undefined).join(" "),
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const name = mainText(need.value, "package");
  const least = textIn(need.value, "atLeast");
  const wanted = least === undefined ? name : `${name} ${least} or newer`;
  const here = app.dependencies.filter(
    (dependency) =>
      !dependency.test &&
      (dependency.name === name || dependency.sdk === name || dependency.name.startsWith(`${name}/`)) &&
      (dependency.side === side || dependency.side === "shared" || side === "shared"),
  );
  const brought = app.packageNeeds.find((fact) => fact.name === name && (fact.side === side || side === "shared"));
  const [first] = here;
  if (!first && brought) return { state: "connected", wanted, found: `comes with ${brought.by}`, places: [brought.at] };
  if (!first) {
    const lock = [...app.lockedNames].find((locked) => locked.slice(locked.indexOf(" ") + 1) === name);
    if (lock !== undefined) return { state: "connected", wanted, found: "comes with another package, as the lock file says", places: [] };
    const other = side === "ios" ? "android" : side === "android" ? "ios" : undefined;
    // `group:artifact` is no name on iOS; what the other side has under this name is a package of that side.
    if (
      (side === "ios" && /^[\w.-]+:[\w.-]+$/.test(name)) ||
      app.dependencies.some((dependency) => dependency.name === name && dependency.side === other)
    )
      return { state: "unneeded", wanted, why: reason("of-other-side") };
    return { state: "missing", wanted, fix: `add ${wanted}` };
  }
  const version = here.map(versionOf).find((text) => text !== undefined);
  const places = first.places.slice(0, 1);
  if (least === undefined) return { state: "connected", wanted, found: version ?? "there", places };
  if (version === undefined) return { state: "unknown", wanted, why: reason("version-missing"), places };
  if (compareIn(first.ecosystem, version, least) >= 0) return { state: "connected", wanted, found: version, places };
  return {
    state: "loose",
    wanted,
    found: version,
    fix: `raise ${name} to ${least} or newer`,
    places: [first.lockedAt ?? first.declared?.place ?? first.places[0]].filter((place) => place !== undefined),
  };
}
