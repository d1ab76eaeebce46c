/** Whether an import stands in the code: not in a comment, which `plain` is without, nor in a text of several lines. */
export function standsInCode({ index, 0: text }: RegExpExecArray, plain: string): boolean {
  return plain.slice(index, index + text.length) === text && !isInTemplate(plain, index);
}

/** Whether a place stands in a text of several lines: between two backticks. */
function isInTemplate(text: string, offset: number): boolean {
  return ((text.slice(0, offset).match(/(?<!\\)`/g) ?? []).length & 1) === 1;
}
