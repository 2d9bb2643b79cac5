import { array, boolean, lazy, type Lazy, number, object, type Schema, string } from 'yup';
import { BODY_DEPTH, BODY_PARTS, type BodyPart, inputsIn, sizeOf } from '../../core/bots/bodies';
import {
  type Connector,
  found,
  METHODS,
  type OutsideRequest,
  replyOf,
  requestOf,
  type SignIn,
} from '../../core/bots/connectors';
import type { Value } from '../../core/bots/value';
import { LaneError } from '../../core/errors';
import {
  ALLOWED_HOSTS,
  CONNECTORS,
  STAND_IN,
  secretOf,
  TABLES,
  THE_STAND_IN,
  THE_HOSTS,
  isAllowedHost,
  writeSecret,
} from '../../data/connectors';
import { NO_SYSTEM, SYSTEM_MOODS, type SystemMood, type StandInSystem } from '../../standins/system';
import { type Actor, mustHold, mustHoldEverywhere } from '../ground/actor';
import { recordChange, sameRevision } from '../ground/change';
import { exactly, id, oneOf, requiredText, text, whole } from '../ground/schemas';
import { orNull, shaped } from '../ground/shaped';
import { parse } from '../ground/validate';
import { type BotPartsDeps, head, mayChange, type Named, part, save, usersOf } from './keepparts';
import { hostFault } from './outside';

/** What is sent as part of every request is not for a connector to say; who asks stands under how it signs in. */
const TAKEN_HEADERS = [
  'host',
  'connection',
  'content-length',
  'content-type',
  'transfer-encoding',
  'authorization',
  'cookie',
  'idempotency-key',
];
const headerName = string()
  .matches(/^[!#$%&'*+.^_`|~0-9A-Za-z-]{1,60}$/, 'A header’s name has letters, digits and dashes')
  .test(
    'taken',
    ({ value }) => `The header ${String(value)} is set by itself`,
    (name) => !TAKEN_HEADERS.includes(name?.toLowerCase() ?? ''),
  )
  .required('A header has no name');
const headerValue = string()
  .matches(/^[\t\x20-\x7e\x80-\xff]*$/, 'A header’s value has no line breaks')
  .max(500, 'A header’s value may have at most 500 characters')
  .defined('A header has no value');
const path = (label: string) =>
  string()
    .matches(/^\/[^\s\\]*$/, `${label} begins with / and has no spaces`)
    .max(300)
    .required(`${label} is missing`);
const signIn = shaped<SignIn, 'by'>(
  'by',
  {
    bearer: {},
    basic: { user: requiredText(120, 'The user') },
    header: { header: headerName },
    client: {
      clientId: requiredText(200, 'The client’s id'),
      tokenHost: requiredText(200, 'The host of tokens'),
      tokenPath: path('The path of tokens'),
      scope: text(300, 'The scope').defined(),
    },
  },
  'How it signs in',
  {},
);
const bodyPart: Lazy<BodyPart> = lazy((value: unknown) => BODY.resolve({ value }) as Schema<BodyPart>);
const BODY = shaped<BodyPart, 'is'>(
  'is',
  {
    object: {
      fields: array(exactly(object({ name: requiredText(60, 'A field’s name'), value: bodyPart })))
        .max(60, 'At most 60 fields')
        .required(),
    },
    list: { items: array(bodyPart).max(60, 'At most 60 items').required() },
    input: { name: part('An input') },
    text: { text: string().max(1000, 'A text may have at most 1000 characters').defined() },
    number: { number: number().required('A number is missing') },
    'yes-no': { yes: boolean().required() },
  },
  'A part of the body',
  {},
);

/** How a connector asks; its name and its secret stand beside it. */
export const connectorShape = {
  does: oneOf(['look-up', 'do'] as const, 'What it does'),
  host: text(200, 'The host').defined(),
  method: oneOf(METHODS, 'The method'),
  path: path('The path'),
  headers: array(exactly(object({ name: headerName, value: headerValue })))
    .max(20, 'At most 20 headers')
    .required('The headers are missing'),
  body: orNull(bodyPart),
  signIn,
  inputs: array(part('An input')).max(20, 'At most 20 inputs').required(),
  outputs: array(
    exactly(
      object({
        name: part('An output'),
        from: string()
          .matches(/^[\w-]+(\.[\w-]+)*$/, 'Where an output stands is names with dots, as order.delivery.date')
          .required('Where an output stands is missing'),
      }),
    ),
  )
    .max(20, 'At most 20 outputs')
    .required(),
  timeoutSeconds: whole(1, 30, 'The time-out'),
};
const connectorSchema = exactly(
  object({ ...head, ...connectorShape, secret: string().max(500).nullable().optional() }),
);

const hostsSchema = exactly(
  object({
    revision: whole(0, 1e9, 'The revision'),
    hosts: array(requiredText(200, 'A host')).max(40, 'At most 40 hosts').required(),
  }),
);

const moodSchema = exactly(object({ mood: oneOf(SYSTEM_MOODS, 'How it behaves') }));

const trySchema = exactly(
  object({
    id: id('The connector'),
    inputs: array(exactly(object({ name: part('An input'), value: string().max(500).defined() })))
      .max(20)
      .required(),
    really: boolean().required(),
  }),
);

export type ConnectionsView = {
  readonly connectors: readonly (Connector & Named & { readonly hasSecret: boolean })[];
  readonly tables: readonly (Named & {
    readonly columns: readonly string[];
    readonly rows: readonly (readonly string[])[];
  })[];
  readonly hosts: readonly string[];
  readonly hostsRevision: number;
  /** The simulated system that connectors without a host ask; null where none is registered. */
  readonly system: { readonly name: string; readonly about: string; readonly mood: SystemMood } | null;
  readonly mayChange: boolean;
  readonly mayAllow: boolean;
};

/** What came of trying a connector by hand. */
export type ConnectorTried = {
  readonly outcome: string;
  /** What was sent, but for the secret. */
  readonly request: {
    readonly line: string;
    readonly headers: OutsideRequest['headers'];
    readonly body: string | null;
  };
  /** What came back, null where nothing was sent or nothing came: the status, and the answer as text, shortened. */
  readonly answer: { readonly status: number; readonly text: string; readonly cut: boolean } | null;
  /** What each output found in it; null for nothing. */
  readonly outputs: readonly { readonly name: string; readonly from: string; readonly value: Value | null }[];
};
/** How much of an answer is shown, characters. */
const SHOWN = 20_000;

const registered = ({ outside }: BotPartsDeps): boolean => outside.system !== NO_SYSTEM;
const nameOf = ({ name, about }: StandInSystem) => ({ name, about });
const hosts = ({ host }: BotPartsDeps) => ALLOWED_HOSTS.one(host.db, THE_HOSTS);

export function viewConnections(deps: BotPartsDeps, actor: Actor): ConnectionsView {
  mustHold(actor, 'settings.view');
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
    system: registered(deps)
      ? { ...nameOf(deps.outside.system), mood: STAND_IN.one(db, THE_STAND_IN)?.mood ?? 'usual' }
      : null,
    mayChange: mayChange(actor),
    mayAllow: actor.roleId === 'owner',
  };
}

/** A secret is written and never read back: left out it stays, empty it goes. */
export function saveConnector(deps: BotPartsDeps, actor: Actor, input: unknown): { id: string; revision: number } {
  mustHoldEverywhere(actor, 'bots.change');
  const { id: thingId, revision, name, secret, ...body } = parse(connectorSchema, input);
  if (body.host === '' && !registered(deps))
    throw new LaneError('not-valid', 'No simulated system is registered here. Choose a host.', [
      { where: 'host', what: 'is missing' },
    ]);
  const size = body.body && sizeOf(body.body);
  if (size && (size.depth > BODY_DEPTH || size.parts > BODY_PARTS))
    throw new LaneError('not-valid', `A body may have ${BODY_PARTS} parts, ${BODY_DEPTH} within each other.`, [
      { where: 'body', what: 'is too large' },
    ]);
  const asked = [
    ...(body.host === '' ? [] : [{ where: 'host', host: body.host }]),
    ...(body.signIn.by === 'client' ? [{ where: 'signIn.tokenHost', host: body.signIn.tokenHost }] : []),
  ];
  for (const { where, host } of asked)
    if (!isAllowedHost(deps.host.db, host))
      throw new LaneError('not-valid', `${host} is not one of the hosts that the owner has allowed.`, [
        { where, what: 'is not allowed' },
      ]);
  const unknown = [
    ...(body.body ? inputsIn(body.body) : []),
    ...body.headers.flatMap((h) => [...h.value.matchAll(/\{([^{}]+)\}/g)].map(([, name = '']) => name)),
  ].find((name) => !body.inputs.includes(name));
  if (unknown !== undefined)
    throw new LaneError('not-valid', `${unknown} is none of its inputs.`, [
      { where: 'inputs', what: `lacks ${unknown}` },
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
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(trySchema, input);
  const connector = CONNECTORS.one(host.db, asked.id);
  if (!connector) throw new LaneError('not-found', 'This connector is not there any more.');
  const request = requestOf(
    connector,
    Object.fromEntries(asked.inputs.map((i) => [i.name, i.value])),
    `tried-${host.times.real()}`,
  );
  const shown = {
    line: `${request.method} ${connector.host || outside.system.name}${request.path}`,
    headers: request.headers,
    body: request.body,
  };
  const nothing = found(connector, null).map(({ name, from }) => ({ name, from, value: null }));
  if (connector.does === 'do' && !asked.really)
    return { outcome: 'not sent', request: shown, answer: null, outputs: nothing };
  const answer =
    connector.host === ''
      ? outside.system.answer(request, STAND_IN.one(host.db, THE_STAND_IN)?.mood ?? 'usual', host.times.floor()).answer
      : await outside.send(request, secretOf(host.db, connector.id));
  const reply = replyOf(connector, answer);
  const outcome = 'outcome' in reply ? reply.outcome : 'failed';
  if ('fault' in answer)
    return { outcome: `${outcome}: ${answer.fault}`, request: shown, answer: null, outputs: nothing };
  const text = JSON.stringify(answer.body, null, 2);
  return {
    outcome,
    request: shown,
    answer: { status: answer.status, text: text.slice(0, SHOWN), cut: text.length > SHOWN },
    outputs: found(connector, answer.body).map(({ value = null, ...o }) => ({ ...o, value })),
  };
}

/** Only the owner says which hosts outside may be asked at all. */
export function saveHosts({ host }: BotPartsDeps, actor: Actor, input: unknown): { hosts: readonly string[] } {
  mustHoldEverywhere(actor, 'roles.change');
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
    recordChange(tx, actor, 'allowed-hosts', THE_HOSTS, before ?? null, after, {
      label: 'Allowed hosts',
    });
    return after;
  });
}

export function saveStandIn({ host, outside }: BotPartsDeps, actor: Actor, input: unknown): { mood: string } {
  mustHoldEverywhere(actor, 'bots.change');
  const asked = parse(moodSchema, input);
  return host.transact((tx) => {
    const before = STAND_IN.one(tx.db, THE_STAND_IN);
    STAND_IN.write(tx.db, THE_STAND_IN, outside.system.name, asked);
    recordChange(tx, actor, 'stand-in-system', THE_STAND_IN, before ?? null, asked, { label: outside.system.name });
    return asked;
  });
}
