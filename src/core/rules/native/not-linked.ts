import { linkingExample } from "./examples.js";
import { defineRule } from "../rule.js";
import { RELINK, notLinked as isNotLinked } from "../../needs/derived.js";

export const notLinked = defineRule({
  name: "native/not-linked",
  severity: "error",
  title: "A package with native code is not linked on one side",
  looksAt:
    "Packages of the shared code that bring native code, against the lists that the last installation wrote: the lock of the pods, the files that a framework's sync or platform commands write, also of packages in them that are no longer declared; packages with native code that in a workspace only another package of the repository asks for. Products of Swift packages that a target depends on but does not link. Sides that a setting disables are reported by native/left-out.",
  silentFor:
    "Native apps but for products of Swift packages; Unity, whose builds write no list that could be out of date. In .NET it speaks of packages that one platform project has and the other has not.",
  why: "The shared code calls a module that is not in the app: it fails on that side only, on first use.",
  advice: "Run pod install and commit the lock file.",
  examples: {
    reported: linkingExample({ lock: "PODS:\n  - Yoga (0.0.0)\n\nDEPENDENCIES:\n  - Yoga\n" }),
    silent: linkingExample(),
  },
  check({ app }) {
    const left = app.leftovers.map(({ package: name, sdk, side, refresh, at }) => ({
      side,
      sdk,
      severity: "warning" as const,
      message: `${at.file.split("/").at(-1) ?? "the list"} still lists ${name}, which the app no longer declares`,
      fix: refresh,
      places: [at],
      subject: `left ${name} ${side}`,
    }));
    const missing = app.linking.filter(isNotLinked).map(({ package: name, sdk, side, native, declared, list, refresh }) => ({
      side,
      sdk,
      message: `${name} has native code for ${side === "ios" ? "iOS" : "Android"} that is not linked: ${list?.file.split("/").at(-1) ?? "the list"} has no ${native}`,
      fix: refresh ?? RELINK,
      places: [declared, ...(list ? [list] : [])],
      subject: `${name} ${side}`,
    }));
    const targets = new Set([...(app.ios?.targets ?? []), ...(app.ios?.allTargets ?? []).filter(({ type }) => /framework/.test(type))]);
    const products = [...targets].flatMap(({ name: target, packageProducts }) =>
      packageProducts.flatMap(({ product, linked, at }) =>
        linked
          ? []
          : [
              {
                side: "ios" as const,
                message: `${target} depends on the Swift package product ${product} but does not link it`,
                fix: `add ${product} to the frameworks and libraries of ${target}`,
                places: [at],
                subject: `product ${target} ${product}`,
              },
            ],
      ),
    );
    const through = app.throughPackages.map(({ package: name, by, in: own, side, at }) => ({
      side,
      message: `${name} has native code for ${side === "ios" ? "iOS" : "Android"}, and only ${by} asks for it: the framework links what ${own} lists itself`,
      fix: `add ${name} to the dependencies of ${own}`,
      places: [at],
      subject: `through ${name} ${side}`,
    }));
    return [...missing, ...left, ...products, ...through];
  },
});
