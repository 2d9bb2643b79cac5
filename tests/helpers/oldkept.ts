import type { BotState } from '../../src/core/bots/conversation';
import type { BotScript, SharedScene } from '../../src/core/bots/model';
import type { Trial } from '../../src/core/bots/trial';
import type { Asking } from '../../src/core/contact/contact';
import type { Outcome } from '../../src/core/outcomes';
import type { Shift } from '../../src/core/people/coverage';
import type { DeskProfile, DeskRule, Helper } from '../../src/core/people/deskprofile';
import type { DutyProfile } from '../../src/core/people/duty';
import type { Phrasebook } from '../../src/core/phrases/book';
import type { QueueSettings } from '../../src/core/routing/queue';
import type { Pinned } from '../../src/data/bots';
import type { Field } from '../../src/data/fields';
import type { GroupBody, PartnerBody } from '../../src/data/groups';
import type { KeptKind } from '../../src/data/kept';

/**
 * Something of each kind as each version kept it, and what it says now. They are examples for good: `kept` is never
 * changed, a new version adds one, and `says` follows the present shape.
 */
export type OldKept = { readonly kind: KeptKind; readonly v: number; readonly kept: string; readonly says: object };

const callback = {
  queueId: null,
  attempts: 3,
  spacingMinutes: 15,
  expiryHours: 24,
  wording: { confirm: {}, typeNumber: {}, readBack: {}, when: {}, promised: {} },
};
const repairs: QueueSettings = {
  id: 'queue_repairs',
  name: 'Repairs',
  channels: ['voice', 'chat'],
  goals: { voice: { percent: 80, seconds: 60 }, chat: { percent: 80, seconds: 60 } },
  hoursId: null,
  needs: [{ skillId: 'skill_triage', atLeast: 2 }],
  order: ['longest-idle'],
  familiar: null,
  offering: { way: 'one' },
  missedSetsAway: true,
  entryRules: [],
  clocks: {},
  wrapUp: { seconds: 45, mayFinishEarly: true, needsOutcome: false },
  connect: { toAgent: {}, toCustomer: {} },
  outcomes: null,
  fields: null,
  callback,
};

const script: BotScript = {
  shownName: 'Front desk',
  picture: '',
  languages: ['en', 'es'],
  fallbackQueueId: 'queue_repairs',
  fallbackWording: { text: {} },
  scenes: [
    {
      id: 's',
      name: 'Hello',
      steps: [
        { id: 'a', verb: 'say', wording: { text: { en: 'Hello.' } }, mayInterrupt: true, link: null },
        {
          id: 'b',
          verb: 'listen',
          wording: { text: { en: 'What is it about?' } },
          hears: {
            kind: 'choices',
            choices: [
              { id: 'c1', label: { en: 'A repair' }, key: '1', synonyms: { en: ['mend'] }, cue: { to: 'next' } },
              {
                id: 'c2',
                label: { en: 'Español' },
                key: '2',
                synonyms: {},
                cue: { to: 'line', lineId: 'b' },
                setsLanguage: 'es',
              },
            ],
          },
          into: null,
          notices: [],
          tries: 3,
          silenceSeconds: 8,
          again: { text: { en: 'Please say it in other words.' } },
          silent: { text: {} },
          otherwise: { to: 'next' },
        },
        {
          id: 'd',
          verb: 'listen',
          wording: { text: { en: 'What broke?' } },
          hears: { kind: 'value', asked: { type: 'text' } },
          into: { name: 'problem', scope: 'conversation' },
          notices: [],
          tries: 2,
          silenceSeconds: 8,
          again: { text: {} },
          silent: { text: {} },
          otherwise: { to: 'end' },
        },
        {
          id: 'e',
          verb: 'branch',
          ways: [{ when: { in: ['cello', { var: 'values.problem' }] }, cue: { to: 'line', lineId: 'f' } }],
          otherwise: { to: 'next' },
        },
        {
          id: 'f',
          verb: 'hand-over',
          target: { to: 'queue', queueId: 'queue_repairs' },
          needs: [{ skillId: 'skill_bowed', atLeast: 3 }],
          priority: 0,
          fields: ['problem'],
          wording: { text: { en: 'One moment.' } },
        },
        { id: 'g', verb: 'end', wording: { text: {} } },
      ],
    },
  ],
  afterSceneId: null,
  quiet: { remindSeconds: 240, wording: { text: {} }, closeSeconds: 600 },
};

const shared: SharedScene = {
  id: 'shared_message',
  name: 'Take a message',
  inputs: ['who'],
  steps: [
    { id: 'm_1', verb: 'take-message', wording: { text: { en: 'Please say it.' } }, queueId: 'queue_newhire' },
    { id: 'm_2', verb: 'go-to', cue: { to: 'end' } },
  ],
};

const day: Omit<DutyProfile, 'id' | 'name'> = {
  acceptSeconds: 20,
  autoAccept: false,
  restSeconds: null,
  load: {
    voice: { cost: 100, most: 1 },
    chat: { cost: 25, most: 4 },
    messaging: { cost: 20, most: 5 },
    sms: { cost: 10, most: 8 },
  },
  rows: [{ queueId: 'queue_repairs', channel: 'voice', band: 1, delaySeconds: 0 }],
};

const place: BotState = {
  lineId: 'd',
  language: 'en',
  frames: [{ sharedId: null, sceneId: 's', values: {}, back: null }],
  values: { reason: 'a repair' },
  needs: [],
  tries: 0,
  silences: 1,
  keyed: '',
  doubt: null,
  reading: null,
  proving: null,
  talk: null,
  asked: null,
  requests: 0,
  ran: 0,
  path: ['b>c1'],
  status: 'listening',
};

const connector: Pinned['connectors'][number] = {
  id: 'connector_repairs',
  name: 'Repairs',
  does: 'do',
  host: '',
  method: 'POST',
  path: '/repairs',
  headers: [],
  body: null,
  signIn: { by: 'bearer' },
  inputs: ['number'],
  outputs: [{ name: 'reference', from: 'reference' }],
  timeoutSeconds: 6,
};

const { id: _connectorId, name: _connectorName, ...connectorBody } = connector;
const { id: _sharedId, name: _sharedName, ...sharedBody } = shared;

export const OLD_KEPT: readonly OldKept[] = [
  { kind: 'allowed-hosts', v: 1, kept: '{"hosts":["api.example"]}', says: { hosts: ['api.example'] } },
  {
    kind: 'article',
    v: 1,
    kept: '{"language":"en","text":"Half of it counts."}',
    says: { language: 'en', text: 'Half of it counts.' },
  },
  {
    kind: 'asking',
    v: 1,
    kept: '{"kind":"callback","talk":{"step":"when","own":"+353209137248","number":"+353209137248","keyed":"","tries":0,"windows":[{"from":1795780800000,"to":1795788000000}]},"placedAt":1795773569556,"queueId":"queue_billing"}',
    says: {
      kind: 'callback',
      talk: {
        step: 'when',
        own: '+353209137248',
        number: '+353209137248',
        keyed: '',
        tries: 0,
        windows: [{ from: 1795780800000, to: 1795788000000 }],
      },
      placedAt: 1795773569556,
      queueId: 'queue_billing',
    } satisfies Asking,
  },
  { kind: 'away-reason', v: 1, kept: '{"paid":true,"minutes":15}', says: { paid: true, minutes: 15 } },
  {
    kind: 'bot',
    v: 1,
    kept: '{"name":"Front desk","draft":{"shownName":"F","languages":["en"],"fallbackQueueId":"q","scenes":[]}}',
    says: {
      name: 'Front desk',
      draft: {
        shownName: 'F',
        picture: '',
        languages: ['en'],
        fallbackQueueId: 'q',
        fallbackWording: { text: {} },
        scenes: [],
        afterSceneId: null,
        quiet: { remindSeconds: 240, wording: { text: {} }, closeSeconds: 600 },
      } satisfies BotScript,
    },
  },
  {
    kind: 'bot-place',
    v: 1,
    kept: '{"lineId":"d","language":"en","frames":[{"sharedId":null,"sceneId":"s","values":{},"back":null}],"values":{"reason":"a repair"},"needs":[],"tries":0,"silences":1,"keyed":"","doubt":null,"reading":null,"asked":null,"requests":0,"ran":0,"path":["b>c1"],"status":"listening"}',
    says: place,
  },
  {
    kind: 'bot-place',
    v: 2,
    kept: '{"v":2,"lineId":"d","language":"en","frames":[{"sharedId":null,"sceneId":"s","values":{},"back":null}],"values":{"reason":"a repair"},"needs":[],"tries":0,"silences":1,"keyed":"","doubt":null,"reading":null,"proving":"+353209140001","asked":null,"requests":0,"ran":0,"path":["b>c1"],"status":"listening"}',
    says: { ...place, proving: '+353209140001' } satisfies BotState,
  },
  {
    kind: 'bot-place',
    v: 3,
    kept: '{"v":3,"lineId":"d","language":"en","frames":[{"sharedId":null,"sceneId":"s","values":{},"back":null}],"values":{"reason":"a repair"},"needs":[],"tries":0,"silences":1,"keyed":"","doubt":null,"reading":null,"proving":null,"talk":{"step":"type","own":null,"number":null,"keyed":"02","tries":1,"windows":[{"from":1,"to":2}]},"asked":null,"requests":0,"ran":0,"path":["b>c1"],"status":"listening"}',
    says: {
      ...place,
      talk: { step: 'type', own: null, number: null, keyed: '02', tries: 1, windows: [{ from: 1, to: 2 }] },
    } satisfies BotState,
  },
  {
    kind: 'bot-test',
    v: 1,
    kept: '{"botId":"bot_evening","trial":{"name":"somebody is free","setting":{"channel":"voice","language":"en","local":"2026-11-17T10:20","open":true,"customer":null,"facts":{"anyone.free":true},"behaviours":{}},"turns":[{"input":{"type":"start"},"replies":[{"to":"facts","facts":{"anyone.free":true}}],"says":["Hello."]}],"ending":{"where":"person","queueId":"queue_newhire","needs":[],"values":{},"failed":null},"id":"bot_evening_test_2"}}',
    says: {
      botId: 'bot_evening',
      trial: {
        name: 'somebody is free',
        setting: {
          channel: 'voice',
          language: 'en',
          local: '2026-11-17T10:20',
          open: true,
          customer: null,
          facts: { 'anyone.free': true },
          behaviours: {},
        },
        turns: [
          {
            input: { type: 'start' },
            replies: [{ to: 'facts', facts: { 'anyone.free': true } }],
            says: ['Hello.'],
          },
        ],
        ending: { where: 'person', queueId: 'queue_newhire', needs: [], values: {}, failed: null },
        id: 'bot_evening_test_2',
      },
    } satisfies { botId: string; trial: Trial },
  },
  {
    kind: 'connector',
    v: 1,
    kept: '{"does":"do","host":"","method":"POST","path":"/repairs","inputs":["number"],"outputs":[{"name":"reference","from":"reference"}],"timeoutSeconds":6}',
    says: connectorBody,
  },
  {
    kind: 'connector',
    v: 2,
    kept: '{"v":2,"does":"do","host":"","method":"POST","path":"/repairs","headers":[{"name":"X-Shop","value":"{number}"}],"body":{"is":"object","fields":[{"name":"hire","value":{"is":"input","name":"number"}}]},"signIn":{"by":"basic","user":"lane"},"inputs":["number"],"outputs":[{"name":"reference","from":"reference"}],"timeoutSeconds":6}',
    says: {
      ...connectorBody,
      headers: [{ name: 'X-Shop', value: '{number}' }],
      body: { is: 'object', fields: [{ name: 'hire', value: { is: 'input', name: 'number' } }] },
      signIn: { by: 'basic', user: 'lane' },
    },
  },
  {
    kind: 'desk-profile',
    v: 1,
    kept: '{"panels":{"offered":["known"],"talking":["known","replies"],"finishing":["known"]},"helpers":["suggest"],"stockSetIds":["stock_greetings"],"views":[]}',
    says: {
      panels: { offered: ['known'], talking: ['known', 'replies'], finishing: ['known'] },
      helpers: ['suggest'],
      stockSetIds: ['stock_greetings'],
      views: [],
    } satisfies Omit<DeskProfile, 'id' | 'name'>,
  },
  {
    kind: 'desk-rules',
    v: 1,
    kept: '{"rules":[{"who":{"by":"skill","id":"skill_triage","atLeast":3},"exceptIds":[],"profileId":"desk_bench"},{"who":{"by":"everyone"},"exceptIds":["person_04"],"profileId":"desk_all"}],"helpers":["suggest","summary"]}',
    says: {
      rules: [
        { who: { by: 'skill', id: 'skill_triage', atLeast: 3 }, exceptIds: [], profileId: 'desk_bench' },
        { who: { by: 'everyone' }, exceptIds: ['person_04'], profileId: 'desk_all' },
      ],
      helpers: ['suggest', 'summary'],
    } satisfies { rules: readonly DeskRule[]; helpers: readonly Helper[] },
  },
  {
    kind: 'duty-profile',
    v: 1,
    kept: '{"load":{"voice":{"cost":100,"most":1},"chat":{"cost":25,"most":4},"messaging":{"cost":20,"most":5},"sms":{"cost":10,"most":8}},"rows":[{"queueId":"queue_repairs","channel":"voice","band":1,"delaySeconds":0}]}',
    says: day,
  },
  {
    kind: 'duty-profile',
    v: 2,
    kept: '{"v":2,"acceptSeconds":33,"autoAccept":true,"restSeconds":900,"outboundQueueId":"queue_repairs","load":{"voice":{"cost":100,"most":1},"chat":{"cost":25,"most":4},"messaging":{"cost":20,"most":5},"sms":{"cost":10,"most":8}},"rows":[{"queueId":"queue_repairs","channel":"voice","band":1,"delaySeconds":0}]}',
    says: {
      ...day,
      acceptSeconds: 33,
      autoAccept: true,
      restSeconds: 900,
    } satisfies Omit<DutyProfile, 'id' | 'name'>,
  },
  {
    kind: 'duty-profile',
    v: 3,
    kept: '{"v":3,"acceptSeconds":33,"autoAccept":true,"restSeconds":900,"load":{"voice":{"cost":100,"most":1},"chat":{"cost":25,"most":4},"messaging":{"cost":20,"most":5},"sms":{"cost":10,"most":8}},"rows":[{"queueId":"queue_repairs","channel":"voice","band":1,"delaySeconds":0}]}',
    says: {
      ...day,
      acceptSeconds: 33,
      autoAccept: true,
      restSeconds: 900,
    } satisfies Omit<DutyProfile, 'id' | 'name'>,
  },
  { kind: 'field', v: 1, kept: '{}', says: { type: 'text', filledBy: ['bot'], reported: true } },
  {
    kind: 'field',
    v: 2,
    kept: '{"v":2,"type":"date","filledBy":["agent"],"reported":false}',
    says: { type: 'date', filledBy: ['agent'], reported: false } satisfies Pick<
      Field,
      'type' | 'filledBy' | 'reported'
    >,
  },
  {
    kind: 'group',
    v: 1,
    kept: '{"zone":"Europe/Dublin","hoursId":null,"limits":{"atOnce":6,"perHour":40,"perDay":null,"perMonth":null},"instead":["perHour"],"who":[{"by":"skill","id":"skill_newhire","atLeast":3}],"alsoIds":[],"exceptIds":[],"weights":{"person_04":2}}',
    says: {
      zone: 'Europe/Dublin',
      hoursId: null,
      limits: { atOnce: 6, perHour: 40, perDay: null, perMonth: null },
      instead: ['perHour'],
      who: [{ by: 'skill', id: 'skill_newhire', atLeast: 3 }],
      alsoIds: [],
      exceptIds: [],
      weights: { person_04: 2 },
    } satisfies GroupBody,
  },
  {
    kind: 'outcome',
    v: 1,
    kept: '{}',
    says: { who: 'agents', shortest: null, longest: null, category: 'settled', retired: false },
  },
  {
    kind: 'outcome',
    v: 2,
    kept: '{"v":2,"who":"agents","shortest":60,"longest":null,"category":"sale","reached":true,"retired":true}',
    says: {
      who: 'agents',
      shortest: 60,
      longest: null,
      category: 'sale',
      retired: true,
    } satisfies Omit<Outcome, 'code' | 'label'>,
  },
  {
    kind: 'outcome',
    v: 3,
    kept: '{"v":3,"who":"system","shortest":null,"longest":20,"category":"no-contact","retired":false}',
    says: {
      who: 'system',
      shortest: null,
      longest: 20,
      category: 'no-contact',
      retired: false,
    } satisfies Omit<Outcome, 'code' | 'label'>,
  },
  {
    kind: 'partner',
    v: 1,
    kept: '{"zone":"Europe/Lisbon","way":"one-by-one","ringSeconds":25,"countsFromSeconds":10,"numbers":[{"id":"number_2","name":"Evening line","address":"+351200000102","hoursId":null,"limits":{"atOnce":3,"perHour":null,"perDay":60,"perMonth":null},"perQueue":{"queue_repairs":{"rank":2,"weight":1}}}]}',
    says: {
      zone: 'Europe/Lisbon',
      hoursId: null,
      limits: { atOnce: null, perHour: null, perDay: null, perMonth: null },
      way: 'one-by-one',
      ringSeconds: 25,
      countsFromSeconds: 10,
      numbers: [
        {
          id: 'number_2',
          name: 'Evening line',
          address: '+351200000102',
          hoursId: null,
          limits: { atOnce: 3, perHour: null, perDay: 60, perMonth: null },
          perQueue: { queue_repairs: { rank: 2, weight: 1 } },
        },
      ],
    } satisfies PartnerBody,
  },
  {
    kind: 'partner',
    v: 2,
    kept: '{"v":2,"zone":"Europe/Lisbon","hoursId":"hours_1","limits":{"atOnce":5,"perHour":null,"perDay":null,"perMonth":900},"way":"all-at-once","ringSeconds":25,"countsFromSeconds":10,"numbers":[]}',
    says: {
      zone: 'Europe/Lisbon',
      hoursId: 'hours_1',
      limits: { atOnce: 5, perHour: null, perDay: null, perMonth: 900 },
      way: 'all-at-once',
      ringSeconds: 25,
      countsFromSeconds: 10,
      numbers: [],
    } satisfies PartnerBody,
  },
  {
    kind: 'marked-days',
    v: 1,
    kept: '{"from":"2026-11-09","to":"2026-11-10","what":"outage"}',
    says: { from: '2026-11-09', to: '2026-11-10', what: 'outage', queueIds: [] },
  },
  {
    kind: 'marked-days',
    v: 2,
    kept: '{"v":2,"from":"2026-11-09","to":"2026-11-10","what":"outage","queueIds":["queue_1"]}',
    says: { from: '2026-11-09', to: '2026-11-10', what: 'outage', queueIds: ['queue_1'] },
  },
  {
    kind: 'coaching',
    v: 1,
    kept: '{"points":[{"id":"point_1","name":"Kind","words":"In friendly words."}],"byChance":3,"byRule":{"longest":1,"passed-on":0,"came-back":0}}',
    says: {
      points: [{ id: 'point_1', name: 'Kind', words: 'In friendly words.' }],
      byChance: 3,
      byRule: { longest: 1, 'passed-on': 0, 'came-back': 0 },
    },
  },
  {
    kind: 'figure-goal',
    v: 1,
    kept: '{"kind":"teams","of":"team_front","measure":"met","bound":"least","value":0.8}',
    says: { kind: 'teams', of: 'team_front', measure: 'met', bound: 'least', value: 0.8 },
  },
  {
    kind: 'mailed-view',
    v: 1,
    kept: '{"days":"monday","personIds":["person_02"],"due":"2026-11-16","had":{"person_02":"2026-11-16"}}',
    says: { days: 'monday', personIds: ['person_02'], due: '2026-11-16', had: { person_02: '2026-11-16' } },
  },
  { kind: 'first-view', v: 1, kept: '{"viewId":"view_1"}', says: { viewId: 'view_1' } },
  {
    kind: 'people-filter',
    v: 1,
    kept: '{"ownerId":"person_02","filter":{"team":"team_front"}}',
    says: { ownerId: 'person_02', filter: { team: 'team_front' } },
  },
  {
    kind: 'report',
    v: 1,
    kept: '{"ownerId":"person_02","forAll":false,"months":3,"parts":[{"viewId":"view_1","said":"Better."}]}',
    says: { ownerId: 'person_02', forAll: false, months: 3, parts: [{ viewId: 'view_1', said: 'Better.' }] },
  },
  {
    kind: 'sent-report',
    v: 1,
    kept: '{"reportId":"report_1","ownerId":"person_02","floorAt":1794819600000,"personIds":["person_02"],"left":[],"months":1,"parts":[{"viewId":"view_1","said":""}]}',
    says: {
      reportId: 'report_1',
      ownerId: 'person_02',
      floorAt: 1794819600000,
      personIds: ['person_02'],
      left: [],
      months: 1,
      parts: [{ viewId: 'view_1', said: '' }],
    },
  },
  {
    kind: 'report-copy',
    v: 1,
    kept: '{"figures":{"months":[{"from":"2026-10-01","to":"2026-10-31"}],"tables":[{"viewId":"view_1","name":"All","said":"","listOf":null,"rows":[{"id":"started","name":"Contacts","unit":"count","formula":"All that came.","values":[1200]}],"missing":null}]}}',
    says: {
      figures: {
        months: [{ from: '2026-10-01', to: '2026-10-31' }],
        tables: [
          {
            viewId: 'view_1',
            name: 'All',
            said: '',
            listOf: null,
            rows: [{ id: 'started', name: 'Contacts', unit: 'count', formula: 'All that came.', values: [1200] }],
            missing: null,
          },
        ],
      },
    },
  },
  {
    kind: 'review-view',
    v: 1,
    kept: '{"ownerId":"person_02","forAll":true,"path":"/review/queues","address":{"channel":"chat"},"days":{"last":7}}',
    says: {
      ownerId: 'person_02',
      forAll: true,
      path: '/review/queues',
      address: { channel: 'chat' },
      days: { last: 7 },
    },
  },
  {
    kind: 'person-limits',
    v: 1,
    kept: '{"limits":{"atOnce":null,"perHour":5,"perDay":null,"perMonth":null}}',
    says: { limits: { atOnce: null, perHour: 5, perDay: null, perMonth: null } },
  },
  {
    kind: 'recording',
    v: 1,
    kept: '{"kind":"words","language":"es","text":"Hola.","soundId":"sound_1","seconds":1.4}',
    says: { kind: 'words', language: 'es', text: 'Hola.', soundId: 'sound_1', seconds: 1.4 },
  },
  {
    kind: 'person-rows',
    v: 1,
    kept: '{"rows":[{"queueId":"queue_repairs","channel":"voice","band":2,"delaySeconds":20},{"queueId":"queue_repairs","channel":"chat","band":0,"delaySeconds":0}]}',
    says: {
      rows: [
        { queueId: 'queue_repairs', channel: 'voice', band: 2, delaySeconds: 20 },
        { queueId: 'queue_repairs', channel: 'chat', band: 0, delaySeconds: 0 },
      ],
    },
  },
  {
    kind: 'phrasebook',
    v: 1,
    kept: '{"languages":["en"],"intents":[{"id":"intent_hire","label":"Hire","description":"","examples":{"en":["I would like to hire"]}}],"recognised":[{"id":"list_1","label":"Ours","kind":"list","things":[{"id":"t1","words":{"en":["cello"]}}]},{"id":"p1","label":"Number","kind":"pattern","pattern":"BR-[0-9]{4}","example":"BR-1234"}]}',
    says: {
      languages: ['en'],
      intents: [{ id: 'intent_hire', label: 'Hire', description: '', examples: { en: ['I would like to hire'] } }],
      recognised: [
        { id: 'list_1', label: 'Ours', kind: 'list', things: [{ id: 't1', words: { en: ['cello'] } }] },
        { id: 'p1', label: 'Number', kind: 'pattern', pattern: 'BR-[0-9]{4}', example: 'BR-1234' },
      ],
      otherWords: [],
      wishes: {},
      aside: [],
    } satisfies Phrasebook,
  },
  {
    kind: 'phrasebook',
    v: 2,
    kept: '{"v":2,"languages":["en"],"intents":[{"id":"intent_hire","label":"Hire","description":"","examples":{"en":["I would like to hire"]}}],"recognised":[],"otherWords":[{"word":"hire","language":"en","also":["take for a while"]}],"wishes":{"en":{"right":0.9,"keep":0.95}},"aside":[{"text":"for a month please","language":"en","intentId":"intent_hire"},{"text":"nice weather","language":"en","intentId":null}]}',
    says: {
      languages: ['en'],
      intents: [{ id: 'intent_hire', label: 'Hire', description: '', examples: { en: ['I would like to hire'] } }],
      recognised: [],
      otherWords: [{ word: 'hire', language: 'en', also: ['take for a while'] }],
      wishes: { en: { right: 0.9, keep: 0.95 } },
      aside: [
        { text: 'for a month please', language: 'en', intentId: 'intent_hire' },
        { text: 'nice weather', language: 'en', intentId: null },
      ],
    } satisfies Phrasebook,
  },
  { kind: 'pinned', v: 1, kept: '{}', says: { shared: [], connectors: [], phrasebook: null } satisfies Pinned },
  {
    kind: 'pinned',
    v: 2,
    kept: '{"v":2,"shared":[{"id":"shared_message","name":"Take a message","inputs":["who"],"steps":[{"id":"m_1","verb":"take-message","wording":{"text":{"en":"Please say it."}},"queueId":"queue_newhire"},{"id":"m_2","verb":"go-to","cue":{"to":"end"}}]}],"connectors":[{"id":"connector_repairs","name":"Repairs","does":"do","host":"","method":"POST","path":"/repairs","inputs":["number"],"outputs":[{"name":"reference","from":"reference"}],"timeoutSeconds":6}],"phrasebook":4}',
    says: { shared: [shared], connectors: [connector], phrasebook: 4 } satisfies Pinned,
  },
  {
    kind: 'queue',
    v: 1,
    kept: '{"id":"queue_repairs","name":"Repairs","channels":["voice","chat"],"goal":{"percent":80,"seconds":60},"needs":[{"skillId":"skill_triage","atLeast":2}],"order":["longest-idle"],"wrapUpSeconds":45}',
    says: repairs,
  },
  {
    kind: 'queue',
    v: 2,
    kept: '{"v":2,"id":"queue_repairs","name":"Repairs","channels":["voice","chat"],"goals":{"voice":{"percent":90,"seconds":20}},"hoursId":"hours_late","needs":[{"skillId":"skill_triage","atLeast":2,"atMost":4,"firm":true}],"order":["highest-level","lightest-load"],"familiar":{"days":30,"holdSeconds":60},"offering":{"way":"ring-all","most":5},"missedSetsAway":false,"entryRules":[{"if":{"when":"waiting","atLeast":9},"then":{"to":"queue","queueId":"queue_newhire"}}],"clocks":{"voice":[{"atSeconds":40,"early":false,"acts":[{"does":"ask","wording":{"en":"Busy."},"choices":[{"key":"1","what":"keep"},{"key":"2","what":"callback"}],"everySeconds":null}]},{"atSeconds":90,"early":false,"acts":[{"does":"ask","wording":{"en":"Still busy."},"choices":[{"key":"1","what":"keep"}],"everySeconds":60}]}]},"wrapUp":{"way":"outcome"},"connect":{"toAgent":{"en":"A repair."},"toCustomer":{}},"outcomes":["DONE"],"fields":["problem"],"callback":{"queueId":null,"attempts":3,"spacingMinutes":15,"expiryHours":24,"wording":{"confirm":{},"typeNumber":{},"readBack":{},"when":{},"promised":{}}}}',
    says: {
      ...repairs,
      goals: { voice: { percent: 90, seconds: 20 } },
      hoursId: 'hours_late',
      needs: [{ skillId: 'skill_triage', atLeast: 2, atMost: 4, firm: true }],
      order: ['highest-level', 'lightest-load'],
      familiar: { days: 30, holdSeconds: 60 },
      offering: { way: 'ring-all', most: 5 },
      missedSetsAway: false,
      entryRules: [{ if: { when: 'waiting', atLeast: 9 }, then: { to: 'queue', queueId: 'queue_newhire' } }],
      clocks: {
        voice: [
          {
            atSeconds: 40,
            early: false,
            acts: [
              {
                does: 'ask',
                wording: { en: 'Busy.' },
                choices: [{ key: '2', what: 'callback' }],
                everySeconds: null,
              },
            ],
          },
          {
            atSeconds: 90,
            early: false,
            acts: [{ does: 'say', wording: { en: 'Still busy.' }, everySeconds: 60 }],
          },
        ],
      },
      wrapUp: { seconds: null, mayFinishEarly: true, needsOutcome: true },
      connect: { toAgent: { en: 'A repair.' }, toCustomer: {} },
      outcomes: ['DONE'],
      fields: ['problem'],
    } satisfies QueueSettings,
  },
  {
    kind: 'queue',
    v: 3,
    kept: '{"v":3,"id":"queue_repairs","name":"Repairs","channels":["voice","chat"],"goals":{"voice":{"percent":90,"seconds":20}},"hoursId":"hours_late","needs":[{"skillId":"skill_triage","atLeast":2,"atMost":4,"firm":true}],"order":["highest-level","lightest-load"],"familiar":{"days":30,"holdSeconds":60},"offering":{"way":"ring-all","most":5},"missedSetsAway":false,"entryRules":[{"if":{"when":"waiting","atLeast":9},"then":{"to":"queue","queueId":"queue_newhire"}}],"clocks":{"voice":[{"atSeconds":40,"early":false,"acts":[{"does":"ask","wording":{"en":"Busy."},"choices":[{"key":"2","what":"callback"}],"everySeconds":null}]},{"atSeconds":90,"early":false,"acts":[{"does":"say","wording":{"en":"Still busy."},"everySeconds":60}]}]},"wrapUp":{"seconds":null,"mayFinishEarly":true,"needsOutcome":true},"connect":{"toAgent":{"en":"A repair."},"toCustomer":{}},"outcomes":["DONE"],"fields":["problem"],"callback":{"queueId":null,"attempts":3,"spacingMinutes":15,"expiryHours":24,"wording":{"confirm":{},"typeNumber":{},"readBack":{},"when":{},"promised":{}}}}',
    says: {
      ...repairs,
      goals: { voice: { percent: 90, seconds: 20 } },
      hoursId: 'hours_late',
      needs: [{ skillId: 'skill_triage', atLeast: 2, atMost: 4, firm: true }],
      order: ['highest-level', 'lightest-load'],
      familiar: { days: 30, holdSeconds: 60 },
      offering: { way: 'ring-all', most: 5 },
      missedSetsAway: false,
      entryRules: [{ if: { when: 'waiting', atLeast: 9 }, then: { to: 'queue', queueId: 'queue_newhire' } }],
      clocks: {
        voice: [
          {
            atSeconds: 40,
            early: false,
            acts: [
              {
                does: 'ask',
                wording: { en: 'Busy.' },
                choices: [{ key: '2', what: 'callback' }],
                everySeconds: null,
              },
            ],
          },
          {
            atSeconds: 90,
            early: false,
            acts: [{ does: 'say', wording: { en: 'Still busy.' }, everySeconds: 60 }],
          },
        ],
      },
      wrapUp: { seconds: null, mayFinishEarly: true, needsOutcome: true },
      connect: { toAgent: { en: 'A repair.' }, toCustomer: {} },
      outcomes: ['DONE'],
      fields: ['problem'],
    } satisfies QueueSettings,
  },
  {
    kind: 'role',
    v: 1,
    kept: '{"rights":["people.view","review.view"],"teams":["team_front"]}',
    says: { rights: ['people.view', 'review.view'], teams: ['team_front'] },
  },
  {
    kind: 'script',
    v: 1,
    kept: '{"shownName":"Front desk","languages":["en","es"],"fallbackQueueId":"queue_repairs","scenes":[{"id":"s","name":"Hello","steps":[{"id":"a","verb":"say","wording":{"en":"Hello."}},{"id":"b","verb":"listen","wording":{"en":"What is it about?"},"hears":{"kind":"choices","choices":[{"id":"c1","label":{"en":"A repair"},"key":"1","synonyms":{"en":["mend"]},"cue":{"to":"next"}},{"id":"c2","label":{"en":"Español"},"key":"2","synonyms":{},"cue":{"to":"line","lineId":"b"},"setsLanguage":"es"}]},"remember":"","tries":3,"again":{"en":"Please say it in other words."},"otherwise":{"to":"next"}},{"id":"d","verb":"listen","wording":{"en":"What broke?"},"hears":{"kind":"text"},"remember":"problem","tries":2,"again":{},"otherwise":{"to":"end"}},{"id":"e","verb":"branch","ways":[{"when":{"in":["cello",{"var":"values.problem"}]},"cue":{"to":"line","lineId":"f"}}],"otherwise":{"to":"next"}},{"id":"f","verb":"hand-over","queueId":"queue_repairs","needs":[{"skillId":"skill_bowed","atLeast":3}],"priority":0,"wording":{"en":"One moment."}},{"id":"g","verb":"end","wording":{}}]}]}',
    says: script,
  },
  {
    kind: 'script',
    v: 2,
    kept: '{"v":2,"shownName":"Front desk","picture":"FD","languages":["en"],"fallbackQueueId":"queue_repairs","fallbackWording":{"text":{"en":"One moment."}},"scenes":[{"id":"s","name":"Hello","steps":[{"id":"a","verb":"say","wording":{"text":{"en":"Hello."},"on":{"voice":{"en":"Good day."}}},"mayInterrupt":false,"link":{"url":"https://shop.example","label":{"en":"Shop"}},"image":{"imageId":"i1","alt":{"en":"A shop"}}},{"id":"l","verb":"look-up","source":{"from":"table","tableId":"t"},"inputs":[{"name":"site","value":"{town}"}],"outputs":[{"name":"hours","into":{"name":"hours","scope":"scene"}}],"tries":1,"slowAfterSeconds":4,"slow":{"text":{}},"found":{"to":"next"},"notFound":{"to":"end"},"failed":null},{"id":"h","verb":"hand-over","target":{"to":"person","person":{"by":"last"},"queueId":"queue_repairs","off":null},"needs":[],"priority":2,"fields":["problem"],"wording":{"text":{}}}]}],"afterSceneId":"s","quiet":{"remindSeconds":60,"wording":{"text":{}},"closeSeconds":120}}',
    says: {
      shownName: 'Front desk',
      picture: 'FD',
      languages: ['en'],
      fallbackQueueId: 'queue_repairs',
      fallbackWording: { text: { en: 'One moment.' } },
      scenes: [
        {
          id: 's',
          name: 'Hello',
          steps: [
            {
              id: 'a',
              verb: 'say',
              wording: { text: { en: 'Hello.' }, on: { voice: { en: 'Good day.' } } },
              mayInterrupt: false,
              link: { url: 'https://shop.example', label: { en: 'Shop' } },
              image: { imageId: 'i1', alt: { en: 'A shop' } },
            },
            {
              id: 'l',
              verb: 'look-up',
              source: { from: 'table', tableId: 't' },
              inputs: [{ name: 'site', value: '{town}' }],
              outputs: [{ name: 'hours', into: { name: 'hours', scope: 'scene' } }],
              tries: 1,
              slowAfterSeconds: 4,
              slow: { text: {} },
              found: { to: 'next' },
              notFound: { to: 'end' },
              failed: null,
            },
            {
              id: 'h',
              verb: 'hand-over',
              target: { to: 'person', person: { by: 'last' }, queueId: 'queue_repairs', off: null },
              needs: [],
              priority: 2,
              fields: ['problem'],
              wording: { text: {} },
            },
          ],
        },
      ],
      afterSceneId: 's',
      quiet: { remindSeconds: 60, wording: { text: {} }, closeSeconds: 120 },
    } satisfies BotScript,
  },
  {
    kind: 'shared-scene',
    v: 1,
    kept: '{"inputs":["who"],"steps":[{"id":"m_1","verb":"take-message","wording":{"text":{"en":"Please say it."}},"queueId":"queue_newhire"},{"id":"m_2","verb":"go-to","cue":{"to":"end"}}]}',
    says: sharedBody,
  },
  {
    kind: 'shift',
    v: 1,
    kept: '{"weekly":[{"day":1,"from":"08:00","to":"16:00"}],"exceptions":[{"date":"2026-12-24","intervals":[],"note":"eve"}]}',
    says: {
      weekly: [{ day: 1, from: '08:00', to: '16:00' }],
      exceptions: [{ date: '2026-12-24', intervals: [], note: 'eve' }],
    } satisfies Shift,
  },
  {
    kind: 'site',
    v: 1,
    kept: '{"zone":"Europe/Dublin","address":"4 Brindle Lane"}',
    says: { zone: 'Europe/Dublin', address: '4 Brindle Lane' },
  },
  { kind: 'skill-set', v: 1, kept: '{"levels":{"skill_keys":1}}', says: { levels: { skill_keys: 1 } } },
  { kind: 'stand-in-system', v: 1, kept: '{"mood":"slow"}', says: { mood: 'slow' } },
  {
    kind: 'stock-set',
    v: 1,
    kept: '{"replies":[{"id":"reply_due","title":"Next payment","text":{"en":"It is taken on the first."}}]}',
    says: { replies: [{ id: 'reply_due', title: 'Next payment', text: { en: 'It is taken on the first.' } }] },
  },
  {
    kind: 'table',
    v: 1,
    kept: '{"columns":["site","hours"],"rows":[["Dublin","8 to 20"]]}',
    says: { columns: ['site', 'hours'], rows: [['Dublin', '8 to 20']] },
  },
];
