/** One rule for the shrinker, taken apart. Source: the manual of the shrinker whose syntax Android's R8 takes over, "Keep options". */
interface KeepRule {
  /** `-keep`, `-keepclassmembers`, `-keepnames`, … */
  option: string;
  /** What the rule allows after all: `allowobfuscation`, `allowshrinking`, `allowoptimization`; what else it keeps: `includedescriptorclasses`. */
  modifiers: ReadonlySet<string>;
  /** What a class must be besides: annotations, `public`, `final`, what it extends. */
  conditions: string;
  name: string;
  members: readonly string[];
}

function parse(text: string): KeepRule | undefined {
  const plain = text.replace(/#.*$/gm, "").replace(/\s+/g, " ").trim();
  const head =
    /^(-keep\w*)((?:\s*,\s*\w+)*)\s+((?:@[\w.*$?]+\s+|!?(?:public|final|abstract)\s+)*)(?:!?@?(?:class|interface|enum))\s+([^\s{]+)\s*((?:(?:extends|implements)\s+[^\s{]+\s*)?)(?:\{(.*)\})?\s*$/.exec(
      plain,
    );
  if (!head) return undefined;
  const [, option = "", modifiers = "", before = "", name = "", above = "", members = ""] = head;
  return {
    option,
    modifiers: new Set(
      modifiers
        .split(",")
        .map((modifier) => modifier.trim())
        .filter(Boolean),
    ),
    conditions: `${before.trim()} ${above.trim()}`.trim(),
    name,
    members: members
      .split(";")
      .map((member) => member.trim())
      .filter(Boolean),
  };
}

/** The package that a rule names before any part that stands for others; `undefined` where it names none. */
export function packageKept(text: string): string | undefined {
  const name = parse(text)?.name.replace(/^!/, "");
  const parts = name === undefined || name.includes(",") ? [] : name.split(".");
  const fixed = parts.slice(
    0,
    parts.findIndex((part) => /[*?]/.test(part) || /^[A-Z]/.test(part)),
  );
  return fixed.length > 1 ? fixed.join(".") : undefined;
}

/** Rules that keep less than one with all its parts. */
const WEAKENING = ["allowobfuscation", "allowshrinking", "allowoptimization"];

/** Whether a rule that is written keeps all that another one asks for. What cannot be taken apart covers only what is the same text. */
export function covers(written: string, wanted: string): boolean {
  const plain = (text: string): string =>
    text
      .replace(/\s+/g, " ")
      .replace(/\s*([{};,])\s*/g, "$1")
      .replace(/;?\}/g, "}")
      .trim();
  if (plain(written) === plain(wanted)) return true;
  const [a, b] = [parse(written), parse(wanted)];
  if (!a || !b) return false;
  if (a.option !== b.option && a.option !== "-keep") return false;
  if (WEAKENING.some((modifier) => a.modifiers.has(modifier) && !b.modifiers.has(modifier))) return false;
  if (a.conditions !== "" && a.conditions !== b.conditions) return false;
  return namesCover(a.name, b.name) && membersCover(a.members, b.members);
}

/** `**` stands for any part of a name, `*` for one without a dot, `?` for one sign; a list separated by commas is any of them. */
function namesCover(pattern: string, name: string): boolean {
  return pattern.split(",").some((one) => {
    if (one === name || one === "**" || (one === "*" && !name.includes("."))) return true;
    if (one.startsWith("!")) return false;
    // What is asked for with a pattern is covered by the same pattern or one that ends wider.
    if (/[*?]/.test(name)) return one.endsWith("**") && name.startsWith(one.slice(0, -2));
    const expression = one
      .replace(/[.+^${}()|[\]\\]/g, "\\$&")
      .replace(/\*\*/g, "\0")
      .replace(/\*/g, "[^.]*")
      .replace(/\0/g, ".*")
      .replace(/\?/g, "[^.]");
    return new RegExp(`^${expression}$`).test(name);
  });
}

function membersCover(written: readonly string[], wanted: readonly string[]): boolean {
  if (wanted.length === 0 || written.includes("*")) return true;
  const normal = (member: string): string => member.replace(/\s*([(),])\s*/g, "$1");
  const own = new Set(written.map(normal));
  return wanted.every((member) => {
    if (own.has(normal(member))) return true;
    if (member === "*") return own.has("<fields>") && own.has("<methods>");
    const isMethod = member.includes("(");
    return own.has(isMethod ? "<methods>" : "<fields>") && !/^<init>/.test(member);
  });
}
