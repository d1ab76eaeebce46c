import { holdsPassword } from "../../model/address.js";
import type { RawFinding } from "../../model/finding.js";
import type { Place } from "../../model/place.js";
import { textOf } from "../../model/value.js";
import { androidBlock, androidExample } from "../examples.js";
import { defineRule } from "../rule.js";

const build = (user: string) =>
  androidExample(androidBlock(), {
    "build.gradle": `allprojects {\n  repositories {\n    google()\n    maven { url "https://${user}maven.quaymap.example/releases" }\n  }\n}\n`,
  });

export const inAddress = defineRule({
  name: "key/in-address",
  severity: "error",
  title: "An address contains a password",
  looksAt:
    "Addresses of package repositories, pod sources and Git packages that contain a user and password, or a token. They are printed without it.",
  why: "Anyone who can read the repository has the password, and so does every log that prints the address; it stays in the history after it is removed.",
  advice: "Read the user and password from the environment or from a file that is not committed, and change the password.",
  examples: { reported: build("skipper:tide-7f3a90c2@"), silent: build("") },
  check({ app }) {
    const findings: RawFinding[] = [];
    const seen = new Set<string>();
    const add = (side: RawFinding["side"], address: string | undefined, place: Place | undefined, sdk?: string): void => {
      if (address === undefined || !place || !holdsPassword(address) || seen.has(address)) return;
      seen.add(address);
      findings.push({
        side,
        sdk,
        message: `the address ${address} contains a password in plain text`,
        fix: "read it from the environment or from a file that is not committed, and change it",
        places: [place],
        subject: address,
      });
    };
    for (const { module, url, at } of app.repositories) add(module === "Podfile" ? "ios" : "android", textOf(url), url?.place ?? at);
    for (const { side, name, declared, reference, places, sdk } of app.dependencies)
      for (const text of [name, textOf(declared), reference?.text]) add(side, text, declared?.place ?? places[0], sdk);
    return findings;
  },
});
