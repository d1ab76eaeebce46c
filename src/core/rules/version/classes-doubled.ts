import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const classes = {
  "app/libs/tidewire-1.4.aar!/classes.jar!/example/tidewire/Feed.class": "class",
  "app/libs/quaymap-4.2.jar!/example/tidewire/Feed.class": "class",
};
const both = "\ndependencies {\n  implementation files('libs/tidewire-1.4.aar', 'libs/quaymap-4.2.jar')\n}\n";

export const classesDoubled = defineRule({
  name: "version/classes-doubled",
  severity: "error",
  title: "Two libraries contain the same classes",
  looksAt: "The names of the classes in the archives and libraries that the Android side takes in as files.",
  silentFor: "iOS.",
  why: "The build stops with a list of duplicate classes.",
  advice: "Remove one of the two: usually one contains the other, or both are one SDK in two versions.",
  examples: {
    reported: androidExample(androidBlock() + both, classes),
    silent: androidExample(androidBlock() + both.replace(", 'libs/quaymap-4.2.jar'", ""), classes),
  },
  check({ app }) {
    return app.doubledClasses.map(({ first, second, count, example, sdk, at }) => ({
      side: "android",
      sdk,
      message: `${first} and ${second} both contain ${example}${count > 1 ? ` and ${count - 1} more ${count === 2 ? "class" : "classes"}` : ""}`,
      fix: `remove ${first} or ${second}`,
      places: at,
      subject: `${first} ${second}`,
    }));
  },
});
