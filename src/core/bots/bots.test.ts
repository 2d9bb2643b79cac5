import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { CHANNELS } from '../channels';
import { checkBot, type CheckWorld } from './checks';
import { conditionFrom, conditionSentence, holds, OPERATORS, rowFrom, type ConditionWorld } from './conditions';
import { addStep, cueWords, moveStep, newStep, removeStep, replaceStep } from './edit';
import { heardChoice, plainWords } from './heard';
import { beginning, runBot, STEP_LIMIT, type BotAct, type BotInput, type BotState } from './interpreter';
import type { BotScript, Choice, Cue, Listen, Step } from './model';
import { filled, questionOn } from './sentences';

const next: Cue = { to: 'next' };
const choice = (id: string, key: string, en: string, more: Partial<Choice> = {}): Choice => ({ id, key, label: { en }, synonyms: {}, cue: next, ...more });
const say = (id: string, en: string): Step => ({ id, verb: 'say', wording: { en } });
const listen = (id: string, change: Partial<Listen> = {}): Listen => ({ id, verb: 'listen', wording: { en: 'Which?' }, hears: { kind: 'choices', choices: [choice('a', '1', 'a repair'), choice('b', '2', 'a bill')] }, remember: '', tries: 2, again: {}, otherwise: { to: 'end' }, ...change });
const over: Step = { id: 'over', verb: 'hand-over', queueId: 'q', needs: [{ skillId: 's', atLeast: 2 }], priority: 3, wording: { en: 'One moment.' } };
const script = (...steps: Step[]): BotScript => ({ shownName: 'B', languages: ['en', 'es'], fallbackQueueId: 'fallback', scenes: [{ id: 'one', name: 'One', steps }] });
const world = { channel: 'chat', open: true } as const;
const texts = (acts: readonly BotAct[]) => acts.flatMap((a) => (a.type === 'say' ? [a.text] : []));
/** Runs a whole conversation; gives every act and where it stands. */
function talk(bot: BotScript, inputs: readonly BotInput[], channel: (typeof CHANNELS)[number] = 'chat', language = 'en'): { acts: BotAct[]; state: BotState } {
  let { state, acts } = runBot(bot, { channel, open: true }, beginning(language), { type: 'start' });
  for (const input of inputs) {
    const run = runBot(bot, { channel, open: true }, state, input);
    state = run.state;
    acts = [...acts, ...run.acts];
  }
  return { acts, state };
}
const text = (t: string): BotInput => ({ type: 'text', text: t });
const key = (k: string): BotInput => ({ type: 'key', key: k });

describe('hearing a choice', () => {
  const choices = [choice('repair', '1', 'a repair', { synonyms: { en: ['broken', 'does not work'], es: ['reparación'] } }), choice('bill', '2', 'a bill', { synonyms: { en: ['work'] } })];
  it.each([['1', 'repair'], ['2', 'bill'], ['It is BROKEN!', 'repair'], ['reparacion', 'repair'], ['a bill, please', 'bill'], ['it does not work', 'repair'], ['work', 'bill']])('%s means %s', (said, id) => expect(heardChoice(choices, said)?.id).toBe(id));
  it.each(['', '   ', '3', 'brokenhearted', '12'])('“%s” means none', (said) => expect(heardChoice(choices, said)).toBeNull());
  it('folds accents, case and punctuation', () => expect(plainWords('  ¿Qué,  TAL? ')).toBe('que tal'));
});

describe('conditions', () => {
  const w: ConditionWorld = { channel: 'voice', language: 'es', open: true, values: { instrument: 'Cello' } };
  it.each([
    ['values.instrument', 'is', 'cello', true], ['values.instrument', 'is', 'flute', false], ['values.instrument', 'is-not', 'flute', true], ['values.instrument', 'contains', 'ELL', true],
    ['values.instrument', 'is-set', '', true], ['values.colour', 'is-set', '', false], ['values.colour', 'is-not-set', '', true], ['channel', 'is', 'voice', true], ['language', 'is', 'en', false], ['values.colour', 'contains', 'x', false],
  ] as const)('%s %s %s', (subject, operator, words, expected) => expect(holds(conditionFrom({ subject, operator, text: words }), w)).toBe(expected));
  it('reads as a sentence, and every row survives the way to JsonLogic and back', () => {
    expect(conditionSentence(conditionFrom({ subject: 'values.instrument', operator: 'is-not', text: 'flute' }))).toBe('instrument is not flute');
    fc.assert(fc.property(fc.record({ subject: fc.constantFrom('channel', 'values.x'), operator: fc.constantFrom(...OPERATORS), text: fc.string() }), (row) => {
      const back = rowFrom(conditionFrom(row));
      return back.subject === row.subject && back.operator === row.operator && (back.text === row.text || row.operator.startsWith('is-set') || row.operator === 'is-not-set');
    }));
  });
});

describe('running a script', () => {
  it('says, asks, remembers and hands over with needs and priority', () => {
    const { acts, state } = talk(script(say('s', 'Hello.'), listen('l', { remember: 'reason' }), over), [text('a repair')]);
    expect(texts(acts)).toEqual(['Hello.', 'Which?', 'One moment.']);
    expect(acts.at(-1)).toEqual({ type: 'hand-over', lineId: 'over', queueId: 'q', needs: [{ skillId: 's', atLeast: 2 }], priority: 3, because: null });
    expect(state.values).toEqual({ reason: 'a repair' });
    expect(state.status).toBe('handed-over');
  });
  it('asks again, then takes the catch-all after the last try', () => {
    const { acts, state } = talk(script(listen('l', { tries: 2 })), [text('what'), text('eh')]);
    expect(texts(acts)).toEqual(['Which?', 'Sorry, I did not catch that. Which?']);
    expect(state.status).toBe('ended');
  });
  it('uses its own words when it did not understand, where there are some', () => expect(texts(talk(script(listen('l', { again: { en: 'Once more?' } })), [text('eh')]).acts)).toEqual(['Which?', 'Once more?']));
  it('goes on in the language a choice sets', () => {
    const bot = script(listen('l', { hears: { kind: 'choices', choices: [choice('es', '2', 'Spanish', { setsLanguage: 'es' })] } }), { id: 'e', verb: 'end', wording: { en: 'Bye', es: 'Adiós' } });
    expect(texts(talk(bot, [key('2')], 'voice').acts)).toEqual(['Which? For Spanish, press 2.', 'Adiós']);
  });
  it('gathers telephone keys up to the hash', () => {
    const bot = script(listen('l', { hears: { kind: 'text' }, remember: 'hire number' }), over);
    expect(talk(bot, ['2', '0', '4'].map(key), 'voice').state).toMatchObject({ status: 'listening', keyed: '204' });
    expect(talk(bot, ['2', '0', '4', '#'].map(key), 'voice').state.values).toEqual({ 'hire number': '204' });
  });
  it('counts silence and an empty answer as a try', () => {
    const bot = script(listen('l', { hears: { kind: 'text' }, tries: 2 }));
    expect(talk(bot, [{ type: 'silence' }, key('#')], 'voice').state.status).toBe('ended');
  });
  it('branches on a value, and otherwise', () => {
    const bot = script(listen('l', { remember: 'reason' }), { id: 'b', verb: 'branch', ways: [{ when: { '==': [{ var: 'values.reason' }, 'a bill'] }, cue: { to: 'line', lineId: 'bill' } }], otherwise: next }, say('other', 'Other.'), say('bill', 'Bill.'));
    expect(texts(talk(bot, [text('2')]).acts)).toEqual(['Which?', 'Bill.']);
    expect(texts(talk(bot, [text('1')]).acts)).toEqual(['Which?', 'Other.', 'Bill.']);
  });
  it('puts values into wording and leaves out what is not known', () => {
    expect(filled('Hello {name}, about {thing}.', { name: 'Ida' })).toBe('Hello Ida, about.');
  });
  it('names keys by voice, numbers lines in SMS, leaves chat to its buttons', () => {
    const choices = [choice('a', '1', 'a repair')];
    expect(questionOn('voice', 'es', '¿Qué?', choices)).toBe('¿Qué? Para a repair, pulse 1.');
    expect(questionOn('sms', 'en', 'Which?', choices)).toBe('Which?\n1 a repair');
    expect(questionOn('chat', 'en', 'Which?', choices)).toBe('Which?');
  });
  it('a circle without input is stopped and handed to the fallback queue with its reason', () => {
    const { acts } = talk(script(say('s', 'Round'), { id: 'b', verb: 'branch', ways: [], otherwise: { to: 'line', lineId: 's' } }), []);
    expect(acts.at(-1)).toMatchObject({ type: 'hand-over', queueId: 'fallback', because: expect.stringContaining(String(STEP_LIMIT)) });
    expect(texts(acts).at(-1)).toBe('Something went wrong on our side. I am passing you to a person.');
  });
  it('a cue into nothing takes the fallback and names the line', () => expect(talk(script(listen('l', { otherwise: { to: 'line', lineId: 'gone' }, tries: 1 })), [text('eh')]).acts.at(-1)).toMatchObject({ type: 'hand-over', queueId: 'fallback', because: 'at 1.1 the line it should go to is not there' }));
  it('an empty script still reaches a person', () => expect(talk(script(), []).acts.at(-1)).toMatchObject({ type: 'hand-over', queueId: 'fallback' }));
  it('does nothing more once it has handed over', () => expect(runBot(script(over), world, talk(script(over), []).state, text('hello')).acts).toEqual([]));
  it('any script and any inputs end, hand over or wait, and never throw', () => {
    const ids = ['l0', 'l1', 'l2', 'l3', 'l4', 'l5', 'gone'];
    const cue: fc.Arbitrary<Cue> = fc.oneof(fc.constant(next), fc.constant<Cue>({ to: 'end' }), fc.constantFrom(...ids).map((lineId): Cue => ({ to: 'line', lineId })), fc.constantFrom('one', 'none').map((sceneId): Cue => ({ to: 'scene', sceneId })));
    const step = (id: string): fc.Arbitrary<Step> => fc.oneof(
      fc.string().map((en): Step => say(id, en)),
      fc.record({ otherwise: cue, one: cue, tries: fc.integer({ min: 1, max: 3 }), kind: fc.boolean() }).map((r): Step => listen(id, { otherwise: r.otherwise, tries: r.tries, remember: 'x', hears: r.kind ? { kind: 'text' } : { kind: 'choices', choices: [choice('c', '1', 'yes', { cue: r.one })] } })),
      fc.tuple(cue, cue).map(([a, b]): Step => ({ id, verb: 'branch', ways: [{ when: { in: ['1', { var: 'values.x' }] }, cue: a }], otherwise: b })),
      fc.constant<Step>({ ...over, id }), fc.constant<Step>({ id, verb: 'end', wording: {} }),
    );
    const input: fc.Arbitrary<BotInput> = fc.oneof(fc.string().map(text), fc.constantFrom('1', '2', '#').map(key), fc.constant<BotInput>({ type: 'silence' }));
    fc.assert(fc.property(fc.tuple(...ids.slice(0, 6).map(step)), fc.array(input, { maxLength: 12 }), fc.constantFrom(...CHANNELS), (steps, inputs, channel) => {
      const { state } = talk(script(...steps), inputs, channel);
      return ['listening', 'handed-over', 'ended'].includes(state.status);
    }), { numRuns: 400 });
  });
});

describe('checks: each fault, and its near twin without it', () => {
  const w: CheckWorld = { queues: new Map([['q', { name: 'Repairs', channels: ['voice', 'chat'] }], ['fallback', { name: 'F', channels: ['chat'] }]]), channels: ['chat'] };
  const full = { en: 'Yes', es: 'Sí' };
  const good = (...steps: Step[]) => script(...steps);
  const sentences = (bot: BotScript, on: CheckWorld = w) => checkBot(bot, on).map((f) => `${f.weight}: ${f.sentence}`);
  const two = (a: Partial<Choice>, b: Partial<Choice>) => listen('l', { wording: full, hears: { kind: 'choices', choices: [choice('a', '1', 'x', { label: { en: 'repair', es: 'arreglo' }, ...a }), choice('b', '2', 'y', { label: { en: 'bill', es: 'factura' }, ...b })] } });
  it.each<[string, BotScript, BotScript]>([
    ['stops: The script has no line yet.', good(), good({ id: 's', verb: 'say', wording: full })],
    ['stops: The fallback queue is not there any more.', { ...good({ id: 's', verb: 'say', wording: full }), fallbackQueueId: 'x' }, good({ id: 's', verb: 'say', wording: full })],
    ['advice: 1.1 has no wording in Spanish.', good({ id: 's', verb: 'say', wording: { en: 'Yes' } }), good({ id: 's', verb: 'say', wording: full })],
    ['stops: 1.1 has no wording in English or Spanish.', good({ id: 's', verb: 'say', wording: {} }), good({ id: 's', verb: 'say', wording: full })],
    ['stops: 1.1 goes to a line that is not there (anything else).', good({ ...two({}, {}), otherwise: { to: 'line', lineId: 'x' } }), good(two({}, {}))],
    ['stops: 1.1 goes to a scene that is not there or has no line (repair).', good(two({ cue: { to: 'scene', sceneId: 'x' } }, {})), good(two({ cue: { to: 'scene', sceneId: 'one' } }, {}))],
    ['stops: 1.1 has “1” for two choices.', good(two({}, { key: '1' })), good(two({}, { key: '3' }))],
    ['stops: 1.1 has “bill” for two choices.', good(two({ synonyms: { en: ['Bill!'] } }, {})), good(two({ synonyms: { en: ['bills'] } }, {}))],
    ['stops: 1.1 listens for no choice at all.', good(listen('l', { wording: full, hears: { kind: 'choices', choices: [] } })), good(listen('l', { wording: full, hears: { kind: 'text' } }))],
    ['stops: 1.1 hands over to a queue that is not there.', good({ ...over, queueId: 'x' } as Step), good(over)],
  ])('%s', (sentence, bad, fine) => {
    expect(sentences(bad)).toContain(sentence);
    expect(sentences(fine)).not.toContain(sentence);
  });
  it('a queue must take every channel of the bot’s doors', () => {
    expect(sentences(good(over), { ...w, channels: ['chat', 'sms'] })).toContain('stops: 1.1 hands over to Repairs, which does not take sms.');
    expect(sentences(good(over), { ...w, channels: ['chat', 'voice'] }).filter((s) => s.includes('take'))).toEqual([]);
  });
});

describe('editing', () => {
  const bot = script(say('a', 'A'), say('b', 'B'));
  const ids = (s: BotScript) => s.scenes[0]?.steps.map((x) => x.id);
  it('moves, adds, replaces and removes without touching the old script', () => {
    const before = JSON.stringify(bot);
    expect(ids(moveStep(bot, 'b', -1))).toEqual(['b', 'a']);
    expect(ids(moveStep(bot, 'b', 1))).toEqual(['a', 'b']);
    expect(ids(addStep(bot, 'one', newStep('end', 'z', 'q'), 1))).toEqual(['a', 'z', 'b']);
    expect(ids(removeStep(bot, 'a'))).toEqual(['b']);
    expect(replaceStep(bot, say('a', 'new')).scenes[0]?.steps[0]).toEqual(say('a', 'new'));
    expect(JSON.stringify(bot)).toBe(before);
  });
  it('reads cues by number, and knows when one leads nowhere', () => {
    expect(cueWords(bot, { to: 'line', lineId: 'b' })).toBe('1.2');
    expect(cueWords(bot, { to: 'scene', sceneId: 'one' })).toBe('1 One');
    expect(cueWords(bot, { to: 'line', lineId: 'x' })).toBeNull();
  });
});
