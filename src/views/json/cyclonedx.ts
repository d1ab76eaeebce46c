import { Enums, Models, Serialize, Spec } from "@cyclonedx/cyclonedx-library";
import type { Survey } from "../../core/model/app.js";
import type { Dependency } from "../../core/model/facts.js";
import { textOf } from "../../core/model/value.js";
import { purlOf } from "./survey.js";

/**
 * A CycloneDX 1.6 bill of materials as JSON: the apps, and the third-party packages of each side with their package URLs. Nothing
 * in it depends on when it was made.
 */
export function cycloneDx(survey: Survey, version: string): string {
  const bom = new Models.Bom();
  bom.metadata.tools.components.add(new Models.Component(Enums.ComponentType.Application, "enredo", { version }));
  const packages = new Map<string, Models.Component>();
  for (const app of survey.apps) {
    const own = new Models.Component(Enums.ComponentType.Application, app.name, { bomRef: `app:${app.path}#${app.name}` });
    bom.components.add(own);
    for (const dependency of app.dependencies) {
      if (dependency.platform || dependency.test) continue;
      const component = componentOf(dependency, packages);
      component.properties.add(new Models.Property("enredo:side", dependency.side));
      bom.components.add(component);
      own.dependencies.add(component.bomRef);
    }
  }
  return `${new Serialize.JsonSerializer(new Serialize.JSON.Normalize.Factory(Spec.Spec1dot6)).serialize(bom, { sortLists: true, space: 2 })}\n`;
}

function componentOf(dependency: Dependency, known: Map<string, Models.Component>): Models.Component {
  const purl = purlOf(dependency);
  const declared = textOf(dependency.declared);
  const version = dependency.locked ?? declared;
  const ref = purl ?? `${dependency.ecosystem}:${dependency.name}${version === undefined ? "" : `@${version}`}`;
  const found = known.get(ref);
  if (found) return found;
  const parts = /^(.*)[:/]([^:/]+)$/.exec(dependency.name);
  const grouped = (dependency.ecosystem === "maven" || dependency.name.startsWith("@")) && parts;
  const component = new Models.Component(Enums.ComponentType.Library, grouped ? (parts[2] as string) : dependency.name, {
    bomRef: ref,
    version,
    ...(grouped ? { group: parts[1] } : {}),
    ...(purl === null ? {} : { purl }),
  });
  component.properties.add(new Models.Property("enredo:sdk", dependency.sdk));
  known.set(ref, component);
  return component;
}
