import { isForDevelopment } from "../../model/app.js";
import { PAGE_SIZE } from "../../knowledge/store-floors.js";
import { possibleTexts } from "../../model/value.js";
import { compareLevels, isLevel } from "../../versions/level.js";
import { androidBlock, androidExample } from "../examples.js";
import { byBringer, someOf } from "./bringers.js";
import { defineRule } from "../rule.js";

const shared = (alignment: number): string => {
  // The head of a 64-bit library with one loaded part.
  const head = Buffer.alloc(120);
  head.write("7f454c460201", 0, "hex");
  head.writeUInt8(64, 0x20);
  head.writeUInt8(56, 0x36);
  head.writeUInt8(1, 0x38);
  head.writeUInt8(1, 64);
  head.writeUInt32LE(alignment, 64 + 48);
  return head.toString("latin1");
};
const library = "app/src/main/jniLibs/arm64-v8a/libtidewire.so";

export const pageSize = defineRule({
  name: "native/page-size",
  severity: "warning",
  title: "A native library does not load on devices with 16 KB memory pages",
  looksAt:
    "The loaded parts of 64-bit native libraries (of the app's modules, of archives, of packages) where the app's target level is 35 or higher: whether they are aligned to 16 KB. Libraries that only debug builds have do not count.",
  silentFor: "iOS, and packages from registries that are not on this machine.",
  why: "On a device with 16 KB pages the library does not load, and the app crashes on first use. The store has rejected such apps since 2025-11-01.",
  advice: "Use a version of the SDK that is built for 16 KB pages, or link your own library with an alignment of 16384.",
  examples: {
    reported: androidExample(androidBlock(), { [library]: shared(4_096) }),
    silent: androidExample(androidBlock(), { [library]: shared(16_384) }),
  },
  check({ app }) {
    const stated = app.android ? possibleTexts(app.android.effective.targetSdk) : [];
    const targets = stated.length > 0 ? stated : [app.android?.defaultAtLeast?.targetSdk ?? ""];
    if (!targets.every((target) => isLevel(target) && compareLevels(target, PAGE_SIZE.targetSdk) >= 0)) return [];
    const unfit = app.nativeLibraries.filter(
      ({ processor, alignment, variant }) =>
        !isForDevelopment(variant) &&
        alignment !== undefined &&
        alignment < PAGE_SIZE.alignment &&
        (PAGE_SIZE.processors as readonly string[]).includes(processor),
    );
    const bringers = byBringer(unfit);
    return [...bringers].map(([by, libraries]) => {
      const names = libraries.map(({ name }) => name);
      const one = new Set(names).size === 1;
      const alignment = Math.min(...libraries.map((library) => library.alignment ?? 0));
      return {
        side: "android",
        sdk: libraries[0]?.sdk,
        message: `${by === undefined ? "the app's own" : `${by}:`} ${someOf(names)} ${one ? "is" : "are"} aligned to ${alignment / 1024} KB; devices with 16 KB pages cannot load ${one ? "it" : "them"}, and the store has required 16 KB since ${PAGE_SIZE.from}`,
        fix: by === undefined ? "link the library with -Wl,-z,max-page-size=16384" : `use a version of ${by} that is built for 16 KB pages`,
        places: libraries.slice(0, 3).map(({ file }) => ({ file, line: 1, column: 1 })),
        subject: `${by ?? ""} page size`,
      };
    });
  },
});
