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
  title: "A permission that nothing here needs",
  looksAt:
    "Permissions in the app's own Android manifest that users are asked to grant, where every SDK of that side has a sheet (so that its needs are known) and no source file mentions the permission.",
  silentFor: "iOS: a purpose text without use does no harm there; apps with an SDK that has no sheet.",
  why: "Each permission has to be explained in the store and puts some users off; an unused one was often left behind by an SDK that was removed.",
  advice: "Remove the permission, or add it to the sheet of the SDK that needs it.",
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
    // Who asks for the exact location has to ask for the other too. Source: developer.android.com, "Request location permissions".
    if (asked.has("android.permission.ACCESS_FINE_LOCATION")) asked.add("android.permission.ACCESS_COARSE_LOCATION");
    for (const { names } of app.code?.permissionRequests ?? []) for (const name of names) asked.add(name);
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
          message: `nothing here needs ${name}: no SDK's sheet and no source file mentions it`,
          fix: "remove it, or add it to the sheet of the SDK that needs it",
          places: [at],
          subject: name,
        },
      ];
    });
  },
});
