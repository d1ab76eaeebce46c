import { ofRelease, type App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { misspelling } from "../../model/suggest.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample, iosExample } from "../examples.js";
import { defineRule } from "../rule.js";

const android = Object.fromEntries(Object.entries(androidExample(androidBlock())).map(([file, text]) => [`android/${file}`, text]));

export const idsDiffer = defineRule({
  name: "identity/ids-differ",
  severity: "note",
  title: "The two sides have different ids",
  looksAt:
    "The application id and the bundle id of the release variants, and of flavours that have configurations of the same name; ids that differ in a letter; a bundle id that the property list writes out, against that of the build.",
  silentFor: "Apps of one side only, but for a bundle id beside that of the build.",
  why: "Consoles, links and push services are set up per id. Different ids are fine when intended, and a source of swapped keys when not.",
  advice: "Give both sides the same id, or say in enredo.yaml that they differ on purpose (mayDiffer: { ids: true }).",
  examples: {
    reported: { ...android, ...iosExample({ id: "example.maresia.skipper" }, {}, "ios/") },
    silent: { ...android, ...iosExample({}, {}, "ios/") },
  },
  check({ app, settings }) {
    const inList = apartFromBuild(app);
    const apart = apartOnSides(app, settings.idsMayDiffer === true);
    return [...inList, ...(inList.length > 0 ? [] : apart)];
  },
});

/** Source: developer.apple.com, "CFBundleIdentifier" (Xcode takes it from PRODUCT_BUNDLE_IDENTIFIER, and warns of another). */
function apartFromBuild({ ios }: App): RawFinding[] {
  return (ios?.idsApart ?? []).map(({ written, setting }) => ({
    side: "ios",
    severity: "warning",
    message: `the property list has the bundle id ${written.text}, and the build ${setting.text}`,
    fix: "write $(PRODUCT_BUNDLE_IDENTIFIER) in the property list",
    places: [written.place, setting.place],
    subject: "ids of the property list",
  }));
}

/** Whether two ids differ within a word, and in letters alone. */
function apartInLetter(a: string, b: string): boolean {
  const at = [...a].findIndex((letter, index) => letter !== b[index]);
  const [one, other] = [a.slice(at), b.slice(at)];
  const word = `${/[^.]*$/.exec(a.slice(0, at))?.[0] ?? ""}${/^[^.]*/.exec(one)?.[0] ?? ""}`;
  return /^[a-z]/.test(one) && /^[a-z]/.test(other) && one.length > 1 && other.length > 1 && word.length > 5;
}

function apartOnSides(app: App, mayDiffer: boolean): RawFinding[] {
  if (mayDiffer || !app.android || !app.ios) return [];
  const androidId = ofRelease(app.android.ids);
  const iosId = ofRelease(app.ios.ids);
  const left = textOf(androidId?.value);
  const right = textOf(iosId?.value);
  if (left === undefined || right === undefined || !androidId || !iosId) return [];
  // Android ids take no hyphens, bundle ids no underscores: that difference is forced.
  const plain = (id: string): string => id.toLowerCase().replace(/[-_]/g, "");
  const iosIds = app.ios.ids.flatMap(({ value }) => textOf(value) ?? []);
  const flavored = app.android.ids.flatMap(({ value, variant }) => {
    const id = textOf(value);
    const same = (app.ios?.ids ?? []).filter(
      (other) =>
        variant !== undefined &&
        /[-_ .]/.test(other.variant?.at(-variant.length - 1) ?? "") &&
        other.variant?.toLowerCase().endsWith(variant.toLowerCase()) === true,
    );
    const [first] = same;
    const theirs = textOf(first?.value);
    if (id === undefined || !first || theirs === undefined || iosIds.some((other) => plain(other) === plain(id))) return [];
    return [
      {
        message: `${variant ?? ""} has different ids on the sides: ${id} on Android, ${theirs} on iOS`,
        fix: "give both the same id, or state in enredo.yaml that this is intended (mayDiffer: { ids: true })",
        places: [value.place, first.value.place],
        subject: `ids ${variant ?? ""}`,
      },
    ];
  });
  if (iosIds.some((id) => plain(id) === plain(left))) return flavored;
  // One letter of a word is a slip, a number or an ending is not.
  const slip = misspelling(plain(left), [plain(right)]) !== undefined && apartInLetter(plain(left), plain(right));
  return [
    {
      ...(slip ? { severity: "warning" as const } : {}),
      message: `the sides have different ids: ${left} on Android, ${right} on iOS`,
      fix: "give both the same id, or state in enredo.yaml that this is intended (mayDiffer: { ids: true })",
      places: [androidId.value.place, iosId.value.place],
      subject: "ids",
    },
  ];
}
