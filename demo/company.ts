import type { Chance } from '../src/core/chance';
import type { Channel } from '../src/core/channels';
import type { WeeklyInterval } from '../src/core/hours/weekly';
import type { Localised } from '../src/core/localised';
import { type DeskProfile, type DeskRule, PLAIN_DESK } from '../src/core/people/deskprofile';
import { DUTY_DEFAULTS, type DutyProfile, type DutyRow } from '../src/core/people/duty';
import type { Level, SkillKind } from '../src/core/people/levels';
import { DEFAULT_LOAD, type LoadRules } from '../src/core/people/load';
import type { Stage, StageAct } from '../src/core/routing/clock';
import { NO_LIMITS } from '../src/core/routing/limits';
import { type PickingRule, QUEUE_DEFAULTS, type QueueSettings, USUAL_CALLBACK } from '../src/core/routing/queue';
import type { Field } from '../src/data/fields';

/**
 * Brindlewood Instrument Hire: made up from end to end. Everything here is plain data that `fill.ts` puts in through
 * the services.
 */
export const COMPANY = {
  name: 'Brindlewood Instrument Hire',
  zone: 'Europe/Dublin',
  languages: ['en', 'es', 'fr', 'pl'],
  country: 'IE',
} as const;
export const PASSWORD = 'brindlewood';

export const TEAMS = [
  {
    id: 'team_front',
    name: 'Front desk',
    zone: 'Europe/Dublin',
    size: 20,
    levels: { skill_woodwind: 3, skill_newhire: 2 },
  },
  {
    id: 'team_repairs',
    name: 'Repairs bench',
    zone: 'Europe/Lisbon',
    size: 12,
    levels: { skill_percussion: 2, skill_triage: 2 },
  },
  { id: 'team_strings', name: 'Strings advice', zone: 'Europe/Dublin', size: 10, levels: { skill_bowed: 3 } },
  {
    id: 'team_schools',
    name: 'Schools & accounts',
    zone: 'Europe/Dublin',
    size: 12,
    levels: { skill_schools: 3, skill_billing: 3 },
  },
  {
    id: 'team_evening',
    name: 'Evening desk',
    zone: 'Europe/Dublin',
    size: 10,
    levels: { skill_newhire: 2, skill_billing: 2 },
  },
] as const;
export type TeamId = (typeof TEAMS)[number]['id'];

export const SKILLS: readonly { id: string; name: string; kind: SkillKind }[] = [
  { id: 'skill_bowed', name: 'Bowed strings', kind: 'product' },
  { id: 'skill_woodwind', name: 'Woodwind', kind: 'product' },
  { id: 'skill_brass', name: 'Brass', kind: 'product' },
  { id: 'skill_percussion', name: 'Percussion', kind: 'product' },
  { id: 'skill_keys', name: 'Keyboards', kind: 'product' },
  { id: 'skill_triage', name: 'Repairs triage', kind: 'task' },
  { id: 'skill_newhire', name: 'New hire', kind: 'task' },
  { id: 'skill_billing', name: 'Billing', kind: 'task' },
  { id: 'skill_schools', name: 'School accounts', kind: 'task' },
  { id: 'skill_deliveries', name: 'Deliveries', kind: 'task' },
  { id: 'skill_credit', name: 'Credit licence', kind: 'licence' },
  { id: 'skill_es', name: 'Spanish', kind: 'language' },
  { id: 'skill_fr', name: 'French', kind: 'language' },
  { id: 'skill_pl', name: 'Polish', kind: 'language' },
];

const ALL: readonly Channel[] = ['voice', 'chat', 'messaging', 'sms'];
const queue = (
  id: string,
  name: string,
  channels: readonly Channel[],
  seconds: number,
  needs: [string, Level][],
  order: PickingRule[],
  wrapUpSeconds: number | null,
): QueueSettings => ({
  ...QUEUE_DEFAULTS,
  id,
  name,
  channels,
  goals: Object.fromEntries(channels.map((c) => [c, { percent: 80, seconds }])),
  needs: needs.map(([skillId, atLeast]) => ({ skillId, atLeast })),
  order,
  wrapUp: { seconds: wrapUpSeconds, mayFinishEarly: true, needsOutcome: false },
});
const words = (en: string, es: string, fr: string, pl: string): Localised => ({ en, es, fr, pl });
const WAIT = words(
  'Thank you for calling. Somebody will be with you soon; the wait is about {wait}.',
  'Gracias por llamar. Le atenderemos pronto; la espera es de unos {wait}.',
  'Merci de votre appel. L’attente est d’environ {wait}.',
  'Dziękujemy za telefon. Czas oczekiwania to około {wait}.',
);
const STILL = words(
  'Still here with you. You are number {place} in line.',
  'Seguimos con usted. Es el número {place} en la cola.',
  'Nous sommes toujours là. Vous êtes au rang {place}.',
  'Nadal czekamy z Państwem. Miejsce w kolejce: {place}.',
);
const CHOOSE = words(
  'Stay on the line, or we call you back and your place is kept.',
  'Siga en línea, o le llamamos guardando su lugar.',
  'Restez en ligne, ou nous vous rappelons en gardant votre place.',
  'Proszę pozostać na linii albo oddzwonimy, a miejsce zostanie zachowane.',
);
const ASK: StageAct = {
  does: 'ask',
  wording: CHOOSE,
  choices: [{ key: '1', what: 'callback' }],
  everySeconds: 90,
};
const stage = (atSeconds: number, ...acts: StageAct[]): Stage => ({ atSeconds, early: false, acts });
const HELLO: StageAct[] = [
  { does: 'say', wording: WAIT, everySeconds: null },
  { does: 'play', music: 'cello' },
];
/** What happens to callers while they wait, per queue; text channels wait without music. */
const CLOCKS: Readonly<Record<string, QueueSettings['clocks']>> = {
  queue_newhire: {
    voice: [
      stage(0, ...HELLO),
      stage(45, ASK),
      stage(90, { does: 'add-group', groupId: 'group_help' }, { does: 'say', wording: STILL, everySeconds: 60 }),
      stage(180, { does: 'add-partner', partnerId: 'partner_bench' }),
    ],
    chat: [stage(60, { does: 'add-group', groupId: 'group_help' })],
  },
  queue_repairs: {
    voice: [
      stage(0, ...HELLO),
      stage(30, { does: 'lower', skillId: 'skill_triage', by: 1 }),
      stage(60, { does: 'lower', skillId: 'skill_triage', by: 1 }, { does: 'add-group', groupId: 'group_help' }, ASK),
      stage(90, { does: 'lower', skillId: 'skill_fr', by: 5 }, { does: 'say', wording: STILL, everySeconds: 60 }),
      stage(120, { does: 'add-partner', partnerId: 'partner_bench' }),
    ],
  },
  queue_strings: {
    voice: [stage(0, ...HELLO), stage(45, { does: 'lower', skillId: 'skill_bowed', by: 1 }), stage(75, ASK)],
  },
  queue_billing: { voice: [stage(0, ...HELLO), stage(60, ASK)] },
};
export const QUEUES: readonly QueueSettings[] = (
  [
    queue('queue_newhire', 'New hire', ALL, 30, [['skill_newhire', 2]], ['longest-idle'], 120),
    queue('queue_repairs', 'Repairs', ALL, 30, [['skill_triage', 2]], ['highest-level', 'lightest-load'], 180),
    queue('queue_strings', 'Strings advice', ALL, 45, [['skill_bowed', 3]], ['highest-level', 'lightest-load'], 120),
    queue('queue_billing', 'Billing', ALL, 45, [['skill_billing', 2]], ['lightest-load'], 120),
    queue('queue_schools', 'School accounts', ALL, 60, [['skill_schools', 3]], ['longest-idle'], 180),
    queue('queue_deliveries', 'Deliveries', ALL, 90, [['skill_deliveries', 1]], ['lightest-load'], 60),
    queue('queue_callbacks', 'Call backs', ['voice'], 120, [], ['longest-idle'], 60),
    queue(
      'queue_espanol',
      'Español',
      ['voice', 'chat', 'messaging'],
      45,
      [['skill_es', 3]],
      ['highest-level', 'lightest-load'],
      120,
    ),
  ] satisfies QueueSettings[]
).map((q): QueueSettings => ({
  ...q,
  clocks: CLOCKS[q.id] ?? {},
  connect: {
    toAgent: q.id === 'queue_repairs' ? words('Repairs', 'Reparaciones', 'Réparations', 'Naprawy') : {},
    toCustomer: {},
  },
  entryRules:
    q.id === 'queue_repairs'
      ? [
          { if: { when: 'waiting', atLeast: 40 }, then: { to: 'callback' } },
          { if: { when: 'nobody' }, then: { to: 'partner', partnerId: 'partner_bench' } },
        ]
      : q.id === 'queue_schools'
        ? [{ if: { when: 'waiting', atLeast: 25 }, then: { to: 'queue', queueId: 'queue_newhire' } }]
        : [],
  familiar: q.id === 'queue_schools' ? { days: 14, holdSeconds: 60 } : null,
  callback: q.id === 'queue_newhire' ? { ...USUAL_CALLBACK, queueId: 'queue_callbacks' } : USUAL_CALLBACK,
}));
/** People asked beside the duty profiles, and the outside desk for the evening overflow. */
export const GROUPS_MADE = [
  {
    id: 'group_help',
    name: 'Helping hands',
    zone: 'Europe/Dublin',
    hoursId: null,
    limits: { ...NO_LIMITS, atOnce: 6, perHour: 40 },
    instead: [],
    who: [{ by: 'skill', id: 'skill_newhire', atLeast: 3 }],
    alsoIds: [],
    exceptIds: [],
    weights: {},
  },
  {
    id: 'group_bench',
    name: 'Bench on call',
    zone: 'Europe/Lisbon',
    hoursId: null,
    limits: { ...NO_LIMITS, perDay: 30 },
    instead: [],
    who: [{ by: 'skill', id: 'skill_triage', atLeast: 4 }],
    alsoIds: [],
    exceptIds: [],
    weights: {},
  },
] as const;
export const PARTNERS_MADE = [
  {
    id: 'partner_bench',
    name: 'Bench partner',
    zone: 'Europe/Lisbon',
    hoursId: null,
    limits: { atOnce: 5, perHour: null, perDay: null, perMonth: null },
    way: 'one-by-one',
    ringSeconds: 25,
    countsFromSeconds: 10,
    numbers: [
      {
        id: 'number_1',
        name: 'Day line',
        address: '+351200000101',
        hoursId: null,
        limits: { atOnce: 3, perHour: 20, perDay: 120, perMonth: null },
        perQueue: {},
      },
      {
        id: 'number_2',
        name: 'Evening line',
        address: '+351200000102',
        hoursId: null,
        limits: { atOnce: 3, perHour: null, perDay: 60, perMonth: null },
        perQueue: { queue_repairs: { rank: 2, weight: 1 } },
      },
    ],
  },
] as const;

const rows = (band: number, delaySeconds: number, ...queues: string[]): DutyRow[] =>
  queues.flatMap((id) =>
    (QUEUES.find((q) => q.id === id)?.channels ?? []).map((channel) => ({ queueId: id, channel, band, delaySeconds })),
  );
const profile = (id: string, name: string, bands: DutyRow[][], load: Partial<LoadRules> = {}): DutyProfile => ({
  ...DUTY_DEFAULTS,
  id,
  name,
  rows: bands.flat(),
  load: { ...DEFAULT_LOAD, ...load },
  restSeconds: 900,
});
export const PROFILES: readonly DutyProfile[] = [
  profile('profile_front', 'Front desk', [
    rows(1, 0, 'queue_newhire', 'queue_espanol'),
    rows(2, 0, 'queue_billing', 'queue_deliveries'),
    rows(3, 60, 'queue_repairs'),
  ]),
  profile('profile_repairs', 'Repairs first', [
    rows(1, 0, 'queue_repairs'),
    rows(2, 0, 'queue_strings'),
    rows(3, 60, 'queue_newhire'),
  ]),
  profile('profile_strings', 'Strings first', [
    rows(1, 0, 'queue_strings'),
    rows(2, 0, 'queue_newhire', 'queue_espanol'),
  ]),
  profile('profile_schools', 'Schools and billing', [
    rows(1, 0, 'queue_schools', 'queue_billing'),
    rows(2, 30, 'queue_newhire'),
    rows(3, 0, 'queue_callbacks'),
  ]),
  profile('profile_evening', 'Evening', [
    rows(1, 0, 'queue_newhire', 'queue_billing', 'queue_deliveries'),
    rows(2, 0, 'queue_repairs', 'queue_espanol'),
  ]),
  profile(
    'profile_texts',
    'Texts only',
    [rows(1, 0, 'queue_deliveries'), rows(2, 0, 'queue_newhire', 'queue_billing')],
    { voice: { cost: 100, most: 0 } },
  ),
];

export const SITES = [
  { id: 'site_dublin', name: 'Dublin shop', zone: 'Europe/Dublin', address: '4 Brindle Lane' },
  { id: 'site_lisbon', name: 'Lisbon bench', zone: 'Europe/Lisbon', address: 'Travessa dos Arcos 9' },
] as const;
/** Given to teams or people as a bundle. */
export const SKILL_SETS: readonly {
  id: string;
  name: string;
  levels: Readonly<Record<string, Level>>;
  teamIds: readonly string[];
  people: readonly string[];
}[] = [
  {
    id: 'set_basics',
    name: 'Every desk',
    levels: { skill_deliveries: 1, skill_keys: 1 },
    teamIds: ['team_front', 'team_evening'],
    people: [],
  },
  {
    id: 'set_bench',
    name: 'Bench apprentice',
    levels: { skill_triage: 2, skill_woodwind: 1, skill_brass: 1 },
    teamIds: [],
    people: ['Sunniva Roe', 'Pell Hathersage'],
  },
];
export const AWAY_REASONS = [
  { id: 'away_break', name: 'Break', paid: true, minutes: 15 },
  { id: 'away_lunch', name: 'Lunch', paid: false, minutes: 45 },
  { id: 'away_meeting', name: 'Meeting', paid: true, minutes: 30 },
  { id: 'away_training', name: 'Training', paid: true, minutes: 60 },
] as const;

export const STOCK_SETS = [
  {
    id: 'stock_greetings',
    name: 'Greetings',
    replies: [
      {
        id: 'reply_hello',
        title: 'Hello',
        text: {
          en: 'Hello {customer}, this is {agent} at {company}. I have read what you told our assistant.',
          es: 'Hola {customer}, soy {agent} de {company}. He leído lo que le contó a nuestro asistente.',
        },
      },
      {
        id: 'reply_bye',
        title: 'Goodbye',
        text: {
          en: 'Thank you, {customer}. Write again whenever you need us.',
          es: 'Gracias, {customer}. Escríbanos cuando quiera.',
        },
      },
    ],
  },
  {
    id: 'stock_repairs',
    name: 'Repairs',
    replies: [
      {
        id: 'reply_string',
        title: 'Broken string',
        text: {
          en: 'A broken string is covered. I am sending a new set by post today; it arrives in two working days.',
          es: 'Una cuerda rota está cubierta. Le enviamos un juego nuevo hoy.',
        },
      },
      {
        id: 'reply_bridge',
        title: 'Bridge fell or snapped',
        text: {
          en:
            'Please loosen the strings and do not put the bridge back yourself. We collect the instrument ' +
            'and lend you another meanwhile.',
        },
      },
      {
        id: 'reply_collect',
        title: 'Collection',
        text: {
          en: 'Our driver collects between 8 and 12. Please have the instrument in its case.',
          es: 'Nuestro conductor pasa entre las 8 y las 12. Tenga el instrumento en su estuche.',
        },
      },
    ],
  },
  {
    id: 'stock_billing',
    name: 'Billing',
    replies: [
      {
        id: 'reply_due',
        title: 'Next payment',
        text: { en: 'Your next payment is taken on the first of the month. You can change the day once a year.' },
      },
    ],
  },
] as const;
export const DESKS: readonly DeskProfile[] = [
  {
    ...PLAIN_DESK,
    id: 'desk_all',
    name: 'Everyday Desk',
    helpers: ['suggest', 'summary'],
    stockSetIds: ['stock_greetings', 'stock_billing'],
    views: ['today'],
  },
  {
    ...PLAIN_DESK,
    id: 'desk_bench',
    name: 'Bench Desk',
    helpers: ['suggest', 'summary'],
    stockSetIds: ['stock_greetings', 'stock_repairs'],
    views: ['today', 'team'],
  },
  {
    ...PLAIN_DESK,
    id: 'desk_calm',
    name: 'Calm Desk for newcomers',
    panels: { offered: ['known'], talking: ['known', 'replies'], finishing: ['known'] },
    helpers: ['suggest'],
    stockSetIds: ['stock_greetings'],
    views: [],
  },
];
export const DESK_RULES: readonly DeskRule[] = [
  { who: { by: 'team', id: 'team_repairs' }, exceptIds: [], profileId: 'desk_bench' },
  { who: { by: 'skill', id: 'skill_triage', atLeast: 3 }, exceptIds: [], profileId: 'desk_bench' },
  { who: { by: 'everyone' }, exceptIds: [], profileId: 'desk_all' },
];

export const HOURS = [
  {
    id: 'hours_day',
    name: 'Shop hours',
    zone: 'Europe/Dublin',
    weekly: [
      ...[1, 2, 3, 4, 5].map((day) => ({ day, from: '08:00', to: '18:00' })),
      { day: 6, from: '09:00', to: '17:00' },
    ],
  },
  {
    id: 'hours_long',
    name: 'Shop and evening',
    zone: 'Europe/Dublin',
    weekly: [
      ...[1, 2, 3, 4, 5].map((day) => ({ day, from: '08:00', to: '21:00' })),
      { day: 6, from: '09:00', to: '17:00' },
    ],
  },
  {
    id: 'hours_evening',
    name: 'Evenings',
    zone: 'Europe/Dublin',
    weekly: [1, 2, 3, 4, 5].map((day) => ({ day, from: '17:00', to: '21:00' })),
  },
] as const;

const CLOSED: Localised = {
  en: 'We are closed just now. We open again {opens}.',
  es: 'Ahora estamos cerrados. Volvemos a abrir: {opens}.',
  fr: 'Nous sommes fermés. Nous rouvrons {opens}.',
  pl: 'Teraz jest zamknięte. Otwieramy: {opens}.',
};
const door = (
  id: string,
  name: string,
  channel: Channel,
  address: string,
  botId: string,
  hoursId: string,
  weight: number,
  languages: readonly string[] = ['en', 'es'],
) => ({ id, name, channel, address, botId, hoursId, weight, languages, closedWording: CLOSED });
/** `weight` is the share of simulated customers who come by each door. */
export const DOORS = [
  door('door_main', 'Main number', 'voice', '+353 20 911 0100', 'bot_front', 'hours_long', 26, [
    'en',
    'es',
    'fr',
    'pl',
  ]),
  door('door_repairs', 'Repairs line', 'voice', '+353 20 911 0140', 'bot_repairs', 'hours_day', 10),
  door('door_schools', 'Schools line', 'voice', '+353 20 911 0160', 'bot_schools', 'hours_day', 5),
  door('door_web', 'Website chat', 'chat', 'www.brindlewood.example', 'bot_chat', 'hours_long', 24),
  door('door_account', 'My hire page chat', 'chat', 'my.brindlewood.example', 'bot_chat', 'hours_long', 8),
  door('door_messages', 'Brindlewood messages', 'messaging', '@brindlewood', 'bot_chat', 'hours_long', 12),
  door('door_evening', 'Evening messages', 'messaging', '@brindlewood-evenings', 'bot_evening', 'hours_evening', 12, [
    'en',
    'es',
    'pl',
  ]),
  door('door_sms', 'Text line', 'sms', '+353 20 911 0190', 'bot_text', 'hours_long', 9),
  door('door_delivery', 'Delivery texts', 'sms', '+353 20 911 0195', 'bot_text', 'hours_day', 3),
] as const;

export const FIELDS: readonly (Pick<Field, 'id' | 'name' | 'label' | 'private'> & Partial<Field>)[] = [
  { id: 'field_reason', name: 'reason', label: 'Reason', private: false },
  { id: 'field_instrument', name: 'instrument', label: 'Instrument', private: false, filledBy: ['bot', 'look-up'] },
  { id: 'field_hire', name: 'hire number', label: 'Hire number', private: true },
  { id: 'field_problem', name: 'problem', label: 'What happened', private: false },
  { id: 'field_cover', name: 'cover', label: 'Cover', private: false, filledBy: ['look-up'] },
  { id: 'field_many', name: 'how many', label: 'How many instruments', private: false, type: 'whole' },
  { id: 'field_day', name: 'wished day', label: 'Day they would like', private: false, type: 'date' },
  { id: 'field_rating', name: 'rating', label: 'Rating', private: false, type: 'whole' },
  {
    id: 'field_workshop',
    name: 'workshop note',
    label: 'Workshop note',
    private: false,
    filledBy: ['agent'],
    reported: false,
  },
  // Nothing sets this one: it shows in To fix and on the field trail.
  { id: 'field_school', name: 'school name', label: 'School', private: false },
];
export const OUTCOMES = [
  { code: 'HIRE', label: 'Hire begun' },
  { code: 'REPAIR', label: 'Repair booked' },
  { code: 'ADVICE', label: 'Advice given' },
  { code: 'PAID', label: 'Payment settled' },
  { code: 'DELIVER', label: 'Delivery arranged' },
  { code: 'NOTHING', label: 'Nothing came of it' },
] as const;

const FIRST = [
  'Ailsa',
  'Benedek',
  'Cato',
  'Delphine',
  'Edric',
  'Fenna',
  'Gideon',
  'Hanneke',
  'Ilse',
  'Jorund',
  'Katya',
  'Linus',
  'Maelle',
  'Nadir',
  'Orla',
  'Petra',
  'Quillon',
  'Rosalba',
  'Stellan',
  'Thandi',
  'Ulla',
  'Vasco',
  'Wilma',
  'Xenia',
  'Yorick',
  'Zelda',
];
const LAST = [
  'Abernath',
  'Brackwell',
  'Corrigold',
  'Dunmarrow',
  'Eastlake',
  'Farraday',
  'Glimsby',
  'Harkwood',
  'Ironmay',
  'Jessamy',
  'Kestrelton',
  'Lorrimund',
  'Marchbane',
  'Nightwell',
  'Oxenby',
  'Pemberlow',
  'Quarrie',
  'Rookstead',
  'Silverlea',
  'Thornaby',
  'Underbank',
  'Vellacourt',
  'Whitterby',
  'Yarrowby',
];

type DemoRole = 'owner' | 'lead' | 'supervisor' | 'agent';
export type DemoPerson = {
  readonly id: string;
  readonly name: string;
  readonly email: string;
  readonly teamId: TeamId;
  readonly role: DemoRole;
  readonly profileId: string;
  readonly levels: Readonly<Record<string, Level>>;
  /** Local hours of the weekday shift; null for somebody who does not take contacts. */
  readonly shift: { readonly from: number; readonly to: number } | null;
  /** Somebody who signs in for real once the demo runs. */
  readonly real: boolean;
};

const NAMED: readonly [string, TeamId, DemoRole, Record<string, Level>, boolean][] = [
  ['Nell Ashgrove', 'team_front', 'owner', {}, true],
  ['Noor Amsel', 'team_front', 'lead', {}, true],
  [
    'Bertil Achterberg',
    'team_front',
    'supervisor',
    { skill_bowed: 2, skill_newhire: 4, skill_billing: 2, skill_deliveries: 2 },
    true,
  ],
  [
    'Tamsin Orrel',
    'team_front',
    'agent',
    { skill_newhire: 5, skill_billing: 3, skill_fr: 4, skill_percussion: 2, skill_deliveries: 3 },
    true,
  ],
  [
    'Odile Karrow',
    'team_repairs',
    'agent',
    { skill_bowed: 5, skill_woodwind: 4, skill_brass: 2, skill_triage: 5, skill_fr: 5 },
    true,
  ],
  [
    'Yusra Dameh',
    'team_front',
    'agent',
    { skill_brass: 3, skill_newhire: 3, skill_billing: 4, skill_es: 5, skill_deliveries: 2 },
    false,
  ],
  [
    'Colm Ferrity',
    'team_front',
    'agent',
    { skill_newhire: 5, skill_schools: 2, skill_pl: 3, skill_deliveries: 4 },
    false,
  ],
  [
    'Ines Vall',
    'team_front',
    'agent',
    { skill_woodwind: 4, skill_newhire: 4, skill_billing: 2, skill_es: 5, skill_fr: 3 },
    false,
  ],
  ['Marek Dolny', 'team_repairs', 'agent', { skill_bowed: 3, skill_brass: 5, skill_triage: 4, skill_pl: 5 }, false],
  ['Sunniva Roe', 'team_repairs', 'agent', { skill_woodwind: 5, skill_brass: 4, skill_triage: 3 }, false],
  [
    'Pell Hathersage',
    'team_repairs',
    'agent',
    { skill_bowed: 4, skill_percussion: 5, skill_triage: 4, skill_billing: 2 },
    false,
  ],
  [
    'Grethe Ansbach',
    'team_schools',
    'agent',
    { skill_bowed: 2, skill_billing: 5, skill_schools: 5, skill_fr: 2 },
    false,
  ],
  ['Dov Larrimer', 'team_schools', 'agent', { skill_woodwind: 3, skill_newhire: 2, skill_schools: 5 }, false],
  ['Amaia Recalde', 'team_schools', 'agent', { skill_newhire: 3, skill_schools: 4, skill_es: 5 }, false],
];
const PROFILE_OF: Readonly<Record<TeamId, string>> = {
  team_front: 'profile_front',
  team_repairs: 'profile_repairs',
  team_strings: 'profile_strings',
  team_schools: 'profile_schools',
  team_evening: 'profile_evening',
};

/** Everybody has one weekday off, spread over the week; about a third work on Saturdays. */
export function weekOf(personId: string, { from, to }: { from: number; to: number }): WeeklyInterval[] {
  const n = Number(personId.slice(-2));
  const time = (hour: number) => `${String(hour).padStart(2, '0')}:00`;
  const week = [1, 2, 3, 4, 5]
    .filter((day) => (day - 1 + n) % 5 !== 0)
    .map((day) => ({ day, from: time(from), to: time(to) }));
  return n % 3 === 0 ? [...week, { day: 6, from: time(Math.max(9, from)), to: time(Math.min(17, to)) }] : week;
}

export const emailOf = (name: string): string =>
  `${name
    .toLowerCase()
    .replace(/[^a-z ]/g, '')
    .replaceAll(' ', '.')}@brindlewood.example`;

/**
 * 64 people in 5 teams, the same for the same chance. One of them has a profile without room for any of its channels.
 */
export function people(chance: Chance): DemoPerson[] {
  const made: DemoPerson[] = [];
  const names = new Set(NAMED.map(([name]) => name));
  const shiftFor = (teamId: TeamId, i: number) =>
    teamId === 'team_evening' ? { from: 13 + (i % 2), to: 21 } : { from: 8 + (i % 3), to: 16 + (i % 3) };
  const add = (name: string, teamId: TeamId, role: DemoRole, levels: Record<string, Level>, real: boolean) => {
    const i = made.length;
    const takes = role !== 'owner' && role !== 'lead';
    made.push({
      id: `person_${String(i + 1).padStart(2, '0')}`,
      name,
      email: emailOf(name),
      teamId,
      role,
      levels,
      real,
      profileId: i % 11 === 10 && teamId === 'team_front' ? 'profile_texts' : PROFILE_OF[teamId],
      shift: takes ? shiftFor(teamId, i) : null,
    });
  };
  for (const [name, teamId, role, levels, real] of NAMED) add(name, teamId, role, levels, real);
  const level = (from: number): Level => Math.min(5, from + chance.below(3)) as Level;
  for (const team of TEAMS) {
    while (made.filter((p) => p.teamId === team.id).length < team.size) {
      const name = `${chance.pick(FIRST)} ${chance.pick(LAST)}`;
      if (names.has(name)) continue;
      names.add(name);
      const levels: Record<string, Level> = {};
      const give = (skill: string, share: number, from: number) => {
        if (chance.next() < share) levels[skill] = level(from);
      };
      give('skill_newhire', team.id === 'team_front' || team.id === 'team_evening' ? 0.8 : 0.3, 2);
      give('skill_billing', team.id === 'team_schools' || team.id === 'team_front' ? 0.6 : 0.15, 2);
      give('skill_triage', team.id === 'team_repairs' ? 0.7 : 0.12, 2);
      give('skill_bowed', team.id === 'team_strings' ? 0.6 : 0.15, 3);
      give('skill_deliveries', team.id === 'team_front' || team.id === 'team_evening' ? 0.7 : 0.2, 1);
      give('skill_brass', 0.25, 1);
      give('skill_keys', 0.3, 1);
      give('skill_percussion', 0.15, 1);
      give('skill_credit', 0.2, 3);
      give('skill_es', team.id === 'team_front' || team.id === 'team_strings' ? 0.25 : 0.08, 3);
      give('skill_fr', team.id === 'team_repairs' ? 0 : 0.12, 2);
      // Nobody in the evening speaks Polish.
      give('skill_pl', team.id === 'team_evening' ? 0 : 0.08, 2);
      add(name, team.id, 'agent', levels, false);
    }
  }
  return made;
}

/** Days on which the shop is closed, or open otherwise. */
export const HOLIDAYS = [
  { date: '2026-12-24', intervals: [{ from: '09:00', to: '13:00' }], note: 'Christmas Eve' },
  { date: '2026-12-25', intervals: [], note: 'Christmas Day' },
  { date: '2026-12-26', intervals: [], note: 'Saint Stephen’s Day' },
  { date: '2027-01-01', intervals: [], note: 'New Year' },
];
