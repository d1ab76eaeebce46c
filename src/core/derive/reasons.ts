import type { App } from "../model/app.js";

type RestrictedUse = App["restrictedUses"][number];

/**
 * Uses of interfaces for which the store wants a reason that no privacy manifest in the app gives: neither the app's own nor that of the package
 * whose code it is, nor that of any package where their manifests are merged. Those of packages are left out of which it cannot be told what they bring.
 */
export function usesWithoutReason({ restrictedUses, privacyManifests, privacyOpen }: App): RestrictedUse[] {
  const merged = privacyManifests.some(({ merges }) => merges);
  return restrictedUses.filter(
    ({ category, by }) =>
      !(by !== undefined && privacyOpen.includes(by)) &&
      !privacyManifests.some(
        (manifest) =>
          manifest.taken &&
          (merged || manifest.by === undefined || manifest.by === by) &&
          manifest.reasons.some((reason) => reason.category === category),
      ),
  );
}
