import { blockedRequests } from "../../derive/web-access.js";
import { findingsFromWires } from "../from-wires.js";
import { quaymapIos, quaymapSheet } from "../examples.js";
import { defineRule } from "../rule.js";

const sheet = quaymapSheet("on: ios, host: tiles.quaymap.example");

export const host = defineRule({
  name: "permit/host",
  severity: "error",
  title: "A host is not allowed",
  looksAt:
    "Hosts without encryption that a sheet names, against transport security on iOS and the network security configuration on Android. In Cordova, hosts that the scripts of the app's page connect to, against the page's content policy and the origins in config.xml.",
  why: "The system blocks the connection; the SDK reports a network failure.",
  advice: "Allow this one host, not all of them; better, use the vendor's address with https.",
  examples: {
    reported: { ...quaymapIos(), ...sheet },
    silent: {
      ...quaymapIos(
        "  <key>NSAppTransportSecurity</key>\n  <dict>\n    <key>NSExceptionDomains</key>\n    <dict>\n      <key>tiles.quaymap.example</key>\n      <dict>\n        <key>NSExceptionAllowsInsecureHTTPLoads</key>\n        <true/>\n      </dict>\n    </dict>\n  </dict>\n",
      ),
      ...sheet,
    },
  },
  check({ app, wires }) {
    return [
      ...findingsFromWires(wires, { rule: "permit/host" }),
      ...blockedRequests(app).map(({ host: name, by, at, where }) => ({
        side: "shared" as const,
        message:
          by === "policy"
            ? `a script connects to ${name}, but the page's policy does not allow it`
            : `a script connects to ${name}, but the configuration does not allow it`,
        fix: by === "policy" ? `add https://${name} to connect-src` : `add <access origin="https://${name}" /> to config.xml`,
        places: where ? [at, where] : [at],
        subject: `${by} ${name}`,
      })),
    ];
  },
});
