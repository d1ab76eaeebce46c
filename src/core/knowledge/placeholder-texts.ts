/**
 * Texts that instructions and templates put where a value belongs.
 * Source: the wording that vendors' pages and project templates share; none of them is a possible value.
 */
const PLACEHOLDERS: RegExp[] = [
  /^<[^<>]+>$/,
  /^\[[A-Za-z][^\]]*\]$/,
  /^\{\{?[^{}]+\}?\}$/,
  /\b(YOUR|MY)[_ -][A-Z0-9_ -]*(KEY|ID|TOKEN|SECRET|APP|CLIENT|API|CODE|NAME|HERE)\b/i,
  /\b(insert|replace|enter|paste|put|add)[_ -]?(me|this|your|here|with|the)\b/i,
  /\byour[_ -]?(key|id|token|secret|api|app|client)\b/i,
  /^(TODO|FIXME|TBD|CHANGE[_-]?ME|REPLACE[_-]?ME|PLACEHOLDER|DUMMY|EXAMPLE|SAMPLE)\b/i,
  /^[xX]{3,}([-_.]?[xX]{3,})*$/,
  /^(.)\1{5,}$/,
  /^(api|app|client)[_-]?(key|id|secret)[_-]?here$/i,
];

/** True for an instruction text that was left in place of a value. */
export function isPlaceholderText(text: string): boolean {
  const trimmed = text.trim();
  return trimmed !== "" && PLACEHOLDERS.some((pattern) => pattern.test(trimmed));
}
