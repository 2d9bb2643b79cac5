import { array, boolean, object, string } from 'yup';
import { checkShared } from '../../core/bots/checks';
import { type Connector, METHODS, replyOf, requestOf } from '../../core/bots/connectors';
import type { BotFault } from '../../core/bots/faults';
import { allSteps, lineNumber, type SharedScene } from '../../core/bots/model';
import { type ReferenceKind, referencesOf } from '../../core/bots/references';
import { LaneError } from '../../core/errors';
import { readTable, UnreadableTable, writeTable } from '../../core/formats/csv';
import { holds } from '../../core/people/rights';
import {
  ALLOWED_HOSTS,
  ARTICLES,
  CONNECTORS,
  HIRE_DESK,
  readBots,
  secretOf,
  SHARED_SCENES,
  TABLES,
  THE_HIRE_DESK,
  THE_HOSTS,
  wordArticle,
  writeSecret,
} from '../../data/bots';
import type { documents } from '../../data/documents';
import { readWorkspace } from '../../data/settings';
import { DESK_MOODS } from '../../standins/hiredesk';
import { articleFor } from '../contacts/botanswers';
import type { Outside } from '../contacts/botrun';
import { type Actor, need, needEverywhere } from '../ground/actor';
import { bind } from '../ground/bind';
import { type Kept, recordChange, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, languageTag, oneOf, requiredText, text, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { sharedSchema } from './botschema';
import type { BotWorlds } from './botworld';
import { hostFault } from './outside';

const head = {
  id: string().nullable().defined(),
  revision: whole(0, 1e9, 'The revision'),
  name: requiredText(60, 'The name'),
};
const part = (label: string) => requiredText(60, label);
const connectorSchema = exactly(
  object({
    ...head,
    does: oneOf(['look-up', 'do'] as const, 'What it does'),
    host: text(200, 'The host').defined(),
    method: oneOf(METHODS, 'The method'),
    path: string()
      .matches(/^\/[^\s\\]*$/, 'The path begins with / and has no spaces')
      .max(300)
      .required('The path is missing'),
    inputs: array(part('An input')).max(20, 'At most 20 inputs').required(),
    outputs: array(
      exactly(
        object({
          name: part('An output'),
          from: string()
            .matches(/^[\w-]+(\.[\w-]+)*$/, 'Where an output stands is names with dots, as hire.delivery.date')
            .required('Where an output stands is missing'),
        }),
      ),
    )
      .max(20, 'At most 20 outputs')
      .required(),
    timeoutSeconds: whole(1, 30, 'The time-out'),
    secret: string().max(500).nullable().optional(),
  }),
);
const tableSchema = exactly(
  object({
    ...head,
    columns: array(part('A column')).min(1, 'A table has a column').max(20, 'At most 20 columns').required(),
    rows: array(array(string().max(500, 'A cell may have at most 500 characters').defined()).required())
      .max(2000, 'At most 2000 rows')
      .required(),
  }),
);
const sceneSchema = exactly(object({ ...head, ...sharedSchema }));
const articleSchema = exactly(
  object({
    ...head,
    name: requiredText(120, 'The title'),
    language: languageTag,
    text: requiredText(4000, 'The text'),
  }),
);
const hostsSchema = exactly(
  object({
    revision: whole(0, 1e9, 'The revision'),
    hosts: array(requiredText(200, 'A host')).max(40, 'At most 40 hosts').required(),
  }),
);
const moodSchema = exactly(object({ mood: oneOf(DESK_MOODS, 'How it behaves') }));
const removeSchema = exactly(
  object({ kind: oneOf(['connector', 'table', 'shared-scene', 'article'] as const, 'The kind'), id: id('It') }),
);
const trySchema = exactly(
  object({
    id: id('The connector'),
    inputs: array(exactly(object({ name: part('An input'), value: string().max(500).defined() })))
      .max(20)
      .required(),
    really: boolean().required(),
  }),
);
const csvSchema = exactly(
  object({ text: string().max(900_000, 'The file is larger than 900 KB').required('The file is empty') }),
);
const questionSchema = exactly(object({ question: requiredText(300, 'The question'), language: languageTag }));

type Named = {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly usedBy: readonly string[];
};
export type ConnectionsView = {
  readonly connectors: readonly (Connector & Named & { readonly hasSecret: boolean })[];
  readonly tables: readonly (Named & {
    readonly columns: readonly string[];
    readonly rows: readonly (readonly string[])[];
  })[];
  readonly hosts: readonly string[];
  readonly hostsRevision: number;
  readonly mood: (typeof DESK_MOODS)[number];
  readonly mayChange: boolean;
  readonly mayAllow: boolean;
};
export type SharedView = {
  readonly scenes: readonly (SharedScene & Named & { readonly faults: readonly BotFault[] })[];
  readonly languages: readonly string[];
  readonly mayChange: boolean;
};
export type ArticlesView = {
  readonly articles: readonly {
    readonly id: string;
    readonly name: string;
    readonly language: string;
    readonly text: string;
    readonly revision: number;
  }[];
  readonly languages: readonly string[];
  readonly mayChange: boolean;
};
/** What came of trying a connector by hand. */
export type ConnectorTried = {
  readonly outcome: string;
  readonly outputs: Readonly<Record<string, string | number | boolean>>;
  readonly request: string;
};

/** A kept thing as history has it: its name and content, without where it stands. */
function valueOf<T extends { id: string; place: number; revision: number }>({
  id: _id,
  place: _place,
  revision: _revision,
  ...value
}: T) {
  return value;
}

/** What the functions of this file are given first. */
export type BotPartsDeps = { readonly host: Host; readonly worlds: BotWorlds; readonly outside: Outside };

type Kind = keyof typeof STORES;

/** Where something is referred to: bots' drafts and shared scenes. */
function usersOf({ host }: BotPartsDeps, kind: ReferenceKind, thingId: string): string[] {
  const uses = (steps: SharedScene['steps']): string | undefined =>
    steps.find((s) => referencesOf(s).some((r) => r.kind === kind && r.id === thingId))?.id;
  const bots = readBots(host.db).flatMap((b) => {
    const line = uses(allSteps(b.draft));
    return line ? [`${b.name} ${lineNumber(b.draft, line) ?? ''}`] : [];
  });
  return [...bots, ...SHARED_SCENES.all(host.db).flatMap((s) => (uses(s.steps) && s.id !== thingId ? [s.name] : []))];
}

function save<T extends object>(
  { host }: BotPartsDeps,
  actor: Actor,
  kind: string,
  store: ReturnType<typeof documents<T>>,
  asked: { id: string | null; revision: number; name: string },
  body: NoInfer<T>,
  also: (tx: Tx, thingId: string) => void = () => undefined,
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
    recordChange(tx, actor, kind, thingId, before ? valueOf(before) : null, { name: asked.name, ...body });
    return { id: thingId, revision: (before?.revision ?? 0) + 1 };
  });
}

const hosts = ({ host }: BotPartsDeps) => ALLOWED_HOSTS.one(host.db, THE_HOSTS);

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

function put(tx: Tx, kind: Kind, thingId: string, value: unknown): void {
  const { name, ...body } = value as { name: string };
  STORES[kind].write(tx.db, thingId, name, body as never);
  if (kind === 'article') {
    const { language, text: words } = body as unknown as { language: string; text: string };
    wordArticle(tx.db, thingId, { language: language.split('-')[0] ?? language, title: name, text: words });
  }
}

const NAMES: Readonly<Record<Kind, readonly [name: string, path: string]>> = {
  connector: ['connector', '/bots/connections'],
  table: ['table', '/bots/connections'],
  'shared-scene': ['shared scene', '/bots/shared'],
  article: ['article', '/bots/articles'],
};

export const keptParts = (deps: BotPartsDeps) =>
  Object.fromEntries(
    (Object.keys(STORES) as Kind[]).map((kind): [string, Kept] => [
      kind,
      {
        name: NAMES[kind][0],
        path: () => NAMES[kind][1],
        read: (db, thingId) => {
          const there = STORES[kind].one(db, thingId);
          return there ? valueOf(there) : null;
        },
        restore: (tx, actor, thingId, value) => {
          needEverywhere(actor, 'bots.change');
          const users = value === null && kind !== 'article' ? usersOf(deps, KIND_OF[kind], thingId) : [];
          if (users.length > 0) throw new LaneError('not-now', `It is used by ${users.join(', ')}.`);
          if (value === null) drop(tx, kind, thingId);
          else put(tx, kind, thingId, value);
        },
      },
    ]),
  );

const mayChange = (actor: Actor): boolean => holds(actor, 'bots.change') && actor.teams === 'all';

export function viewConnections(deps: BotPartsDeps, actor: Actor): ConnectionsView {
  need(actor, 'settings.view');
  const { db } = deps.host;
  return {
    connectors: CONNECTORS.all(db).map(({ place: _p, ...c }) => ({
      ...c,
      hasSecret: secretOf(db, c.id) !== null,
      usedBy: usersOf(deps, 'connector', c.id),
    })),
    tables: TABLES.all(db).map(({ place: _p, ...t }) => ({ ...t, usedBy: usersOf(deps, 'table', t.id) })),
    hosts: hosts(deps)?.hosts ?? [],
    hostsRevision: hosts(deps)?.revision ?? 0,
    mood: HIRE_DESK.one(db, THE_HIRE_DESK)?.mood ?? 'usual',
    mayChange: mayChange(actor),
    mayAllow: actor.roleId === 'owner',
  };
}

/** A secret is written and never read back: left out it stays, empty it goes. */
export function saveConnector(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string; revision: number } {
  needEverywhere(actor, 'bots.change');
  const { id: thingId, revision, name, secret, ...body } = parse(connectorSchema, input);
  if (body.host !== '' && !(hosts(deps)?.hosts ?? []).includes(body.host))
    throw new LaneError('not-valid', `${body.host} is not one of the hosts that the owner has allowed.`, [
      { where: 'host', what: 'is not allowed' },
    ]);
  if (new Set(body.outputs.map((o) => o.name)).size < body.outputs.length)
    throw new LaneError('not-valid', 'Two outputs have the same name.', [
      { where: 'outputs', what: 'must have different names' },
    ]);
  return save(deps, actor, 'connector', CONNECTORS, { id: thingId, revision, name }, body, (tx, made) => {
    if (secret !== undefined) writeSecret(tx.db, made, secret === '' ? null : secret);
  });
}

export async function tryConnector(
  { host, outside }: BotPartsDeps,
  actor: Actor,
  input: unknown,
): Promise<ConnectorTried> {
  needEverywhere(actor, 'bots.change');
  const asked = parse(trySchema, input);
  const connector = CONNECTORS.one(host.db, asked.id);
  if (!connector) throw new LaneError('not-found', 'This connector is not there any more.');
  const request = requestOf(
    connector,
    Object.fromEntries(asked.inputs.map((i) => [i.name, i.value])),
    `tried-${host.clocks.real()}`,
  );
  const shown = `${request.method} ${connector.host || 'hire desk'}${request.path}`;
  if (connector.does === 'do' && !asked.really) return { outcome: 'not sent', outputs: {}, request: shown };
  const answer =
    connector.host === ''
      ? outside.hireDesk.answer(request, HIRE_DESK.one(host.db, THE_HIRE_DESK)?.mood ?? 'usual', host.clocks.floor())
          .answer
      : await outside.send(request, secretOf(host.db, connector.id));
  const reply = replyOf(connector, answer);
  return reply.to === 'look-up' || reply.to === 'do'
    ? {
        outcome: 'fault' in answer ? `${reply.outcome}: ${answer.fault}` : reply.outcome,
        outputs: reply.outputs,
        request: shown,
      }
    : { outcome: 'failed', outputs: {}, request: shown };
}

export function saveTable(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string; revision: number } {
  needEverywhere(actor, 'bots.change');
  const { id: thingId, revision, name, ...body } = parse(tableSchema, input);
  if (new Set(body.columns.map((c) => c.toLowerCase())).size < body.columns.length)
    throw new LaneError('not-valid', 'Two columns have the same name.', [
      { where: 'columns', what: 'must have different names' },
    ]);
  const ragged = body.rows.findIndex((r) => r.length !== body.columns.length);
  if (ragged >= 0)
    throw new LaneError(
      'not-valid',
      `Row ${ragged + 2} has ${body.rows[ragged]?.length ?? 0} cells instead of ${body.columns.length}.`,
      [{ where: `rows[${ragged}]`, what: 'has the wrong length' }],
    );
  return save(deps, actor, 'table', TABLES, { id: thingId, revision, name }, body);
}

/** Reads a CSV file as a table, without keeping it: its columns and rows, to be looked at first. */
export function readTableFile(
  actor: Actor,
  input: unknown,
): { columns: readonly string[]; rows: readonly (readonly string[])[] } {
  needEverywhere(actor, 'bots.change');
  const { text: file } = parse(csvSchema, input);
  try {
    const { header, rows } = readTable(file);
    const wide = rows.find((r) => r.cells.slice(header.length).some(Boolean));
    if (wide)
      throw new LaneError('not-valid', `Row ${wide.row} has more cells than the header.`, [
        { where: `row ${wide.row}`, what: 'is too long' },
      ]);
    return { columns: header, rows: rows.map((r) => header.map((_, i) => r.cells[i] ?? '')) };
  } catch (error) {
    if (error instanceof UnreadableTable)
      throw new LaneError('not-valid', `Row ${error.row}: ${error.message}`, [
        { where: `row ${error.row}`, what: error.message },
      ]);
    throw error;
  }
}

export function tableCsv({ host }: BotPartsDeps, actor: Actor, thingId: string): { name: string; text: string } {
  need(actor, 'settings.view');
  const table = TABLES.one(host.db, thingId);
  if (!table) throw new LaneError('not-found', 'This table is not there any more.');
  return { name: `${table.name}.csv`, text: writeTable(table.columns, table.rows) };
}

/** Only the owner says which hosts outside may be asked at all. */
export function saveHosts({ host }: BotPartsDeps, actor: Actor, input: unknown): { hosts: readonly string[] } {
  needEverywhere(actor, 'roles.change');
  const asked = parse(hostsSchema, input);
  if (actor.roleId !== 'owner') throw new LaneError('not-allowed', 'Only the owner allows hosts outside.');
  const faults = asked.hosts.flatMap((h, i) => {
    const what = hostFault(h);
    return what ? [{ where: `hosts[${i}]`, what }] : [];
  });
  if (faults[0]) throw new LaneError('not-valid', faults[0].what, faults);
  return host.transact((tx) => {
    const before = ALLOWED_HOSTS.one(tx.db, THE_HOSTS);
    sameRevision(before, asked.revision, 'The list of hosts');
    const after = { hosts: [...new Set(asked.hosts)] };
    ALLOWED_HOSTS.write(tx.db, THE_HOSTS, 'Allowed hosts', after);
    recordChange(tx, actor, 'allowed-hosts', THE_HOSTS, before ?? null, after, { label: 'Allowed hosts' });
    return after;
  });
}

export function saveHireDesk({ host }: BotPartsDeps, actor: Actor, input: unknown): { mood: string } {
  needEverywhere(actor, 'bots.change');
  const asked = parse(moodSchema, input);
  return host.transact((tx) => {
    const before = HIRE_DESK.one(tx.db, THE_HIRE_DESK);
    HIRE_DESK.write(tx.db, THE_HIRE_DESK, 'Hire desk', asked);
    recordChange(tx, actor, 'hire-desk', THE_HIRE_DESK, before ?? null, asked, { label: 'Hire desk' });
    return asked;
  });
}

export function viewShared(deps: BotPartsDeps, actor: Actor): SharedView {
  need(actor, 'settings.view');
  const languages = readWorkspace(deps.host.db)?.languages ?? ['en'];
  const spoken = (sceneId: string): readonly string[] => {
    const using = readBots(deps.host.db).filter((b) =>
      usersOf(deps, 'shared', sceneId).some((u) => u.startsWith(b.name)),
    );
    return using.length > 0 ? [...new Set(using.flatMap((b) => b.draft.languages))] : languages.slice(0, 1);
  };
  const world = deps.worlds.worldOf(null);
  return {
    languages,
    mayChange: mayChange(actor),
    scenes: SHARED_SCENES.all(deps.host.db).map(({ place: _p, ...s }) => ({
      ...s,
      usedBy: usersOf(deps, 'shared', s.id),
      faults: checkShared(s, world, spoken(s.id)),
    })),
  };
}

export function saveShared(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string; revision: number } {
  needEverywhere(actor, 'bots.change');
  const { id: thingId, revision, name, steps, inputs } = parse(sceneSchema, input);
  return save(deps, actor, 'shared-scene', SHARED_SCENES, { id: thingId, revision, name }, { steps, inputs });
}

export function viewArticles({ host }: BotPartsDeps, actor: Actor): ArticlesView {
  need(actor, 'settings.view');
  return {
    articles: ARTICLES.all(host.db).map(({ place: _p, ...a }) => a),
    languages: readWorkspace(host.db)?.languages ?? ['en'],
    mayChange: mayChange(actor),
  };
}

export function saveArticle(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string; revision: number } {
  needEverywhere(actor, 'bots.change');
  const { id: thingId, revision, name, language, text: words } = parse(articleSchema, input);
  return save(
    deps,
    actor,
    'article',
    ARTICLES,
    { id: thingId, revision, name },
    { language, text: words },
    (tx, made) => wordArticle(tx.db, made, { language: language.split('-')[0] ?? language, title: name, text: words }),
  );
}

/** What a bot would answer to a question; null when nothing fits. */
export function askArticles(
  { host }: BotPartsDeps,
  actor: Actor,
  input: unknown,
): { found: { id: string; title: string; text: string } | null } {
  need(actor, 'settings.view');
  const asked = parse(questionSchema, input);
  return { found: articleFor(host.db, asked.question, asked.language, []) };
}

/** Takes something away that no draft uses; published versions keep their own copy. */
export function removePart(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string } {
  needEverywhere(actor, 'bots.change');
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

/** What bots share: shared scenes, connectors and the hosts they may ask, small tables, and articles. */
export const createBotParts = (deps: BotPartsDeps) => ({
  kept: keptParts(deps),
  readTableFile,
  ...bind(deps, {
    connections: viewConnections,
    saveConnector,
    tryConnector,
    saveTable,
    tableCsv,
    saveHosts,
    saveHireDesk,
    shared: viewShared,
    saveShared,
    articles: viewArticles,
    saveArticle,
    askArticles,
    remove: removePart,
  }),
});
