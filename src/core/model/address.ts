/** What stands before the `@` of an address: a user, a password, a token. Source: RFC 3986, section 3.2.1, "User Information". */
const USER = /\b([a-z][a-z0-9+.-]*:\/\/)([^\s/"'`<>\\]*)@(?=[\w[.$-])/gi;

/** Parameters of an address whose value lets somebody in. */
const PARAMETER =
  /([?&](?:[\w-]*(?:token|secret|password|passwd|signature|credential|api[_-]?key|access[_-]?key|private[_-]?key)|auth|sig|pwd|key)=)([^\s&#"'`<>\\]+)/gi;

/** Addresses in a text as they may be shown: without users, passwords and tokens. */
export function safeAddresses(text: string): string {
  if (!text.includes("://")) return text;
  return text
    .replace(USER, (all: string, scheme: string, user: string) => (isNoSecret(scheme, user) ? all : `${scheme}…@`))
    .replace(/\b[a-z][a-z0-9+.-]*:\/\/[^\s"'`<>\\]+/gi, (address) => address.replace(PARAMETER, "$1…"));
}

/** Whether an address holds a password or a token that is written out: no variable, and no mere user of a shell. */
export function holdsPassword(address: string): boolean {
  for (const [, scheme = "", user = ""] of address.matchAll(USER)) {
    const password = user.includes(":") ? user.slice(user.indexOf(":") + 1) : user;
    if (!isNoSecret(scheme, user) && password !== "" && !isVariable(password)) return true;
  }
  for (const [, , value = ""] of address.matchAll(PARAMETER)) if (address.includes("://") && !isVariable(value)) return true;
  return false;
}

/** `ssh://git@host`: the user of a shell is part of the address. */
function isNoSecret(scheme: string, user: string): boolean {
  return user === "" || (/ssh|^git:/i.test(scheme) && !user.includes(":"));
}

function isVariable(text: string): boolean {
  return /^(\$|%|#\{|\{\{|<|…)/.test(text);
}
