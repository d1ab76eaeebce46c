import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

export const unreadable = defineRule({
  name: "project/unreadable",
  severity: "error",
  title: "A file that the build needs cannot be read",
  looksAt:
    "Every file that Enredo reads to understand the build: unclosed brackets and strings, JSON, YAML, XML and property lists that are not well formed, merge markers, binary data, missing permissions.",
  why: "The build tools fail on the same file, with a message that is often about something else. Until it is fixed, the answers about this app are incomplete.",
  advice: "Look at the place named: reading stopped there, and the mistake is there or shortly before.",
  examples: {
    reported: androidExample(`${androidBlock()}\ndependencies {\n`),
    silent: androidExample(androidBlock()),
  },
  checkProject(survey) {
    return survey.unreadable
      .filter(({ template }) => !template)
      .map(({ file, message, place }) => ({
        message: `${file}: ${message}`,
        fix: "fix the file at this place",
        places: [place],
        subject: file,
      }));
  },
});
