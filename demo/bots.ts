import { array, object } from 'yup';
import { sharedSchema } from '../src/services/bots/botschema';
import { readBotFile } from '../src/services/bots/botfiles';
import { connectorShape } from '../src/services/bots/connections';
import { exactly, id, requiredText } from '../src/services/ground/schemas';
import { parse } from '../src/services/ground/validate';
import type { Connector } from '../src/core/bots/connectors';
import type { SharedScene } from '../src/core/bots/model';
import type { Phrasebook } from '../src/core/phrases/book';
import { readBookJson } from '../src/core/phrases/bookfile';
import { keepLearnt } from '../src/core/phrases/packed';
import { learn } from '../src/core/phrases/learning';
import { UNDERSTANDING } from '../src/data/meaning';
import chat from './files/bots/chat-front-door.json';
import updates from './files/bots/delivery-updates.json';
import evening from './files/bots/evening-desk.json';
import repairs from './files/bots/repairs-line.json';
import schools from './files/bots/school-accounts.json';
import telephone from './files/bots/telephone-front-door.json';
import book from './files/phrasebook-source.json';
import apart from './files/phrases-aside.json';
import taught from './files/phrases-taught.json';
import workspace from './files/workspace.json';

/**
 * The demo's bots in the product's own format: each can be taken out of the product, changed there and put back here.
 */
const BOT_FILES: readonly (readonly [id: string, file: unknown])[] = [
  ['bot_front', telephone],
  ['bot_chat', chat],
  ['bot_text', updates],
  ['bot_schools', schools],
  ['bot_repairs', repairs],
  ['bot_evening', evening],
];
export const BOTS = BOT_FILES.map(([id, file]) => ({ id, ...readBotFile(JSON.stringify(file)) }));

const named = { id: id('The thing'), name: requiredText(60, 'The name') };
export const SHARED: readonly SharedScene[] = parse(
  array(exactly(object({ ...named, ...sharedSchema }))).required(),
  workspace.shared,
);
export const CONNECTORS_MADE: readonly Connector[] = parse(
  array(exactly(object({ ...named, ...connectorShape }))).required(),
  workspace.connectors.map((c) => ({ headers: [], body: null, signIn: { by: 'bearer' }, ...c })),
);
export const TABLES_MADE = workspace.tables;
export const ARTICLES_MADE = workspace.articles;

let learnt: { readonly book: Phrasebook; readonly text: string } | null = null;
/** The phrasebook as it was brought in, with what its lead has taught it since. */
export function readBook(): Phrasebook {
  const read = readBookJson(JSON.stringify(book));
  if ('faults' in read) throw new Error(`the demo's phrasebook cannot be read: ${read.faults[0]?.what ?? ''}`);
  const since: Readonly<Record<string, Readonly<Record<string, readonly string[]>>>> = taught;
  return {
    ...read.book,
    otherWords: apart.otherWords,
    aside: apart.aside.flatMap(([intentId = null, language, text]) =>
      language && text ? [{ intentId, language, text }] : [],
    ),
    intents: read.book.intents.map((i) => ({
      ...i,
      examples: Object.fromEntries(
        Object.entries(i.examples).map(([language, texts]) => [
          language,
          [...texts, ...(since[i.id]?.[language] ?? [])],
        ]),
      ),
    })),
  };
}
/** The company's phrasebook with what was learnt from it; learnt once a process. */
export function phrasebookLearnt(): NonNullable<typeof learnt> {
  if (!learnt) {
    const made = readBook();
    const { encoder, glosses } = UNDERSTANDING;
    learnt = { book: made, text: keepLearnt(learn(made, { encoder: encoder(), glosses: glosses() })) };
  }
  return learnt;
}
