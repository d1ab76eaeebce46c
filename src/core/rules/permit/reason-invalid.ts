import { PRIVACY_MANIFEST, RESTRICTED_INTERFACES } from "../../knowledge/restricted-interfaces.js";
import type { PrivacyManifest } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { nearest } from "../../model/suggest.js";
import { iosExample, privacyManifest } from "../examples.js";
import { defineRule } from "../rule.js";

const xcode = { synchronized: ["Pilot"] };
const file = `Pilot/${PRIVACY_MANIFEST}`;

/** What tells kinds apart: all of their names begin alike. */
const endOf = (category: string): string => category.replace(/^NSPrivacyAccessedAPICategory/, "");

export const reasonInvalid = defineRule({
  name: "permit/reason-invalid",
  severity: "error",
  title: "A privacy manifest has an API category or a reason that does not exist",
  looksAt:
    "NSPrivacyAccessedAPITypes in the app's own privacy manifests: the API categories, and the reasons given for each; NSPrivacyTracking without a domain.",
  silentFor: "Manifests of packages, and reasons for API categories that are newer than this edition.",
  why: "The store rejects the upload, as if no reason were given.",
  advice: "Copy the category's name and the reason's code from the platform's documentation exactly.",
  examples: {
    reported: iosExample(xcode, { [file]: privacyManifest("UserDefaults", "C617.1") }),
    silent: iosExample(xcode, { [file]: privacyManifest("UserDefaults", "CA92.1") }),
  },
  check({ app }) {
    const own = app.privacyManifests.filter(({ by, taken }) => by === undefined && taken);
    return [...own.flatMap(tracking), ...reasonsOf(own)];
  },
});

/** Source: developer.apple.com, "NSPrivacyTracking" (with true, at least one domain has to be in NSPrivacyTrackingDomains). */
function tracking({ tracksNowhere: at }: PrivacyManifest): RawFinding[] {
  return at === undefined
    ? []
    : [
        {
          side: "ios",
          severity: "warning",
          message: "the privacy manifest says that the app tracks people and names no domain to which it goes",
          fix: "add the domains to NSPrivacyTrackingDomains, or set NSPrivacyTracking to false",
          places: [at],
          subject: "tracking domains",
        },
      ];
}

function reasonsOf(own: readonly PrivacyManifest[]): RawFinding[] {
  return own.flatMap(({ reasons: all }) =>
    all.flatMap(({ category, reasons, at }) => {
      const finding = (message: string, fix: string, subject: string) => [
        { side: "ios" as const, sdk: undefined, message, fix, places: [at], subject },
      ];
      const kind = RESTRICTED_INTERFACES.find((known) => known.category === category);
      if (!kind) {
        const near = nearest(
          endOf(category),
          RESTRICTED_INTERFACES.map((known) => endOf(known.category)),
        );
        const meant = RESTRICTED_INTERFACES.find((known) => endOf(known.category) === near)?.category;
        return meant === undefined ? [] : finding(`${category} is not an API category; ${meant} is`, `name it ${meant}`, category);
      }
      if (reasons.length === 0)
        return finding(`${category} has no reason`, `add the one that applies of ${kind.reasons.join(", ")}`, category);
      const wrong = reasons.filter((reason) => !kind.reasons.includes(reason));
      return wrong.length === 0
        ? []
        : finding(
            `${wrong.join(", ")} ${wrong.length === 1 ? "is not a reason" : "are not reasons"} for ${category}`,
            `use the one that applies of ${kind.reasons.join(", ")}`,
            `${category} ${wrong.join(" ")}`,
          );
    }),
  );
}
