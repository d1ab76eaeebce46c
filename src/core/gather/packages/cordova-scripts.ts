import { argumentsIn } from "../../syntax/code/callee.js";

/** A call of native code in a plugin's script. */
export interface ExecCall {
  service: string;
  /** `undefined` where it is worked out. */
  action: string | undefined;
  offset: number;
  /** The name under which the script gives out the function that calls, where it does. */
  given: string | undefined;
  /** Somebody waits for an answer. */
  awaited: boolean;
}

/** Calls of native code whose service is written out, or a constant of the script. Source: cordova.apache.org, "Plugin Development Guide" (exec). */
export function execCalls(text: string): ExecCall[] {
  const textOf = (written: string | undefined): string | undefined => {
    const plain = written?.trim() ?? "";
    const literal = /^["']([\w.]+)["']$/.exec(plain)?.[1];
    if (literal !== undefined || !/^[A-Za-z_$][\w$]*$/.test(plain)) return literal;
    const made = [...text.matchAll(new RegExp(`(?<![\\w$.])${plain.replaceAll("$", "\\$")}\\s*=(?!=)\\s*([^;\\n]*)`, "g"))];
    return made.length === 1 ? /^["']([\w.]+)["']$/.exec(made[0]?.[1]?.trim() ?? "")?.[1] : undefined;
  };
  return [...text.matchAll(/\bexec\s*\(/g)].flatMap((match) => {
    const given = argumentsIn(text, match.index + match[0].length - 1);
    const [service, action] = [textOf(given[2]), textOf(given[3])];
    if (service === undefined) return [];
    const heads = [
      ...text
        .slice(0, match.index)
        .matchAll(/\bexports\.(\w+)\s*=\s*(?:async\s+)?(?:function\b|\()|(?:^|[{,])\s*(\w+)\s*:\s*(?:async\s+)?(?:function\b|\()/gm),
    ];
    const head = heads.at(-1);
    return [
      {
        service,
        action,
        offset: match.index,
        given: head?.[1] ?? head?.[2],
        awaited: /^\s*(?!null\b|undefined\b)[A-Za-z_$]/.test(given[0] ?? ""),
      },
    ];
  });
}
