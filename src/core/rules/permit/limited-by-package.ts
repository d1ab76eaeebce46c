import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const own = (more: string): string =>
  `<manifest xmlns:android="http://schemas.android.com/apk/res/android" xmlns:tools="http://schemas.android.com/tools">\n  <uses-permission android:name="android.permission.BLUETOOTH_SCAN" ${more}/>\n  <application />\n</manifest>\n`;
const example = (more: string) =>
  androidExample(`${androidBlock()}\ndependencies {\n  implementation files('libs/tidewire-1.4.aar')\n}\n`, {
    "app/src/main/AndroidManifest.xml": own(more),
    "app/libs/tidewire-1.4.aar!/AndroidManifest.xml":
      '<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.tidewire">\n  <uses-permission android:name="android.permission.BLUETOOTH_SCAN" android:maxSdkVersion="30" />\n</manifest>\n',
  });

export const limitedByPackage = defineRule({
  name: "permit/limited-by-package",
  severity: "warning",
  title: "A package's manifest removes the app's permission on newer systems",
  looksAt:
    "Permissions that the app's own manifest declares without a maximum level, and that the manifest of a package or archive declares with one: merging adds the attribute to the app's own.",
  silentFor: "iOS.",
  why: "On systems above that level the app does not have the permission, although its own manifest declares it. The call fails there and nowhere else.",
  advice: 'Write tools:remove="android:maxSdkVersion" on the app\'s own permission.',
  examples: { reported: example(""), silent: example('tools:remove="android:maxSdkVersion" ') },
  check({ app }) {
    const permissions = app.entries.filter(({ kind, side, removed }) => kind === "permission" && side === "android" && !removed);
    const plain = permissions.filter(({ by, variant, limits }) => by === undefined && variant === undefined && !limits);
    return plain.flatMap(({ name, at }) => {
      const brought = permissions.filter((entry) => entry.name === name && entry.by !== undefined);
      const limited = brought.find(({ limits }) => limits?.highest !== undefined);
      // Where another package states it without, or the app itself does elsewhere, which one counts depends on their order.
      if (!limited?.limits?.highest || permissions.some((entry) => entry.name === name && entry.by === undefined && entry.limits))
        return [];
      return [
        {
          side: "android" as const,
          sdk: undefined,
          message: `${limited.by ?? ""} limits ${name} to level ${limited.limits.highest}; the app declares it for all levels but gets the limit too`,
          fix: 'add tools:remove="android:maxSdkVersion" to the permission in the app\'s manifest',
          places: [at, limited.at],
          subject: `${name} ${limited.by ?? ""}`,
        },
      ];
    });
  },
});
