/** A part of a text: words, or the address of a page. */
export type TextPart = { readonly text: string; readonly href: string | null };

const ADDRESS = /https?:\/\/[^\s<>"“”]+/giu;
/** What ends a sentence rather than an address, and a bracket that was not opened in it. */
const TRAILING = /[.,;:!?'’…]+$/u;

function addressIn(found: string): string {
  let address = found.replace(TRAILING, '');
  while (address.endsWith(')') && address.split('(').length < address.split(')').length)
    address = address.slice(0, -1).replace(TRAILING, '');
  return address;
}

/** The parts of a text, in order: addresses of pages (http and https alone) apart from what stands around them. */
export function linkParts(text: string): TextPart[] {
  const parts: TextPart[] = [];
  let from = 0;
  for (const match of text.matchAll(ADDRESS)) {
    const href = addressIn(match[0]);
    if (!URL.canParse(href)) continue;
    if (match.index > from) parts.push({ text: text.slice(from, match.index), href: null });
    parts.push({ text: href, href });
    from = match.index + href.length;
  }
  if (from < text.length) parts.push({ text: text.slice(from), href: null });
  return parts;
}
