import { BOTS } from '../../demo/bots';
import { beginning, type BotInput } from '../../src/core/bots/conversation';
import { converse, runBot } from '../../src/core/bots/interpreter';
import { prepare } from '../../src/core/bots/program';
import { settingAnswer } from '../../src/core/bots/trial';
import { scriptFrom } from '../../src/core/bots/upgrade';
import { createAgenda } from '../../src/core/agenda';
import { time } from './time';

/** Steps a second of the interpreter on one core, beside a bare heap, and whole conversations of a demo bot. */
const agenda = createAgenda<number>();
for (let i = 0; i < 1000; i++) agenda.add((i * 7919) % 1000, i);
const heap = time(200_000, () => {
  const next = agenda.nextAt() ?? 0;
  agenda.takeNext();
  agenda.add(next + 1000, 1);
});

const STEPS = 150;
const lines = Array.from({ length: STEPS }, (_, i) =>
  i % 3 === 0
    ? {
        id: `l${i}`,
        verb: 'remember',
        into: { name: `v${i % 7}`, scope: 'conversation' },
        value: `{v${(i + 3) % 7}} and ${i}`,
      }
    : i % 3 === 1
      ? {
          id: `l${i}`,
          verb: 'branch',
          ways: [{ when: { '>': [{ var: 'values.v1' }, 3] }, cue: { to: 'next' } }],
          otherwise: { to: 'next' },
        }
      : { id: `l${i}`, verb: 'say', wording: { text: { en: 'Line {v1} of {v2}' } }, mayInterrupt: true, link: null },
);
const long = prepare(
  scriptFrom({
    shownName: 'B',
    languages: ['en'],
    fallbackQueueId: 'q',
    scenes: [{ id: 's', name: 'S', steps: lines }],
  }),
);
const world = { channel: 'chat', local: '2026-11-17T10:20' } as const;
const start = beginning('en');
const ns = time(400, () => {
  runBot(long, world, start, { type: 'start' });
});
console.log(
  `interpreter: ${Math.round(1e9 / (ns / STEPS)).toLocaleString('en')} steps a second on one core, ` +
    `${(ns / STEPS / heap).toFixed(1)} × a bare pop and push`,
);

const chat = BOTS.find((b) => b.id === 'bot_chat');
if (chat) {
  const program = prepare(chat.script, chat.shared);
  const setting = {
    channel: 'chat',
    language: 'en',
    local: world.local,
    open: true,
    customer: null,
    facts: {},
    behaviours: { connector_hire: 'not-found' },
  } as const;
  const said: BotInput[] = [
    { type: 'start' },
    { type: 'text', text: 'a repair' },
    { type: 'text', text: 'BH-204816' },
    { type: 'text', text: 'the bridge snapped' },
  ];
  const whole = time(2000, () => {
    let state = start;
    for (const input of said)
      ({ state } = converse(program, world, state, input, (request) => settingAnswer(setting, request)));
  });
  console.log(`a repair told to the chat bot, four inputs: ${(whole / 1000).toFixed(0)} µs`);
}
