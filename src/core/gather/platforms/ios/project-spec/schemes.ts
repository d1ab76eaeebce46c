import { at, entriesOf, placeOf, scalarOf, textAt, type Data } from "../../../../syntax/data.js";
import type { SchemeFacts } from "../xcode-project.js";
import { oneOrMore, type ProjectSpec } from "./merge.js";

/** What a scheme does by a configuration, by what the spec calls it. Source: XcodeGen, "ProjectSpec" (scheme). */
const ACTIONS = [
  ["run", "LaunchAction"],
  ["test", "TestAction"],
  ["profile", "ProfileAction"],
  ["analyze", "AnalyzeAction"],
  ["archive", "ArchiveAction"],
] as const;

/** The schemes of a spec: those that it lists, and those that targets ask for. */
export function schemesOf(
  spec: ProjectSpec,
  targets: readonly { name: string; data: Data }[],
  kinds: readonly { name: string; type: string }[],
): SchemeFacts[] {
  const names = targets.map(({ name }) => name);
  const listed = entriesOf(at(spec.root, "schemes")).map(([name, { value }]): SchemeFacts => {
    const data = spec.withTemplates(name, value, "schemeTemplates");
    const built = entriesOf(at(data, "build", "targets"));
    for (const [target, { value: of, start }] of built)
      if (!/[/$]/.test(target) && !names.some((own) => own === target || own.startsWith(`${target}_`)))
        spec.lost("target", scalarOf(of.source, start, target), names);
    return {
      name,
      targets: built.map(([target]) => target),
      actions: ACTIONS.flatMap(([key, action]) => {
        const stated = at(data, key, "config");
        const configuration = textAt(stated);
        return stated && configuration !== undefined ? [{ action, configuration, at: placeOf(stated) }] : [];
      }),
    };
  });
  return [...listed, ...targets.flatMap(({ name, data }) => variantsOf(spec, name, at(data, "scheme"), kinds))];
}

/** Schemes that a target asks for, one a variant: a debug and a release configuration have its name in theirs. */
function variantsOf(
  spec: ProjectSpec,
  target: string,
  scheme: Data | undefined,
  kinds: readonly { name: string; type: string }[],
): SchemeFacts[] {
  return oneOrMore(at(scheme, "configVariants")).flatMap((item): SchemeFacts[] => {
    const variant = textAt(item) ?? "";
    const of = (type: string): string | undefined =>
      kinds.find((kind) => kind.type === type && kind.name.toLowerCase().includes(variant.toLowerCase()))?.name;
    const lacking = ["debug", "release"].filter((type) => of(type) === undefined);
    if (lacking.length > 0)
      spec.lost(
        "configuration",
        scalarOf(item.source, item.start, `${variant} ${lacking[0] ?? ""}`),
        kinds.map(({ name }) => name),
      );
    const archived = of("release");
    return archived === undefined
      ? []
      : [
          {
            name: `${target} ${variant}`,
            targets: [target],
            actions: [{ action: "ArchiveAction", configuration: archived, at: placeOf(item) }],
          },
        ];
  });
}
