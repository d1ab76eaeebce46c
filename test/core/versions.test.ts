import fc from "fast-check";
import { describe, expect, it } from "vitest";
import * as gradle from "../../src/core/versions/gradle.js";
import { compareLevels } from "../../src/core/versions/level.js";
import { satisfiesIn } from "../../src/core/versions/ecosystem.js";
import * as nuget from "../../src/core/versions/nuget.js";
import { inSpan, isSpan } from "../../src/core/versions/span.js";
import * as pub from "../../src/core/versions/pub.js";
import * as unity from "../../src/core/versions/unity.js";
import * as npm from "../../src/core/versions/npm.js";
import * as rubygems from "../../src/core/versions/rubygems.js";
import * as swiftpm from "../../src/core/versions/swiftpm.js";

const part = fc.oneof(
  fc.nat({ max: 30 }).map(String),
  fc.constantFrom("alpha", "beta", "rc", "RC", "snapshot", "ga", "final", "sp", "dev", "release", "x", "b2"),
);
const version = fc
  .tuple(fc.nat({ max: 9 }), fc.array(fc.tuple(fc.constantFrom(".", "-"), part), { maxLength: 4 }))
  .map(([major, parts]) => `${major}${parts.map(([separator, text]) => separator + text).join("")}`);
const numeric = fc.array(fc.nat({ max: 40 }), { minLength: 1, maxLength: 4 }).map((numbers) => numbers.join("."));
const release = fc.tuple(fc.nat({ max: 9 }), fc.nat({ max: 9 }), fc.nat({ max: 9 })).map((numbers) => numbers.join("."));

describe.each([
  ["Gradle", gradle.compare, version],
  ["RubyGems", rubygems.compare, version],
  ["SwiftPM", swiftpm.compare, release],
  ["levels", compareLevels, numeric],
] as const)("%s order", (_, compare, any) => {
  it("is an order: itself equal, sides swapped, transitive", () => {
    fc.assert(fc.property(any, (a) => compare(a, a) === 0));
    fc.assert(fc.property(any, any, (a, b) => Math.sign(compare(a, b)) === -Math.sign(compare(b, a)) || compare(a, b) === 0));
    fc.assert(
      fc.property(any, any, any, (a, b, c) => {
        const sorted = [a, b, c].sort(compare) as [string, string, string];
        return compare(sorted[0], sorted[2]) <= 0;
      }),
    );
  });
  it("follows numbers number by number", () => {
    fc.assert(
      fc.property(fc.nat({ max: 500 }), fc.nat({ max: 500 }), (a, b) => Math.sign(compare(`1.${a}.0`, `1.${b}.0`)) === Math.sign(a - b)),
    );
  });
});

describe("Gradle", () => {
  it.each([
    ["1.0-alpha", "1.0"],
    ["1.0-dev", "1.0-alpha"],
    ["1.0-zeta", "1.0-rc"],
    ["1.0-rc", "1.0-snapshot"],
    ["1.0-snapshot", "1.0-final"],
    ["1.0-final", "1.0-ga"],
    ["1.0-ga", "1.0-release"],
    ["1.0-release", "1.0-sp"],
    ["1.0-sp", "1.0"],
    ["1.0", "1.0.0"],
    ["1.a.1", "1.1"],
    ["1.0-rc-2", "1.0-rc-10"],
    ["1.0", "1.10"],
    ["99999999999999999998", "99999999999999999999"],
  ])("%s is older than %s", (older, newer) => {
    expect(gradle.compare(older, newer)).toBeLessThan(0);
    expect(gradle.compare(newer, older)).toBeGreaterThan(0);
  });

  it.each([
    ["4.2.0", "4.2.0", true],
    ["4.3.0", "4.2.0", true],
    ["4.1.9", "4.2.0", false],
    ["4.3.0", "4.2.0!!", false],
    ["4.2.1", "4.+", true],
    ["4", "4.+", true],
    ["5.0", "4.+", false],
    ["40.1", "4.+", false],
    ["1.5", "[1.0,2.0)", true],
    ["2.0", "[1.0,2.0)", false],
    ["2.0", "[1.0,2.0]", true],
    ["2.0-rc1", "[1.0,2.0[", false],
    ["1.0", "]1.0,2.0]", false],
    ["0.9", "(,1.0]", true],
    ["1.4", "[1.4]", true],
    ["7", "latest.release", true],
  ])("%s against %s: %s", (found, notation, fits) => {
    expect(gradle.satisfies(found, notation)).toBe(fits);
  });

  it("a plain version is met by itself and everything newer", () => {
    fc.assert(fc.property(version, version, (a, b) => gradle.satisfies(a, b) === gradle.compare(a, b) >= 0));
  });
});

describe("RubyGems", () => {
  it.each([
    ["1.0", "1", 0],
    ["1.0.0.beta", "1.0.0", -1],
    ["1.0.b1", "1.0.a.2", 1],
    ["1.2-rc1", "1.2", -1],
    ["1.10", "1.9", 1],
  ])("%s to %s: %i", (a, b, order) => {
    expect(rubygems.compare(a, b)).toBe(order);
  });

  it.each([
    ["4.2.9", "~> 4.2", true],
    ["5.0", "~> 4.2", false],
    ["4.3.0", "~> 4.2.1", false],
    ["4.2.5", "~> 4.2.1", true],
    ["5.0.0-beta1", "~> 4.2", false],
    ["1.5", ">= 1.0, < 2.0", true],
    ["2.0", ">= 1.0, < 2.0", false],
    ["1.3", "!= 1.3", false],
    ["1.3.0", "1.3", true],
    ["3", "~> 2", false],
  ])("%s against %s: %s", (found, requirement, fits) => {
    expect(rubygems.satisfies(found, requirement)).toBe(fits);
  });
});

describe("SwiftPM", () => {
  it.each([
    ["1.9.9", { kind: "upToNextMajor", version: "1.2.0" }, true],
    ["2.0.0", { kind: "upToNextMajor", version: "1.2.0" }, false],
    ["2.0.0-beta.1", { kind: "upToNextMajor", version: "1.2.0" }, false],
    ["1.2.9", { kind: "upToNextMinor", version: "1.2.0" }, true],
    ["1.3.0", { kind: "upToNextMinor", version: "1.2.0" }, false],
    ["v1.2.0", { kind: "exact", version: "1.2" }, true],
    ["2.0.0", { kind: "range", from: "1.0.0", to: "2.0.0", closed: false }, false],
    ["2.0.0", { kind: "range", from: "1.0.0", to: "2.0.0", closed: true }, true],
    ["1.5.0", { kind: "branch", name: "main" }, false],
  ] as const)("%s against %o: %s", (found, requirement, fits) => {
    expect(swiftpm.satisfies(found, requirement)).toBe(fits);
  });
});

describe("npm specifiers", () => {
  it.each([
    ["^4.2.0", "range"],
    ["", "range"],
    ["latest", "tag"],
    ["workspace:^", "workspace"],
    ["file:../charts", "path"],
    ["link:../charts", "path"],
    ["../charts", "path"],
    ["catalog:", "catalog"],
    ["npm:other@^1.0.0", "alias"],
    ["git+https://git.quaymap.example/rn.git#v1", "git"],
    ["maresia/charts#main", "git"],
    ["https://packages.example/charts.tgz", "url"],
  ])("%s is a %s", (text, kind) => {
    expect(npm.parseSpecifier(text).kind).toBe(kind);
  });
});

describe("pub, NuGet and Unity", () => {
  const number = fc.integer({ min: 0, max: 30 });
  const pre = fc.option(
    fc.array(fc.constantFrom("0", "1", "10", "alpha", "beta", "dev", "x"), { minLength: 1, maxLength: 3 }).map((parts) => parts.join(".")),
    { nil: undefined },
  );
  const version = fc.tuple(number, number, number, pre).map(([a, b, c, tail]) => `${a}.${b}.${c}${tail === undefined ? "" : `-${tail}`}`);

  it.each([
    ["pub", pub.compare],
    ["NuGet", nuget.compare],
    ["Unity", unity.compare],
  ])("%s: a total order in which a pre-release stands below its release", (_, compare) => {
    fc.assert(
      fc.property(version, version, version, (a, b, c) => {
        expect(Math.sign(compare(a, b))).toBe(-Math.sign(compare(b, a)) + 0);
        expect(compare(a, a)).toBe(0);
        if (compare(a, b) <= 0 && compare(b, c) <= 0) expect(compare(a, c)).toBeLessThanOrEqual(0);
        const release = a.replace(/-.*$/, "");
        if (release !== a) expect(compare(a, release)).toBeLessThan(0);
      }),
    );
  });

  it.each([
    ["1.0.0+1", "1.0.0", 1],
    ["1.0.0+2", "1.0.0+10", -1],
    ["1.0.0-dev.1", "1.0.0-dev.1+1", -1],
  ])("pub ranks builds: %s and %s", (a, b, order) => expect(pub.compare(a, b)).toBe(order));

  it.each([
    ["1.9.9", "^1.2.3", true],
    ["2.0.0", "^1.2.3", false],
    ["2.0.0-dev", "^1.2.3", false],
    ["0.1.9", "^0.1.2", true],
    ["0.2.0", "^0.1.2", false],
    ["1.5.0", ">=1.0.0 <2.0.0", true],
    ["2.0.0-dev", ">=2.0.0-alpha <2.0.0", true],
    ["3.0.0", "any", true],
    ["1.2.3", "1.2.3", true],
    ["1.2.4", "1.2.3", false],
  ])("pub: %s in %s is %s", (a, range, fits) => expect(pub.satisfies(a, range)).toBe(fits));

  it.each([
    ["1.0", "1.0.0.0", 0],
    ["1.0.0-Beta", "1.0.0-beta", 0],
    ["1.0.0.1", "1.0.0", 1],
    ["1.0.0+meta", "1.0.0", 0],
  ])("NuGet: %s and %s", (a, b, order) => expect(nuget.compare(a, b)).toBe(order));

  it.each([
    ["1.5", "1.0", true],
    ["0.9", "1.0", false],
    ["1.0.0", "[1.0]", true],
    ["1.0.1", "[1.0]", false],
    ["2.0", "[1.0,2.0)", false],
    ["2.0", "(1.0,2.0]", true],
    ["3.0", "(,2.0]", false],
    ["1.4.9", "1.*", true],
    ["2.0", "1.*", false],
    ["1.0.0-beta.3", "1.0.0-*", true],
    ["5.0", "*", true],
  ])("NuGet: %s in %s is %s", (a, range, fits) => expect(nuget.satisfies(a, range)).toBe(fits));

  it("every version fits the range that is made of it, and a range never takes what lies below", () => {
    fc.assert(
      fc.property(version, version, (a, b) => {
        expect(pub.satisfies(a, a)).toBe(true);
        expect(nuget.satisfies(a, `[${a}]`)).toBe(true);
        expect(unity.satisfies(a, a)).toBe(true);
        if (nuget.compare(a, b) < 0) expect(nuget.satisfies(a, b)).toBe(false);
        if (pub.compare(a, b) < 0) expect(pub.satisfies(a, `>=${b}`)).toBe(false);
      }),
    );
  });

  it.each([
    ["cordova", "13.0.0", ">=12.0.0", true],
    ["cordova", "9.1.0", ">=5.0.0 <7", false],
    ["cordova", "12.0", "^12.0.0", true],
    ["npm", "1.2.3", "~1.2", true],
  ] as const)("%s: %s in %s is %s", (ecosystem, a, range, fits) => expect(satisfiesIn(ecosystem, a, range)).toBe(fits));
});

describe("spans of versions in sheets", () => {
  it.each([
    ["maven", "4.1.9", "<4.2.0", true],
    ["maven", "4.2.0", "<4.2.0", false],
    ["maven", "4.2.0", "<= 4.2.0", true],
    ["cocoapods", "4.2.0.beta.1", "<4.2.0", true],
    ["npm", "4.1.0", ">=4.0 <4.2", true],
    ["npm", "4.2.0", ">=4.0, <4.2", false],
    ["swiftpm", "4.0.0", "[4.0,4.2)", true],
    ["swiftpm", "4.2.0", "[4.0,4.2)", false],
    ["nuget", "4.0", "(4.0,]", false],
    ["nuget", "9.0", "(4.0,]", true],
    ["pub", "3.0.0", "3.0.0", true],
    ["pub", "3.0.1", "3.0.0 || >=3.0.1", true],
    ["unity", "1.0.0", "(,1.0.0]", true],
  ] as const)("%s %s in %s: %s", (ecosystem, version, span, within) => {
    expect(inSpan(ecosystem, version, span)).toBe(within);
  });

  it.each(["", "latest", "~> 4.0", "<", "[4.0", "4.0 ||", "^4.0"])("%j is none", (span) => {
    expect(isSpan(span)).toBe(false);
  });
});
