import { RE2JS } from 're2js';

const patterns = new Map<string, RE2JS | null>();
/** Compiles an RE2 expression, which takes time in proportion to the text whatever it says; null when it is not one. */
export function patternFrom(pattern: string): RE2JS | null {
  const known = patterns.get(pattern);
  if (known !== undefined) return known;
  let compiled: RE2JS | null;
  try {
    compiled = RE2JS.compile(pattern, RE2JS.CASE_INSENSITIVE);
  } catch {
    compiled = null;
  }
  if (patterns.size > 500) patterns.clear();
  patterns.set(pattern, compiled);
  return compiled;
}
