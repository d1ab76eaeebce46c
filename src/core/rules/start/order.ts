import type { AutoStart } from "../../model/code.js";
import type { RawFinding } from "../../model/finding.js";
import { findingsFromFaults } from "../from-faults.js";
import { defineRule } from "../rule.js";
import { brinelogSheet, startExample } from "./examples.js";

export const startOrder = defineRule({
  name: "start/order",
  severity: "error",
  title: "SDKs start in the wrong order",
  looksAt:
    "The order in which start calls run from the app's entry points, against before and after of the sheets. Statements of one closure have an order among each other; what is handed to a queue, a task or a later moment runs after what stands beside it; a lazy value runs where it is first read. Also providers and initializers that run before the application's own code, and circles among the initializers' dependencies.",
  why: "What a reporter of crashes should see happens before it watches; an initializer in a circle ends the app as it starts.",
  advice: "Change the order of the calls, or break the circle.",
  examples: {
    reported: startExample({
      onCreate: "    Brinelog.start(this)\n    Quaymap.start(this)\n",
      start: ", before: [brinelog]",
      files: brinelogSheet,
    }),
    silent: startExample({
      onCreate: "    Quaymap.start(this)\n    Brinelog.start(this)\n",
      start: ", before: [brinelog]",
      files: brinelogSheet,
    }),
  },
  check({ app, wires }) {
    return [...findingsFromFaults(wires, "order"), ...circles(app.code?.autoStarts ?? [])];
  },
});

/** Source: developer.android.com, "App Startup": a circle among dependencies() ends the start with an error. */
function circles(starts: readonly AutoStart[]): RawFinding[] {
  const simple = (name: string): string => name.split(/[.$]/).at(-1) as string;
  const byName = new Map(
    starts.filter(({ kind, removed }) => kind === "initializer" && !removed).map((entry) => [simple(entry.name), entry]),
  );
  const told = new Set<string>();
  const findings: RawFinding[] = [];
  for (const name of byName.keys()) walk(name, []);
  return findings;

  function walk(name: string, path: readonly string[]): void {
    const from = path.indexOf(name);
    if (from !== -1) {
      const circle = path.slice(from);
      const key = [...circle].sort().join(" ");
      if (told.has(key)) return;
      told.add(key);
      findings.push({
        side: "android",
        message: `the initializers ${circle.join(", ")} need each other: ${[...circle, name].join(" → ")}`,
        fix: "take one of the dependencies out",
        places: circle.flatMap(
          (part, index) =>
            byName
              .get(part)
              ?.needs.filter((need) => simple(need.name) === (circle[index + 1] ?? name))
              .map(({ at }) => at) ?? [],
        ),
        subject: key,
      });
      return;
    }
    if (path.length > 40) return;
    for (const need of byName.get(name)?.needs ?? []) if (byName.has(simple(need.name))) walk(simple(need.name), [...path, name]);
  }
}
