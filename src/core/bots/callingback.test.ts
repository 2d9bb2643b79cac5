import { describe, expect, it } from 'vitest';
import { callBack, choice, choose, en, end, over, scriptOf, toLine } from '../../../tests/helpers/scripts';
import { beginning, type BotAct, type BotInput } from './conversation';
import { converse } from './interpreter';
import type { CallBack } from './model';
import { prepare } from './program';
import { endingOf, runTrial, saidIn, settingAnswer, type Setting, trialCode } from './trial';

const line = (more: Partial<CallBack> = {}): CallBack => callBack({ otherwise: toLine('no'), ...more });
const script = (step: CallBack) => scriptOf([step, end('no', 'As you like.'), over('p')]);
// A Monday at three.
const SETTING: Setting = {
  channel: 'voice',
  language: 'en',
  local: '2026-11-23T15:10',
  open: true,
  customer: null,
  facts: {},
  behaviours: {},
};
const keys = (digits: string): BotInput[] => [...digits].map((key) => ({ type: 'key', key }));
const words = (text: string): BotInput => ({ type: 'text', text });
const SILENCE: BotInput = { type: 'silence' };
const START: BotInput = { type: 'start' };

/** Carries a bot through inputs; what was said after each, and everything it did. */
function carry(bot: ReturnType<typeof script>, inputs: readonly BotInput[], setting: Setting = SETTING) {
  const program = prepare(bot, [], null, 'IE');
  let state = beginning('en');
  const acts: BotAct[] = [];
  const said = [START, ...inputs].map((input) => {
    const world = { channel: setting.channel, local: setting.local };
    const out = converse(program, world, state, input, (request) => settingAnswer(setting, request));
    ({ state } = out);
    acts.push(...out.acts);
    return saidIn(out.acts);
  });
  return { said, state, acts, promised: acts.find((a) => a.type === 'promise'), ending: endingOf(state, acts) };
}

describe('a call back', () => {
  it('on their own number, as soon as possible: a promise to the queue, and the bot’s part is over', () => {
    const t = carry(script(line({ attempts: 2, fields: ['reason'] })), keys('11'));
    expect(t.said[1]?.[0]).toMatch(
      /^When shall we call\? For as soon as possible, press 1\. For Monday 17:00–19:00, press 2\./,
    );
    expect(t.promised).toMatchObject({
      queueId: 'q',
      number: '+442079460123',
      window: null,
      most: 2,
      fields: ['reason'],
    });
    expect(t.said[2]).toEqual(['We will call +44 20 7946 0123 as soon as possible. Goodbye.']);
    expect(t.ending).toMatchObject({ where: 'promise', queueId: 'q', failed: null });
  });
  it('on a number that is typed and shown to be theirs, in the window that is chosen: that one and no other', () => {
    const code = trialCode('+353209140002');
    const t = carry(script(line()), [
      ...keys('2'),
      ...keys('+353209140002#'.replace('+', '00')),
      ...keys('1'),
      ...keys(`${code}#`),
      ...keys('2'),
    ]);
    expect(t.promised).toMatchObject({
      number: '+353209140002',
      window: { from: Date.parse('2026-11-23T17:00Z'), to: Date.parse('2026-11-23T19:00Z') },
    });
  });
  it('a number from a value is confirmed first, and still takes its code', () => {
    const bot = scriptOf([
      { id: 'r', verb: 'remember', into: { name: 'their number', scope: 'conversation' }, value: '+353 20 914 0007' },
      line({ number: 'their number' }),
    ]);
    const t = carry(bot, keys('1'));
    expect(t.said[0]?.[0]).toContain('+353 20 914 0007');
    expect(t.said[1]).toEqual([
      `SMS to +353209140007: the code ${trialCode('+353209140007')}`,
      'We have sent a code to +353 20 914 0007. Please give it here. Press its six digits, then the hash key.',
    ]);
    expect(t.promised).toBeUndefined();
  });
  it('takes words for keys; three answers that fit nowhere, or silences, lead on', () => {
    expect(carry(script(line()), [words('Yes, please!'), words('AS SOON as possible')]).promised).toBeDefined();
    for (const inputs of [
      [SILENCE, SILENCE, SILENCE],
      [words('perhaps'), SILENCE, words('hm')],
    ]) {
      const t = carry(script(line()), inputs);
      expect([t.said.at(-1), t.state.status, t.promised]).toEqual([['As you like.'], 'ended', undefined]);
    }
    expect(carry(script(line({ otherwise: null })), [SILENCE, SILENCE, SILENCE]).ending).toMatchObject({
      where: 'person',
      queueId: 'fallback',
    });
  });
  it('says its own sentences, with values, and the answers where they have their place', () => {
    const bot = scriptOf([
      { id: 'r', verb: 'remember', into: { name: 'name', scope: 'conversation' }, value: 'Ida' },
      line({
        windows: 0,
        sentences: {
          confirm: en('{name}, {options} Is it {number}?'),
          promised: en('Until {when}, {name}.'),
          soon: en('soon'),
          yes: en('the same'),
        },
      }),
    ]);
    expect(carry(bot, keys('1')).said).toEqual([
      ['Ida, For the same, press 1. For another number, press 2. Is it +44 20 7946 0123?'],
      ['Until soon, Ida.'],
    ]);
  });
  it('reads answers as numbered lines where there are no buttons, and says nothing of keys to who writes', () => {
    const at = (channel: Setting['channel']) => carry(script(line()), [], { ...SETTING, channel }).said[0];
    expect(at('sms')).toEqual(['Shall we call you back on +44 20 7946 0123?\n1 yes\n2 another number']);
    expect(at('chat')).toEqual(['Which number shall we call?']);
  });
  it('offers only the times it is set to; without any nothing comes of it', () => {
    const later = carry(script(line({ soon: false, windows: 1 })), keys('11'));
    expect(later.promised).toMatchObject({ window: { from: Date.parse('2026-11-23T17:00Z') } });
    expect(carry(script(line({ soon: false, windows: 0 })), []).said[0]).toEqual(['As you like.']);
    expect(carry(script(line({ windows: 0 })), keys('1')).promised).toMatchObject({ window: null });
  });
  it('asks for what the conversation came to need', () => {
    const bot = scriptOf([
      choose('a', [choice('bow', '1', toLine('c'), { needs: [{ skillId: 'bow', atLeast: 3 }] })]),
      line(),
    ]);
    expect(carry(bot, keys('111')).promised).toMatchObject({ needs: [{ skillId: 'bow', atLeast: 3 }] });
  });
  it('kept as a test it passes, and fails once it promises something else', () => {
    const made = carry(script(line()), keys('11'));
    const turns = [START, ...keys('11')].map((input, i) => ({ input, replies: [], says: made.said[i] ?? [] }));
    const trial = { id: 't', name: 'T', setting: SETTING, turns, ending: made.ending };
    expect(runTrial(prepare(script(line()), []), trial)).toMatchObject({ passed: true });
    const other = runTrial(prepare(script(line({ queueId: 'other' })), []), trial);
    expect(other.otherwise).toEqual(['It promises a call by other instead of q.']);
  });
});
