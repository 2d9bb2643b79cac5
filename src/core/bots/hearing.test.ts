import { describe, expect, it } from 'vitest';
import type { Reply } from './conversation';
import {
  choice,
  choose,
  en,
  end,
  hear,
  NEXT,
  over,
  say,
  scriptOf,
  talk,
  toLine,
  toScene,
} from '../../../tests/helpers/scripts';

const overOf = (t: ReturnType<typeof talk>) => t.find('hand-over')[0];

describe('listening for choices', () => {
  const script = scriptOf(
    [
      choose(
        'q',
        [choice('red', '1', toLine('r'), { synonyms: { en: ['crimson'] } }), choice('blue', '2', toScene('s2'))],
        { into: { name: 'colour', scope: 'conversation' } },
      ),
      say('n', 'neither'),
      end('x'),
      say('r', 'red it is {colour}'),
      end('y'),
    ],
    [end('b', 'blue it is')],
  );
  it.each([
    ['1', 'red it is red'],
    ['RED', 'red it is red'],
    ['crimson', 'red it is red'],
    ['2', 'blue it is'],
    ['I would like blue, please', 'blue it is'],
  ])('“%s” is heard', (text, answer) => {
    const t = talk(script);
    t.start();
    expect(t.text(text)).toEqual([answer]);
    expect(t.find('heard')[0]).toMatchObject({ lineId: 'q', understood: true });
  });
  it('asks again, then takes the catch-all', () => {
    const t = talk(script);
    expect(t.start()).toEqual(['q?']);
    expect(t.text('green')[0]).toContain('q?');
    expect(t.text('green')).toEqual(['neither']);
    expect(t.state().status).toBe('ended');
  });
  it('keys are named by voice, numbered in writing without buttons, offered as buttons in chat', () => {
    const voice = talk(script, { channel: 'voice' });
    expect(voice.start()[0]).toMatch(/red.*1.*blue.*2/);
    expect(talk(script, { channel: 'sms' }).start()[0]).toBe('q?\n1 red\n2 blue');
    const chat = talk(script);
    chat.start();
    expect(chat.find('say')[0]?.options).toEqual([
      { key: '1', label: 'red' },
      { key: '2', label: 'blue' },
    ]);
    expect(voice.keys('2')).toEqual(['blue it is']);
  });
  it('a choice without a key is understood, but not offered beside those that have one', () => {
    const t = talk(
      scriptOf([
        choose('q', [choice('red', '1'), choice('pink', '')], { into: { name: 'c', scope: 'conversation' } }),
        end('e', '{c}'),
      ]),
      { channel: 'sms' },
    );
    expect(t.start()).toEqual(['q?\n1 red']);
    expect(t.text('pink')).toEqual(['pink']);
  });
  it('silence by voice counts as a try, with wording of its own', () => {
    const t = talk(
      scriptOf([
        choose('q', [choice('red', '1')], { silent: en('Are you there?'), again: en('Once more?') }),
        say('n', 'goes on'),
      ]),
      { channel: 'voice' },
    );
    t.start();
    expect(t.find('wait').at(-1)?.seconds).toBe(5);
    expect(t.silence()[0]).toContain('Are you there?');
    expect(t.silence()).toEqual(['goes on']);
  });
  it('a choice sets the language and adds needs', () => {
    const t = talk({
      ...scriptOf([
        choose('q', [choice('spanish', '2', NEXT, { setsLanguage: 'es', needs: [{ skillId: 'es', atLeast: 3 }] })]),
        over('h', 'q', {
          needs: [
            { skillId: 'es', atLeast: 4 },
            { skillId: 'bow', atLeast: 2 },
          ],
          wording: { text: { en: 'wait', es: 'espere' } },
        }),
      ]),
      languages: ['en', 'es'],
    });
    t.start();
    expect(t.keys('2')).toEqual(['espere']);
    expect(t.find('language')).toEqual([{ type: 'language', language: 'es' }]);
    // What the hand-over says last about a skill counts.
    expect(overOf(t)?.needs).toEqual([
      { skillId: 'es', atLeast: 4 },
      { skillId: 'bow', atLeast: 2 },
    ]);
  });
  it('no catch-all is a fault with its reason', () => {
    const t = talk(scriptOf([choose('q', [choice('red', '1')], { tries: 1, otherwise: null })]));
    t.start();
    t.text('what');
    expect(overOf(t)).toMatchObject({ queueId: 'fallback', because: 'at 1.1 it was not understood' });
  });
});

describe('what words mean', () => {
  const recogniser = {
    book: 7,
    thing: (listId: string, text: string) => (listId === 'tools' && text.includes('cello') ? 'cello' : null),
    thingName: (_: string, id: string) => id.toUpperCase(),
  };
  type Verdict = 'act' | 'ask' | 'none';
  const reply = (ranked: readonly (readonly [string, number])[], verdict: Verdict): Reply => ({
    to: 'meaning',
    meaning: { ranked: ranked.map(([intentId, confidence]) => ({ intentId, confidence })), verdict },
  });
  const understands = (ranked: readonly (readonly [string, number])[], verdict: Verdict) => ({
    recogniser,
    answers: () => reply(ranked, verdict),
  });
  const script = scriptOf([
    choose(
      'q',
      [choice('fix', '1', toLine('f'), { intentId: 'repair' }), choice('pay', '2', toLine('p'), { intentId: 'bill' })],
      { notices: [{ listId: 'tools', into: { name: 'tool', scope: 'conversation' } }] },
    ),
    end('x', 'else'),
    end('f', 'fix'),
    end('p', 'pay'),
  ]);
  it('an intent that a choice has decides, with how sure it was; things named are noticed', () => {
    const t = talk(
      script,
      understands(
        [
          ['repair', 0.9],
          ['bill', 0.05],
        ],
        'act',
      ),
    );
    t.start();
    expect(t.text('my cello snapped')).toEqual(['fix']);
    expect(t.find('heard')[0]?.intent).toEqual({ id: 'repair', confidence: 0.9 });
    expect(t.state().values).toEqual({ tool: 'CELLO' });
  });
  const two = [
    ['repair', 0.5],
    ['bill', 0.45],
  ] as const;
  it('what is doubtful leads to a question back, once, which either answers', () => {
    const t = talk(script, understands(two, 'ask'));
    t.start();
    expect(t.text('hm')[0]).toMatch(/fix.*pay/);
    expect(t.text('2')).toEqual(['pay']);
    const again = talk(script, understands(two, 'ask'));
    again.start();
    again.text('hm');
    expect(again.text('fix')).toEqual(['fix']);
    const still = talk(script, understands(two, 'ask'));
    still.start();
    still.text('hm');
    expect(still.text('hm again')).toEqual(['fix']);
  });
  it('only one of two doubtful ones being a choice here, that one is meant', () => {
    const t = talk(
      script,
      understands(
        [
          ['repair', 0.5],
          ['elsewhere', 0.4],
        ],
        'ask',
      ),
    );
    t.start();
    expect(t.text('hm')).toEqual(['fix']);
  });
  it.each([
    [[['repair', 0.3]] as const, 'none'],
    [
      [
        ['other', 0.9],
        ['repair', 0.08],
      ] as const,
      'act',
    ],
  ] as const)('none of these, or an intent that is no choice here, is not understood', (ranked, verdict) => {
    const t = talk(script, understands(ranked, verdict));
    t.start();
    t.text('x');
    expect(t.find('heard')[0]?.understood).toBe(false);
  });
  it('while meaning is asked for, further words queue and silence waits; an old answer is none', () => {
    const t = talk(script, { recogniser });
    t.start();
    expect(t.text('my thing broke')).toEqual([]);
    expect(t.state().asked).toMatchObject({ ask: 'meaning', book: 7, text: 'my thing broke', language: 'en' });
    t.text('2');
    t.silence();
    expect([t.state().status, t.state().waiting, t.said()]).toEqual(['asking', ['2'], ['q?']]);
    const number = t.state().asked?.number ?? 0;
    t.put({ type: 'reply', number: number + 1, reply: reply([['repair', 0.9]], 'act') });
    expect(t.state().status).toBe('asking');
    // It asks again as it was not understood, and then hears what came meanwhile.
    expect(t.put({ type: 'reply', number, reply: reply([], 'none') }).at(-1)).toBe('pay');
    expect(t.state().waiting).toBeUndefined();
  });
  it('what is not a choice by words needs no meaning where no choice has an intent', () => {
    const t = talk(scriptOf([choose('q', [choice('red', '1')])]), { recogniser });
    t.start();
    t.text('blue');
    expect(t.find('request')).toEqual([]);
    expect(t.find('heard')[0]?.understood).toBe(false);
  });
});

describe('listening for values', () => {
  it('a value is remembered in its type and falls through', () => {
    const t = talk(
      scriptOf([
        hear('n', { type: 'whole', least: 1, most: 9 }, 'many'),
        {
          id: 'b',
          verb: 'branch',
          ways: [{ when: { '>': [{ var: 'values.many' }, 3] }, cue: toLine('m') }],
          otherwise: NEXT,
        },
        end('f', 'few'),
        end('m', 'many: {many}'),
      ]),
    );
    t.start();
    expect(t.text('about seven')).toEqual(['many: 7']);
  });
  it('keys are gathered until the hash key, or until nothing more comes', () => {
    const script = scriptOf([
      hear('n', { type: 'pattern', pattern: '\\d{3}', example: '123' }, 'number'),
      end('e', '{number as digits}'),
    ]);
    const t = talk(script, { channel: 'voice' });
    t.start();
    expect(t.keys('123#')).toEqual(['1 2 3']);
    const slow = talk(script, { channel: 'voice' });
    slow.start();
    expect(slow.keys('456')).toEqual([]);
    expect(slow.silence()).toEqual(['4 5 6']);
  });
  it('a value for one scene is forgotten on leaving it', () => {
    const t = talk(
      scriptOf(
        [
          { id: 'r', verb: 'remember', into: { name: 'here', scope: 'scene' }, value: 'x' },
          say('a', 'in: {here}'),
          { id: 'g', verb: 'go-to', cue: toScene('s2') },
        ],
        [end('b', 'out: {here}')],
      ),
    );
    expect(t.start()).toEqual(['in: x', 'out:']);
  });
});
