/**
 * Plain data without some texts: lists without what is one of them or has it as its `text`; wherever else one stands, it
 * becomes empty. Gives the same thing where none of them is in it.
 */
export function withoutTexts(value: unknown, texts: ReadonlySet<string>): unknown {
  if (typeof value === 'string') return texts.has(value) ? '' : value;
  if (Array.isArray(value)) {
    const left = value
      .filter((one: unknown) => !(typeof one === 'string' && texts.has(one)) && !hasText(one, texts))
      .map((one: unknown) => withoutTexts(one, texts));
    return left.length === value.length && left.every((one, i) => one === value[i]) ? value : left;
  }
  if (typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).map(([name, one]) => [name, withoutTexts(one, texts)] as const);
  return entries.every(([name, one]) => one === (value as Record<string, unknown>)[name])
    ? value
    : Object.fromEntries(entries);
}
const hasText = (one: unknown, texts: ReadonlySet<string>): boolean =>
  typeof one === 'object' && one !== null && 'text' in one && typeof one.text === 'string' && texts.has(one.text);
