import { object, string } from 'yup';
import type { Connector } from '../../core/bots/connectors';
import { allSteps, lineNumber, type SharedScene } from '../../core/bots/model';
import { type ReferenceKind, referencesOf } from '../../core/bots/references';
import type { Heavy } from '../../core/heavy';
import { LaneError } from '../../core/errors';
import { holds } from '../../core/people/rights';
import { ARTICLES, wordArticle } from '../../data/articles';
import { readBots, SHARED_SCENES } from '../../data/bots';
import { CONNECTORS, isAllowedHost, TABLES, writeSecret } from '../../data/connectors';
import type { Db } from '../../data/database';
import { type documents, valueOf } from '../../data/documents';
import type { Outside } from './outside';
import { type Actor, mustHoldEverywhere } from '../ground/actor';
import { type Undoable, recordChange, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, oneOf, requiredText, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import type { BotWorlds } from './botworld';

export const head = {
  id: string().nullable().defined(),
  revision: whole(0, 1e9, 'The revision'),
  name: requiredText(60, 'The name'),
};

export const part = (label: string) => requiredText(60, label);

const removeSchema = exactly(
  object({ kind: oneOf(['connector', 'table', 'shared-scene', 'article'] as const, 'The kind'), id: id('It') }),
);

export type Named = {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly usedBy: readonly string[];
};

/** What the functions of this file are given first. */
export type BotPartsDeps = {
  readonly host: Host;
  readonly worlds: BotWorlds;
  readonly outside: Outside;
  readonly heavy: Heavy;
};

type Kind = keyof typeof STORES;

/** Where something is referred to: bots' drafts and shared scenes. */
export function usersOf({ host }: BotPartsDeps, kind: ReferenceKind, thingId: string): string[] {
  const uses = (steps: SharedScene['steps']): string | undefined =>
    steps.find((s) => referencesOf(s).some((r) => r.kind === kind && r.id === thingId))?.id;
  const bots = readBots(host.db).flatMap((b) => {
    const line = uses(allSteps(b.draft));
    return line ? [`${b.name} ${lineNumber(b.draft, line) ?? ''}`] : [];
  });
  return [...bots, ...SHARED_SCENES.all(host.db).flatMap((s) => (uses(s.steps) && s.id !== thingId ? [s.name] : []))];
}

type ChangeOfPart = [
  tx: Tx,
  actor: Actor,
  kind: string,
  thingId: string,
  before: object | null,
  after: { readonly name: string; readonly [part: string]: unknown },
];

export function save<T extends object>(
  { host }: BotPartsDeps,
  actor: Actor,
  kind: string,
  store: ReturnType<typeof documents<T>>,
  asked: { id: string | null; revision: number; name: string },
  body: NoInfer<T>,
  also: (tx: Tx, thingId: string) => void = () => undefined,
  record: (...change: ChangeOfPart) => unknown = (...change) => recordChange(...change),
): { id: string; revision: number } {
  return host.transact((tx) => {
    const before = asked.id === null ? undefined : store.one(tx.db, asked.id);
    if (asked.id !== null && !before) throw new LaneError('not-found', 'It is not there any more.');
    sameRevision(before, asked.revision, asked.name);
    if (
      kind !== 'article' &&
      store.all(tx.db).some((t) => t.id !== asked.id && t.name.toLowerCase() === asked.name.toLowerCase())
    )
      throw new LaneError('not-valid', `There is already one called ${asked.name}.`, [
        { where: 'name', what: 'is taken' },
      ]);
    const thingId = asked.id ?? tx.ids(kind.replace('-', '_'));
    store.write(tx.db, thingId, asked.name, body);
    also(tx, thingId);
    record(tx, actor, kind, thingId, before ? valueOf(before) : null, { name: asked.name, ...body });
    return { id: thingId, revision: (before?.revision ?? 0) + 1 };
  });
}

const STORES = { connector: CONNECTORS, table: TABLES, 'shared-scene': SHARED_SCENES, article: ARTICLES } as const;

const KIND_OF: Readonly<Record<Exclude<keyof typeof STORES, 'article'>, ReferenceKind>> = {
  connector: 'connector',
  table: 'table',
  'shared-scene': 'shared',
};

function drop(tx: Tx, kind: Kind, thingId: string): void {
  STORES[kind].remove(tx.db, thingId);
  if (kind === 'article') wordArticle(tx.db, thingId, null);
}

function restore(tx: Tx, kind: Kind, thingId: string, value: unknown): void {
  STORES[kind].restore(tx.db, thingId, value);
  const article = kind === 'article' ? ARTICLES.one(tx.db, thingId) : undefined;
  if (article) indexArticle(tx, article);
}

/** Makes an article's words findable, in the language without its country. */
export const indexArticle = (
  tx: Tx,
  { id: articleId, name, language, text }: { id: string; name: string; language: string; text: string },
): void => wordArticle(tx.db, articleId, { language: language.split('-')[0] ?? language, title: name, text });

/** A connector comes back only to a host that may still be asked. */
function mustBeAllowed(db: Db, value: unknown): void {
  const { host, signIn } = value as Pick<Connector, 'host' | 'signIn'>;
  for (const asked of [host, signIn.by === 'client' ? signIn.tokenHost : ''])
    if (asked !== '' && !isAllowedHost(db, asked))
      throw new LaneError('not-allowed', `${asked} is not one of the hosts that the owner allows any more.`);
}

const NAMES: Readonly<Record<Kind, readonly [name: string, path: string]>> = {
  connector: ['connector', '/bots/connections'],
  table: ['table', '/bots/connections'],
  'shared-scene': ['shared scene', '/bots/shared'],
  article: ['article', '/bots/articles'],
};

export const undoableParts = (deps: BotPartsDeps) =>
  Object.fromEntries(
    (Object.keys(STORES) as Kind[]).map((kind): [string, Undoable] => [
      kind,
      {
        name: NAMES[kind][0],
        path: () => NAMES[kind][1],
        read: (db, thingId) => {
          const there = STORES[kind].one(db, thingId);
          return there ? valueOf(there) : null;
        },
        restore: (tx, actor, thingId, value) => {
          mustHoldEverywhere(actor, 'bots.change');
          const users = value === null && kind !== 'article' ? usersOf(deps, KIND_OF[kind], thingId) : [];
          if (users.length > 0) throw new LaneError('not-now', `It is used by ${users.join(', ')}.`);
          if (value === null) drop(tx, kind, thingId);
          else {
            if (kind === 'connector') mustBeAllowed(tx.db, value);
            restore(tx, kind, thingId, value);
          }
        },
      },
    ]),
  );

export const mayChange = (actor: Actor): boolean => holds(actor, 'bots.change') && actor.teams === 'all';

/** Takes something away that no draft uses; published versions keep their own copy. */
export function removePart(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(removeSchema, input);
  return deps.host.transact((tx) => {
    const before = STORES[asked.kind].one(tx.db, asked.id);
    if (!before) throw new LaneError('not-found', 'It is not there any more.');
    const users = asked.kind === 'article' ? [] : usersOf(deps, KIND_OF[asked.kind], asked.id);
    if (users.length > 0) throw new LaneError('not-now', `It is used by ${users.join(', ')}.`);
    drop(tx, asked.kind, asked.id);
    if (asked.kind === 'connector') writeSecret(tx.db, asked.id, null);
    recordChange(tx, actor, asked.kind, asked.id, valueOf(before), null);
    return { id: asked.id };
  });
}
