import { RUNTIME_PERMISSIONS } from "../../knowledge/android-permissions.js";
import { quaymapAndroid, quaymapSheet } from "../examples.js";
import { tracedSdks } from "../../needs/index.js";
import { mainText } from "../../model/sheet.js";
import { defineRule } from "../rule.js";

const permission = (name: string): string => `  <uses-permission android:name="android.permission.${name}" />\n`;
const sheet = quaymapSheet("on: android, permission: android.permission.ACCESS_FINE_LOCATION");
const code = { "app/src/main/java/Pilot.kt": "class Pilot\n" };

export const unneeded = defineRule({
  name: "permit/unneeded",
  severity: "note",
  title: "A permission that nothing here asks for",
  looksAt:
    "Permissions that people are asked for on Android, in the app's own manifest, where every SDK of that side has a sheet (so that it is known what they ask for) and no source file names the permission.",
  silentFor: "iOS: a purpose text without use does no harm there; apps of which one SDK has no sheet.",
  why: "Each permission has to be explained in the store and frightens some people away; one that nothing uses was often left behind by an SDK that is gone.",
  advice: "Take the permission out, or add it to the sheet of the SDK that needs it.",
  examples: {
    reported: { ...quaymapAndroid({ manifest: permission("ACCESS_FINE_LOCATION") + permission("READ_CONTACTS") }, code), ...sheet },
    silent: { ...quaymapAndroid({ manifest: permission("ACCESS_FINE_LOCATION") }, code), ...sheet },
  },
  check({ app, sheets }) {
    if (
      !app.android ||
      !app.codeRead.includes("android") ||
      app.sheets.length === 0 ||
      tracedSdks(app).some((sdk) => !app.sheets.includes(sdk))
    )
      return [];
    const asked = new Set(
      sheets.flatMap(({ needs }) => needs.flatMap(({ kind, value }) => (kind === "permission" ? mainText(value, "name") : []))),
    );
    return app.entries.flatMap(({ kind, name, by, at, removed }) => {
      if (kind !== "permission" || by !== undefined || removed || !RUNTIME_PERMISSIONS.has(name) || asked.has(name)) return [];
      const short = name.split(".").at(-1) ?? name;
      if (
        app.codeNames.some((fact) => fact.name === short) ||
        app.entries.some((entry) => entry.kind === "permission" && entry.name === name && entry.by !== undefined)
      )
        return [];
      return [
        {
          side: "android" as const,
          message: `nothing here asks for ${name}: no SDK's sheet and no source file names it`,
          fix: "take it out, or add it to the sheet of the SDK that needs it",
          places: [at],
          subject: name,
        },
      ];
    });
  },
});
