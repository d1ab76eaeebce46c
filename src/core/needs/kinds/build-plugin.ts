import { hasOwnPlugins } from "../../derive/own-plugins.js";
import { mainText, textIn } from "../../model/sheet.js";
import type { WireResult, NeedOnSide } from "../context.js";
import type { NeedDefinition } from "../definition.js";
import { scalar, type DraftedNeed, type DraftSubject } from "../drafting.js";
import { TEXT, WORDS, optional, table } from "../form.js";
import { reason } from "../../model/reason.js";

export const buildPlugin: NeedDefinition = {
  title: "build plugin",
  side: "android",
  main: "id",
  // `classpath` is the `group:artifact` that brings the plugin.
  form: table({ id: WORDS, classpath: optional(TEXT) }, { short: TEXT }),
  rules: ["source/build-plugin"],
  draft,
  check,
};

function check({ app, need, side }: NeedOnSide): WireResult {
  const id = mainText(need.value, "id");
  const classpath = textIn(need.value, "classpath");
  if (side !== "android" || !app.android) return { state: "unneeded", wanted: id };
  const { build } = app.android;
  const named = app.buildPlugins.filter((plugin) => plugin.id === id);
  const applied = named.filter((plugin) => plugin.applied);
  const [conditional] = applied;
  if (applied.some((plugin) => !plugin.conditional))
    return { state: "connected", wanted: id, places: applied.map(({ at: place }) => place) };
  if (conditional) return { state: "unknown", wanted: id, why: reason("plugin-applied-sometimes"), places: [conditional.at] };
  const onPath = [build.settings, build.root, ...build.modules.values()].flatMap((module) =>
    module.dependencies.filter(
      (dependency) =>
        dependency.kind === "classpath" &&
        (`${dependency.group}:${dependency.artifact}` === classpath ||
          dependency.group === id ||
          `${dependency.group}:${dependency.artifact}` === `${id}:${id}.gradle.plugin`),
    ),
  );
  const home = app.android.module.buildFile ?? "the app's build script";
  const there = [...named.map(({ at: place }) => place), ...onPath.flatMap(({ places }) => places.slice(0, 1))];
  if (there.length > 0)
    return { state: "loose", wanted: id, found: "on the class path but not applied", fix: `apply ${id} in ${home}`, places: there };
  if (hasOwnPlugins(build, app.android.module)) return { state: "unknown", wanted: id, why: reason("convention-plugins") };
  return { state: "missing", wanted: id, fix: `add the build plugin ${id} and apply it in ${home}`, places: [] };
}

function draft({ app, mentions }: DraftSubject): DraftedNeed[] {
  if (!app.android) return [];
  const plugins = new Map(app.buildPlugins.filter(({ id, applied }) => applied && mentions(id)).map(({ id, at }) => [id, at]));
  return [...plugins].map(([id, at]) => ({ on: "android", value: scalar(id), from: at }));
}
