import { looksLikeToken } from "../../knowledge/key-shapes.js";
import type { App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { textOf } from "../../model/value.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet(
  'on: android, key: { name: mapKey, shape: "qm_(live|test)_[0-9a-f]{8}", secret: true, in: [ manifest: example.quaymap.KEY, plist: QuaymapKey ], environments: { test: "^qm_test", live: "^qm_live" } }',
);
const metaData = (value: string): string => `    <meta-data android:name="example.quaymap.KEY" android:value="${value}" />\n`;

export const environment = defineRule({
  name: "key/environment",
  severity: "error",
  title: "A test key in a release build",
  looksAt:
    "Keys per build type, flavour and configuration, against the patterns by which a sheet tells test keys from production keys; without a sheet, values like keys that say of themselves that they are for tests, in a variant that is named for production.",
  why: "Real users' data lands in the test project and payments are not taken; or test data spoils the production figures.",
  advice: "Give each variant its own key.",
  examples: {
    reported: { ...quaymapAndroid({ application: metaData("qm_test_01234567") }), ...sheet },
    silent: { ...quaymapAndroid({ application: metaData("qm_live_01234567") }), ...sheet },
  },
  check({ app, wires }) {
    const found = findingsFromWires(wires, { kinds: ["key"], problems: ["environment"] });
    const told = new Set(found.flatMap(({ places }) => places.map(({ file, line }) => `${file}:${line}`)));
    return [...found, ...byName(app).filter(({ places }) => places.every(({ file, line }) => !told.has(`${file}:${line}`)))];
  },
});

const FOR_PRODUCTION = /^(live|prod|production|release|store)$/i;
const FOR_TESTS = /(^|[_-])(test|sandbox)(?=[_-])/i;

/** Values like keys that say what they are for, in the builds that are for the other. */
function byName({ entries }: App): RawFinding[] {
  return entries.flatMap(({ kind, side, name, by, variant, value, at }): RawFinding[] => {
    const text = textOf(value) ?? "";
    if (by !== undefined || variant === undefined || kind === "code" || !FOR_PRODUCTION.test(variant)) return [];
    const word = FOR_TESTS.exec(text)?.[2];
    if (word === undefined || !looksLikeToken(text)) return [];
    return [
      {
        side,
        severity: "warning",
        message: `${name} of ${variant} has a key for tests (${text.slice(0, text.search(FOR_TESTS) + word.length + 2)}…)`,
        fix: `give ${variant} the key for production`,
        places: [at],
        subject: `named ${name} ${variant}`,
      },
    ];
  });
}
