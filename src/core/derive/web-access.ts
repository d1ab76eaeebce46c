import type { App } from "../model/app.js";
import type { Place } from "../model/place.js";

/** A request that the page's policy, or the configuration of the app, keeps from its host. */
export interface BlockedRequest {
  host: string;
  by: "policy" | "origins";
  at: Place;
  /** The policy, or the first of the origins. */
  where: Place | undefined;
}

/**
 * Requests of an app's own scripts to hosts that are written out, against the policy of its page and the origins of its configuration.
 * Sources: w3.org, "Content Security Policy Level 3" (connect-src falls back to default-src); cordova.apache.org, "Allow List Guide" (access).
 */
export function blockedRequests({ webPages, webOrigins, code }: App): BlockedRequest[] {
  const page = webPages.find(({ first }) => first);
  const found: BlockedRequest[] = [];
  for (const { scheme, host, at } of code?.requests ?? []) {
    const policy = page?.policy;
    const sources = policy && sourcesOf(policy.text);
    if (policy && sources && !sources.some((source) => allows(source, scheme, host)))
      found.push({ host, by: "policy", at, where: policy.at });
    else if (webPages.length > 0 && !webOrigins.some(({ origin }) => allows(origin, scheme, host)))
      found.push({ host, by: "origins", at, where: webOrigins[0]?.at });
  }
  return found;
}

/** What connections may go to; `undefined` where the policy says nothing of them. */
function sourcesOf(policy: string): string[] | undefined {
  const directives = new Map(
    policy
      .split(";")
      .map((part) => part.trim().split(/\s+/))
      .map(([name = "", ...values]) => [name.toLowerCase(), values]),
  );
  return directives.get("connect-src") ?? directives.get("default-src");
}

/** Whether a source of a policy, or an origin of a configuration, takes a host in. */
function allows(source: string, scheme: string, host: string): boolean {
  if (source === "*") return true;
  if (/^[a-z][\w+.-]*:$/i.test(source)) return source.toLowerCase() === `${scheme}:`;
  const match = /^(?:([a-z*][\w+.*-]*):\/\/)?([^/:]+)/i.exec(source);
  if (!match || source.startsWith("'")) return false;
  const [, of, name = ""] = match;
  if (
    of !== undefined &&
    of !== "*" &&
    of.toLowerCase() !== scheme &&
    !(of === "http" && scheme === "https") &&
    !(of === "ws" && scheme === "wss")
  )
    return false;
  return name === "*" || name === host || (name.startsWith("*.") && (host.endsWith(name.slice(1)) || host === name.slice(2)));
}
