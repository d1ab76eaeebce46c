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
  /^(your|my)[_ -]?\w*(password|passphrase|keystore|alias)$/i,
  /^(TODO|FIXME|TBD|CHANGE[_-]?ME|REPLACE[_-]?ME|PLACEHOLDER|DUMMY|EXAMPLE|SAMPLE)(?![A-Za-z0-9])/i,
  /^(INSERT|REPLACE|ENTER|PASTE|PUT|ADD|SET)(_[A-Z0-9]+)*_(HERE|ME)$/i,
  /^[xX]{3,}([-_.]?[xX]{3,})*$/,
  /^(.)\1{5,}$/,
  /^(api|app|client)[_-]?(key|id|secret)[_-]?here$/i,
];

/** In a sentence, what is marked as something to be replaced. */
const IN_SENTENCE =
  /<[A-Za-z][^<>]*>|‹[^‹›]+›|\{\{[^{}]+\}\}|\bTODO\b|\bFIXME\b|\bYOUR_[A-Z0-9_]+\b|\b[A-Z]+_(HERE|GOES_HERE)\b|^\[[^\]]*\]$/;

/** True for an instruction that was left in a sentence that people will read; plain words, such as "your location", are none. */
export function isPlaceholderSentence(text: string): boolean {
  return IN_SENTENCE.test(text.trim());
}

/** True for a placeholder from the instructions that was left in place of a value. */
export function isPlaceholderText(text: string): boolean {
  const trimmed = text.trim();
  // Four words and more are a sentence.
  if (/\S\s+\S+\s+\S+\s+\S/.test(trimmed))
    return isPlaceholderSentence(trimmed) || /^(insert|replace|enter|paste|put|add)\b[^.]*\b(key|token|secret)\b/i.test(trimmed);
  return trimmed !== "" && PLACEHOLDERS.some((pattern) => pattern.test(trimmed));
}
