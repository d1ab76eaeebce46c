import { isForDevelopment, type App } from "../../model/app.js";
import type { RawFinding } from "../../model/finding.js";
import { textOf } from "../../model/value.js";
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
    "Hosts without encryption that a sheet names, against transport security on iOS and the network security configuration on Android. Addresses without encryption in .env files for production, in an Expo configuration and in code that connects by itself, where no exception is made. In Cordova, hosts that the scripts of the app's page connect to, against the page's content policy and the origins in config.xml, and scripts that stand in a page whose policy refuses them.",
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
      ...plainAddresses(app),
      ...plainInCode(app),
      ...refusedScripts(app),
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

/** Scripts in a page whose own policy refuses those. Source: w3.org, "Content Security Policy Level 3" (script-src, 'unsafe-inline', hashes, nonces). */
function refusedScripts({ kind, webPages }: App): RawFinding[] {
  if (kind !== "cordova") return [];
  return webPages.flatMap(({ file, policy, inline }): RawFinding[] => {
    if (!policy || !inline) return [];
    const directives = new Map(policy.text.split(";").map((part) => [part.trim().split(/\s+/)[0] ?? "", part] as const));
    const applies = directives.get("script-src-elem") ?? directives.get("script-src") ?? directives.get("default-src");
    if (applies === undefined || /'unsafe-inline'|'nonce-|'sha\d+-|\$\{|<%|\{\{/.test(applies)) return [];
    return [
      {
        side: "shared",
        message: "the page's policy does not allow scripts that stand in the page: this one never runs",
        fix: "move it into a file of its own, or add 'unsafe-inline' to script-src",
        places: [inline, policy.at],
        subject: `inline ${file}`,
      },
    ];
  });
}

/** Hosts of a machine or a network of one's own. Source: RFC 1918, RFC 6761. */
const OWN_HOST = /^(localhost|127\.|10\.|192\.168\.|172\.(1[6-9]|2\d|3[01])\.|[^.:/]+(?=[:/]|$)|[\w.-]+\.local(?=[:/]|$))/i;

/** Whether an entry lets builds that ship connect to any host without encryption. */
function allowsPlain({ kind, variant, value }: App["entries"][number]): boolean {
  return kind === "clearText" && !isForDevelopment(variant) && textOf(value) !== "false";
}

/** Both systems refuse what is not encrypted. Sources: developer.android.com, "Network security configuration"; developer.apple.com, "App Transport Security". */
function plainAddresses({ entries, android, ios }: App): RawFinding[] {
  if (!(android ?? ios) || entries.some(allowsPlain)) return [];
  return entries.flatMap(({ kind, name, variant = "", value, at }): RawFinding[] => {
    // Expo builds what stands in the plain file into the app.
    const isBuiltIn = kind === "env" && (/^(prod|release|live)/i.test(variant) || (variant === "" && name.startsWith("EXPO_PUBLIC_")));
    const host = isBuiltIn || kind === "address" ? /^http:\/\/(.+)/i.exec(textOf(value) ?? "")?.[1] : undefined;
    if (host === undefined || OWN_HOST.test(host)) return [];
    return [
      {
        side: "shared",
        severity: "warning",
        message: `${name} in ${at.file} is an address without encryption: both systems refuse to connect`,
        fix: "write https, or make an exception for this host on both sides",
        places: [at],
        subject: `plain ${name} ${variant}`,
      },
    ];
  });
}

/** Addresses without encryption to which code goes, where no side makes an exception for any host. */
function plainInCode({ entries, code, android, ios, kind: framework }: App): RawFinding[] {
  if (!(android ?? ios) || framework === "unity" || entries.some(allowsPlain)) return [];
  const allowed = entries.flatMap(({ kind, side, name }) => (kind === "host" ? [{ side, name: name.replace(/^\*\./, "") }] : []));
  return (code?.systemNames ?? []).flatMap(({ kind, name, side, at }): RawFinding[] => {
    const host = /^([\w.-]+)/.exec(name)?.[1]?.toLowerCase();
    if (kind !== "plain address" || host === undefined || OWN_HOST.test(name) || !host.includes(".")) return [];
    const isAllowed = (on: string): boolean =>
      allowed.some((other) => other.side === on && (host === other.name || host.endsWith(`.${other.name}`)));
    const [one, another] = side === "shared" ? (["android", "ios"] as const).filter(isAllowed) : isAllowed(side) ? [side] : [];
    // Of shared code the side that makes exceptions for others alone refuses this one.
    const other = one === "android" ? "ios" : "android";
    const refused = side === "shared" && one && !another && allowed.some((exception) => exception.side === other) ? other : undefined;
    if (one && refused === undefined) return [];
    return [
      {
        side: refused ?? side,
        severity: "warning",
        message: `code goes to ${host} without encryption, and nothing allows it${refused === undefined ? "" : ` on ${refused === "ios" ? "iOS" : "Android"}`}: the system refuses to connect`,
        fix: "write https, or make an exception for this host",
        places: [at],
        subject: `plain ${host}`,
      },
    ];
  });
}
