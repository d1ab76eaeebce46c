import { TEMPLATE_ID_PREFIXES } from "../../knowledge/template-ids.js";
import { uniquePlaces } from "../../model/place.js";
import { possibleTexts } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

export const placeholderId = defineRule({
  name: "identity/placeholder-id",
  severity: "warning",
  title: "The id is still the project template's",
  looksAt: "The application id and the bundle id of every variant, against the ids that project templates of platforms and frameworks use.",
  why: "A store fixes an id once and for all, and an SDK's settings are bound to it. Changing it after the first SDK is wired means wiring them all again.",
  advice: "Choose the final id, in reverse domain notation, and set it on both sides before the next SDK is added.",
  examples: {
    reported: androidExample(androidBlock(undefined, "com.example.pilot")),
    silent: androidExample(androidBlock()),
  },
  check({ app }) {
    return [app.android, app.ios].flatMap((side) => {
      const hits = (side?.ids ?? []).flatMap((id) =>
        possibleTexts(id.value).flatMap((text) => {
          const template = TEMPLATE_ID_PREFIXES.find(({ prefix }) => prefix.test(text));
          return template ? [{ id, text, template }] : [];
        }),
      );
      const [first] = hits;
      if (!side || !first) return [];
      const label = side.side === "android" ? "application id" : "bundle id";
      return [
        {
          side: side.side,
          message: `the ${label} ${first.text} is still the project template's (${first.template.from})`,
          fix: `set your own ${label}, in reverse domain notation`,
          places: uniquePlaces(hits.map(({ id }) => id.value.place)),
          subject: "id",
        },
      ];
    });
  },
});
