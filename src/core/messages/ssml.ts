import { XMLParser, XMLValidator } from 'fast-xml-parser';

/**
 * The part of SSML 1.1 (W3C Recommendation, 7 September 2010) that wording may use by voice: pauses, digits read one by
 * one, emphasis, speed, and another language. Wording without a tag is plain text, in which < and & mean themselves.
 */
export const SSML_TAGS: Readonly<Record<string, Readonly<Record<string, RegExp>>>> = {
  break: { time: /^\d{1,5}ms$|^\d{1,2}(\.\d+)?s$/ },
  'say-as': { 'interpret-as': /^(digits|characters|cardinal|date|time|telephone)$/ },
  emphasis: { level: /^(strong|moderate|reduced)$/ },
  prosody: { rate: /^(x-slow|slow|medium|fast|x-fast)$/ },
  lang: { 'xml:lang': /^[a-z]{2,3}(-[A-Za-z0-9]{2,8})*$/ },
};

/**
 * Words to be said. Plain ones mean themselves, whatever signs stand in them; only tagged ones are read as SSML, and a
 * value filled into those was escaped first. Whether words are tagged is decided by whoever wrote the wording, never
 * by what a customer said.
 */
export type Speech = { readonly text: string; readonly tagged: boolean };

/** One stretch of speech: words with how they are said, or a pause in seconds. */
export type SpeechPart =
  | {
      readonly say: string;
      readonly digits: boolean;
      readonly rate: number;
      readonly strong: boolean;
      readonly language: string | null;
    }
  | { readonly pause: number };

type Node = Readonly<Record<string, unknown>> & { readonly ':@'?: Readonly<Record<string, string>> };
const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  trimValues: false,
  parseTagValue: false,
});
const HAS_TAG = /<[a-z/]/i;
const RATES: Readonly<Record<string, number>> = { 'x-slow': 0.6, slow: 0.8, medium: 1, fast: 1.2, 'x-fast': 1.5 };

const isSsml = (text: string): boolean => HAS_TAG.test(text);
/** Wording as its author wrote it: tagged when it has tags. */
export const wordingSpeech = (text: string): Speech => ({ text, tagged: isSsml(text) });
/** Words that are not wording: said as they stand. */
export const plainSpeech = (text: string): Speech => ({ text, tagged: false });

/** Speech, or where there is none other words. */
export const orElse = (speech: Speech, text: string): Speech => (speech.text ? speech : plainSpeech(text));
/** Plain words with speech, in the order given: they are escaped where the speech has tags. */
export const together = (before: string, speech: Speech, after = ''): Speech => ({
  text: [before, after].map((plain) => (speech.tagged ? escapeXml(plain) : plain)).join(speech.text),
  tagged: speech.tagged,
});

/** The parsed body of tagged words; null when they cannot be read. Never throws: the parser refuses some names so. */
function bodyOf(text: string): readonly Node[] | null {
  try {
    return ((parser.parse(`<speak>${text}</speak>`) as Node[])[0]?.speak ?? null) as readonly Node[] | null;
  } catch {
    return null;
  }
}

/** Values put into wording with tags must not become tags themselves. */
export const escapeXml = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;');

/** What is wrong with wording for voice, in a sentence, or null. */
export function ssmlFault(text: string): string | null {
  if (!isSsml(text)) return null;
  const valid = XMLValidator.validate(`<speak>${text}</speak>`);
  if (valid !== true) return `The tags do not fit together: ${valid.err.msg.toLowerCase()}`;
  const walk = (nodes: readonly Node[]): string | null => {
    for (const node of nodes) {
      const tag = Object.keys(node).find((k) => k !== ':@');
      if (!tag || tag === '#text') continue;
      const known = SSML_TAGS[tag];
      if (!known)
        return `<${tag}> is not one of ${Object.keys(SSML_TAGS)
          .map((t) => `<${t}>`)
          .join(', ')}.`;
      for (const [name, value] of Object.entries(node[':@'] ?? {}))
        if (!known[name]?.test(value)) return `<${tag}> does not take ${name}="${value}".`;
      const inner = walk(node[tag] as Node[]);
      if (inner) return inner;
    }
    return null;
  };
  const body = bodyOf(text);
  return body ? walk(body) : 'The tags cannot be read.';
}

/** Speech as stretches of speech and pauses. Wording whose tags do not fit together is said without them. */
export function speechParts({ text, tagged }: Speech): SpeechPart[] {
  const plain = { digits: false, rate: 1, strong: false, language: null };
  if (!tagged) return text.trim() ? [{ say: text, ...plain }] : [];
  const body = bodyOf(text);
  if (body === null || ssmlFault(text) !== null)
    return [
      {
        say: text
          .replace(/<[^>]*>/g, ' ')
          .replace(/\s+/g, ' ')
          .trim(),
        ...plain,
      },
    ];
  const parts: SpeechPart[] = [];
  const walk = (nodes: readonly Node[], how: Omit<Extract<SpeechPart, { say: string }>, 'say'>): void => {
    for (const node of nodes) {
      const tag = Object.keys(node).find((k) => k !== ':@') ?? '';
      const at = node[':@'] ?? {};
      if (tag === '#text') {
        const say = String(node['#text']);
        if (say.trim()) parts.push({ ...how, say: how.digits ? [...say.replace(/\s/g, '')].join(' ') : say });
      } else if (tag === 'break')
        parts.push({
          pause: /ms$/.test(at.time ?? '') ? parseFloat(at.time ?? '0') / 1000 : parseFloat(at.time ?? '0.5'),
        });
      else
        walk(node[tag] as Node[], {
          ...how,
          digits: how.digits || (tag === 'say-as' && /digits|characters|telephone/.test(at['interpret-as'] ?? '')),
          strong: how.strong || tag === 'emphasis',
          rate: tag === 'prosody' ? (RATES[at.rate ?? 'medium'] ?? 1) : how.rate,
          language: tag === 'lang' ? (at['xml:lang'] ?? null) : how.language,
        });
    }
  };
  walk(body, plain);
  return parts;
}

/** The words of wording without its tags: what stands in a transcript. */
export const withoutTags = (speech: Speech): string =>
  speech.tagged
    ? speechParts(speech)
        .flatMap((p) => ('say' in p ? [p.say.trim()] : []))
        .join(' ')
        .replace(/\s+/g, ' ')
        .replace(/ ([.,;:?])/g, '$1')
        .trim()
    : speech.text;

/**
 * How long wording takes to say, in seconds: 15 characters a second, as measured speech of about 155 words a minute
 * has, half a second a full stop, and its pauses.
 */
export function speechSeconds(speech: Speech): number {
  return speechParts(speech).reduce(
    (sum, p) =>
      sum +
      ('pause' in p ? p.pause : p.say.trim().length / 15 / p.rate + 0.5 * (p.say.match(/[.?!](?=\s)/g)?.length ?? 0)),
    0,
  );
}

/** Wording as a whole SSML document, for a speech service. */
export const ssmlDocument = ({ text, tagged }: Speech, language: string): string =>
  `<speak version="1.1" xmlns="http://www.w3.org/2001/10/synthesis" xml:lang="${language}">${tagged ? text : escapeXml(text)}</speak>`;
