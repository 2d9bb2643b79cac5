import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { LaneError } from '../../src/core/errors';
import { readDoors } from '../../src/data/doors';
import { readAllHours } from '../../src/data/hours';
import { CHANGES, doer, everything, type ValidAct } from '../helpers/validacts';
import { makeWorld, type World } from '../helpers/world';

/** What a lead may not do by mistake: each refusal has its code, its place and a sentence, and changes nothing. */
let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());

type Input = Record<string, unknown>;
const actOf = (act: string, says?: string): ValidAct => {
  const found = CHANGES.find((a) => a.act === act && (says === undefined || a.says === says));
  if (!found) throw new Error(`nothing valid is known for ${act}`);
  return found;
};
async function refusalOf(act: ValidAct, input: object): Promise<LaneError | null> {
  try {
    await w.services.act(act.act, doer(w, act), input);
    return null;
  } catch (error) {
    if (!(error instanceof LaneError)) throw error;
    return error;
  }
}

describe('what is gone', () => {
  const withId = CHANGES.filter(
    (a) => a.based && !['save-desk-rules', 'save-phrasebook', 'save-coaching'].includes(a.act),
  );
  it.each(withId.map((a) => [a.act, a] as const))('%s of something that is not there any more', async (_, act) => {
    const input = act.input(w) as Input;
    doer(w, act);
    const before = everything(w);
    expect(await refusalOf(act, { ...input, id: 'nothing_there' })).toMatchObject({ code: 'not-found' });
    expect(everything(w)).toEqual(before);
  });
  it.each([
    ['remove-whole', { kind: 'team', id: 'nothing_there', instead: null }],
    ['remove-thing', { kind: 'site', id: 'nothing_there' }],
    ['remove-desk-thing', { kind: 'desk-profile', id: 'nothing_there' }],
    ['remove-bot-part', { kind: 'table', id: 'nothing_there' }],
    ['remove-whole', { kind: 'field', id: 'nothing_there', instead: null }],
    ['remove-bot-test', { id: 'nothing_there' }],
    ['remove-way', { id: 'nothing_there' }],
    ['retire-outcome', { code: 'NOBODY' }],
    ['set-for-now', { personId: 'nothing_there', profileId: 'profile_front', until: '15:00' }],
    ['switch-person', { personId: 'nothing_there', active: false }],
    ['save-own-limits', { personId: 'nothing_there', limits: null }],
    ['publish-bot', { id: 'nothing_there', note: '', override: null, at: null, revision: 1 }],
  ])('%s %j', async (act, input) => {
    expect(await refusalOf(actOf(act), input)).toMatchObject({ code: 'not-found' });
  });
});

describe('names are taken once', () => {
  /** Where the name stands in what the act takes. */
  const named = [
    'save-team',
    'save-skill-set',
    'save-site',
    'save-skill',
    'save-profile',
    'save-desk-profile',
    'save-group',
    'save-partner',
    'save-hours',
    'save-shared-scene',
    'save-connector',
    'save-table',
  ];
  it.each(named)('%s: a second one of the same name, in whatever letters', async (name) => {
    const act = CHANGES.find((a) => a.act === name && a.based) ?? actOf(name);
    const input = act.input(w) as Input & { name: string };
    // The name that the thing has now, since the valid input may give it another.
    const table = Object.values(everything(w)).flat() as Input[];
    const there = table.find((row) => row.id === input.id && typeof row.name === 'string')?.name;
    const refused = await refusalOf(act, { ...input, id: null, revision: 0, name: String(there).toUpperCase() });
    expect(refused).toMatchObject({ code: 'not-valid' });
    expect(refused?.faults).toContainEqual({ where: 'name', what: 'is taken' });
    // Its own name is not in its way, in other letters either.
    expect(await refusalOf(act, { ...input, name: String(there).toUpperCase() })).toBeNull();
  });
  it('a queue and a field likewise, by what tells them apart', async () => {
    const queue = actOf('save-queue');
    const { settings } = queue.input(w) as { settings: Input };
    const twin = await refusalOf(queue, { id: null, revision: 0, settings: { ...settings, name: 'REPAIRS' } });
    expect(twin?.faults).toContainEqual({ where: 'name', what: 'is taken' });
    const field = actOf('save-field');
    const same = await refusalOf(field, { ...(field.input(w) as Input), id: null, revision: 0, name: 'Reason' });
    expect(same?.faults).toContainEqual({ where: 'name', what: 'is taken' });
  });
});

type Row = readonly [
  act: string,
  says: string,
  change: (base: Input, w: World) => object,
  where: string,
  sentence: RegExp,
];
const ROWS: readonly Row[] = [
  ['save-person', 'an address that is none', (b) => ({ ...b, email: 'nobody' }), 'email', /not one/],
  [
    'save-person',
    'an address of somebody else',
    (b) => ({ ...b, email: 'noor.amsel@brindlewood.example' }),
    'email',
    /has|taken|already/,
  ],
  ['save-person', 'a team nobody knows', (b) => ({ ...b, teamId: 'team_x' }), 'teamId', /./],
  ['save-person', 'a duty profile nobody knows', (b) => ({ ...b, dutyProfileId: 'profile_x' }), 'dutyProfileId', /./],
  ['save-team', 'a zone that is none', (b) => ({ ...b, zone: 'Mars/Base' }), 'zone', /zone/i],
  ['save-team', 'a skill nobody knows', (b) => ({ ...b, levels: { skill_x: 3 } }), 'levels', /./],
  ['save-team', 'a level that is none', (b) => ({ ...b, levels: { skill_brass: 9 } }), 'levels', /level/i],
  ['save-skill-set', 'a team nobody knows', (b) => ({ ...b, teamIds: ['team_x'] }), 'teamIds', /./],
  ['save-group', 'hours nobody knows', (b) => ({ ...b, hoursId: 'hours_x' }), 'hoursId', /hours/],
  [
    'save-group',
    'a rule about a team nobody knows',
    (b) => ({ ...b, who: [{ by: 'team', id: 'team_x' }] }),
    'who',
    /team/,
  ],
  ['save-group', 'a weight of nought', (b) => ({ ...b, weights: { person_01: 0 } }), 'weights', /weights/i],
  [
    'save-partner',
    'a number that is none',
    (b) => ({ ...b, numbers: [{ ...((b.numbers as Input[])[0] ?? {}), address: '12' }] }),
    'numbers',
    /telephone number/,
  ],
  ['save-partner', 'no number', (b) => ({ ...b, numbers: [] }), 'numbers', /at least one/],
  ['save-outcome', 'a code of one letter', (b) => ({ ...b, code: 'X' }), 'code', /2 to 8/],
  ['save-outcome', 'a phrase that is there', (b) => ({ ...b, label: 'hire BEGUN' }), 'label', /already/],
  ['save-outcome', 'a longest below its shortest', (b) => ({ ...b, shortest: 60, longest: 30 }), 'longest', /shorter/],
  [
    'save-door',
    'an address of another door',
    (b, world) => ({ ...b, channel: readDoors(world.db)[1]?.channel, address: readDoors(world.db)[1]?.address }),
    'address',
    /already/,
  ],
  ...(
    [
      [
        'a body with an input it does not have',
        { body: { is: 'input', name: 'gone' } },
        'inputs',
        /none of its inputs/,
      ],
      ['a header that is set by itself', { headers: [{ name: 'Host', value: 'x' }] }, 'headers', /by itself/],
      ['a header that begins another', { headers: [{ name: 'X-A', value: 'x\r\nX-B: y' }] }, 'headers', /line breaks/],
      [
        'tokens from a host that is not allowed',
        { signIn: { by: 'client', clientId: 'a', tokenHost: 'https://elsewhere.example', tokenPath: '/t', scope: '' } },
        'signIn',
        /allowed/,
      ],
      [
        'a body that goes too deep',
        { body: [...Array(9)].reduce<object>((item) => ({ is: 'list', items: [item] }), { is: 'yes-no', yes: true }) },
        'body',
        /within each other/,
      ],
    ] as const
  ).map(([says, more, where, sentence]): Row => ['save-connector', says, (b) => ({ ...b, ...more }), where, sentence]),
  [
    'save-queue',
    'a question of its wait clock without words',
    (b) => {
      const { settings } = b as { settings: object };
      const act = { does: 'ask', wording: { en: ' ' }, choices: [{ key: '1', what: 'callback' }], everySeconds: null };
      return { ...b, settings: { ...settings, clocks: { voice: [{ atSeconds: 30, early: false, acts: [act] }] } } };
    },
    'clocks.voice[0]',
    /no words/,
  ],
  ['save-door', 'hours nobody knows', (b) => ({ ...b, hoursId: 'hours_x' }), 'hoursId', /hours/],
  ['save-door', 'a bot nobody knows', (b) => ({ ...b, botId: 'bot_x' }), 'botId', /bot/],
  [
    'save-door',
    'a version on trial that there never was',
    (b) => ({ ...b, trial: { version: 99, percent: 10 } }),
    'trial',
    /version/,
  ],
  [
    'save-door',
    'a bot for when it is closed that nobody knows',
    (b) => ({ ...b, whenClosed: { does: 'bot', botId: 'bot_x' } }),
    'whenClosed',
    /bot/,
  ],
  [
    'save-door',
    'a door that leads to itself',
    (b) => ({ ...b, whenClosed: { does: 'door', doorId: b.id } }),
    'whenClosed',
    /circle/,
  ],
  ['door-by-hand', 'an end that has passed', (b, world) => ({ ...b, until: world.now() }), 'until', /ahead/],
  [
    'door-by-hand',
    'an end in a year',
    (b, world) => ({ ...b, until: world.now() + 365 * 86_400_000 }),
    'until',
    /at most/,
  ],
  ['save-door', 'no language', (b) => ({ ...b, languages: [] }), 'languages', /language/],
  ['save-hours', 'a zone that is none', (b) => ({ ...b, zone: 'Nowhere' }), 'zone', /IANA/],
  [
    'save-hours',
    'one day twice',
    (b) => ({ ...b, exceptions: [1, 2].map(() => ({ date: '2026-12-24', note: '', intervals: [] })) }),
    'exceptions',
    /twice/,
  ],
  ['save-shift', 'a person nobody knows', (b) => ({ ...b, ownerId: 'person_x' }), '', /./],
  [
    'save-desk-profile',
    'a set of replies nobody knows',
    (b) => ({ ...b, stockSetIds: ['stock_x'] }),
    'stockSetIds',
    /does not exist/,
  ],
  [
    'save-desk-profile',
    'a helper without what it needs',
    (b) => ({ ...b, helpers: ['suggest'], panels: { offered: [], talking: [], finishing: [] } }),
    'helpers',
    /./,
  ],
  [
    'save-desk-rules',
    'a profile nobody knows',
    (b) => ({ ...b, rules: [{ who: { by: 'everyone' }, exceptIds: [], profileId: 'desk_x' }] }),
    'rules',
    /does not exist/,
  ],
  [
    'save-connector',
    'a host that the owner has not allowed',
    (b) => ({ ...b, host: 'shop.example' }),
    'host',
    /allowed/,
  ],
  [
    'save-connector',
    'two outputs of one name',
    (b) => ({ ...b, outputs: [1, 2].map((n) => ({ name: 'same', from: `a${n}` })) }),
    'outputs',
    /same name/,
  ],
  ['save-table', 'two columns of one name', (b) => ({ ...b, columns: ['A', 'a'], rows: [] }), 'columns', /same name/],
  [
    'save-table',
    'a row that is too short',
    (b) => ({ ...b, columns: ['A', 'B'], rows: [['1', '2'], ['3']] }),
    'rows[1]',
    /Row 3 has 1 cells instead of 2/,
  ],
  [
    'save-field',
    'another privacy than it had',
    (b) => ({ ...b, private: !b.private }),
    'private',
    /stays private or not/,
  ],
  [
    'save-queue',
    'an order with one rule twice',
    (b) => ({ ...b, settings: { ...(b.settings as Input), order: ['levels', 'levels'] } }),
    'settings.order',
    /./,
  ],
  [
    'save-queue',
    'a skill nobody knows',
    (b) => ({ ...b, settings: { ...(b.settings as Input), needs: [{ skillId: 'skill_x', atLeast: 2 }] } }),
    'needs',
    /not known/,
  ],
  [
    'save-queue',
    'sending contacts to itself',
    (b) => ({
      ...b,
      settings: {
        ...(b.settings as Input),
        entryRules: [{ if: { when: 'nobody' }, then: { to: 'queue', queueId: b.id } }],
      },
    }),
    'entryRules[0]',
    /itself/,
  ],
];

describe('what cannot be', () => {
  it.each(ROWS)('%s with %s', async (name, _says, change, where, sentence) => {
    const act = CHANGES.find((a) => a.act === name && a.based) ?? actOf(name);
    const input = change(act.input(w) as Input, w);
    doer(w, act);
    const before = everything(w);
    const refused = await refusalOf(act, input);
    expect(refused).not.toBeNull();
    expect(refused?.message).toMatch(sentence);
    if (where !== '') expect(refused?.faults.map((f) => f.where).join(' ')).toContain(where);
    // A sentence: it ends with a stop, and shows nothing of how the product is made.
    expect(refused?.message).toMatch(/^[\p{L}\p{N}+“].{8,}[.?!]$/su);
    expect(refused?.message).not.toMatch(/undefined|NaN|\[object|SQLITE|TypeError/);
    expect(everything(w)).toEqual(before);
  });
});

describe('what is used stays', () => {
  it.each([
    ['remove-whole', { kind: 'team', id: 'team_front', instead: null }],
    ['remove-whole', { kind: 'group', id: 'group_help', instead: null }],
    ['remove-desk-thing', { kind: 'desk-profile', id: 'desk_all' }],
    ['remove-bot-part', { kind: 'connector', id: 'connector_hire' }],
    ['remove-whole', { kind: 'field', id: 'field_reason', instead: null }],
  ])('%s %j says by what', async (name, input) => {
    const refused = await refusalOf(actOf(name), input);
    expect(refused).toMatchObject({ code: 'not-now' });
    expect(refused?.message.length).toBeGreaterThan(20);
  });
  it('hours that doors keep are not taken away, and say which; unused ones go', async () => {
    const remove: ValidAct = { act: 'remove-hours', says: '', input: () => ({}) };
    const kept = readAllHours(w.db)[0];
    expect((await refusalOf(remove, { id: kept?.id }))?.message).toMatch(/used by the (door|queue|group)/);
    const made = w.services.hours.save(doer(w, remove), {
      id: null,
      revision: 0,
      name: 'For nobody',
      zone: 'UTC',
      weekly: [],
      exceptions: [],
    });
    expect(await refusalOf(remove, { id: made.id })).toBeNull();
    expect(await refusalOf(remove, { id: made.id })).toMatchObject({ code: 'not-found' });
  });
});
