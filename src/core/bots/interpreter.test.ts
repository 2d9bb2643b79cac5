import { describe, expect, it } from 'vitest';
import {
  choice,
  choose,
  en,
  end,
  END,
  hear,
  lookUp,
  NEXT,
  over,
  say,
  scriptOf,
  talk,
  toLine,
  toScene,
} from '../../../tests/helpers/scripts';
import type { Reply, Request } from './conversation';
import { STEP_LIMIT } from './interpreter';
import type { BotScript, SharedScene, Step } from './model';

const overOf = (t: ReturnType<typeof talk>) => t.find('hand-over')[0];
const facts =
  (given: Readonly<Record<string, string | number | boolean | null>>) =>
  (request: Request): Reply | null =>
    request.ask === 'facts' ? { to: 'facts', facts: given } : null;

describe('saying', () => {
  it('speaks the language of the conversation, else one the script has', () => {
    const script = {
      ...scriptOf([
        {
          id: 'a',
          verb: 'say',
          wording: { text: { en: 'Hello', es: 'Hola' } },
          mayInterrupt: true,
          link: null,
        } satisfies Step,
      ]),
      languages: ['en', 'es'],
    };
    expect(talk(script, { language: 'es-MX' }).start()).toEqual(['Hola']);
    expect(talk(script, { language: 'pl' }).start()).toEqual(['Hello']);
  });
  it('has text of its own for a channel, and a link only in writing', () => {
    const script = scriptOf([
      {
        id: 'a',
        verb: 'say',
        wording: { text: { en: 'Read on' }, on: { voice: { en: 'Listen' } } },
        mayInterrupt: false,
        link: { url: 'https://a.example/b', label: { en: 'here' } },
      },
    ]);
    expect(talk(script).start()).toEqual(['Read on\nhere https://a.example/b']);
    const voice = talk(script, { channel: 'voice' });
    expect(voice.start()).toEqual(['Listen']);
    expect(voice.find('say')[0]).toMatchObject({ mayInterrupt: false, ssml: null });
  });
  it('shows a picture in chat and messaging, with words for it, and on no other channel', () => {
    const script = scriptOf([
      {
        id: 'a',
        verb: 'say',
        wording: en('On the label'),
        mayInterrupt: true,
        link: null,
        image: { imageId: 'label', alt: { en: 'A case with its label', es: 'Un estuche con su etiqueta' } },
      },
    ]);
    const shown = (channel: 'chat' | 'messaging' | 'sms' | 'voice', language = 'en') => {
      const t = talk(script, { channel, language });
      t.start();
      return t.find('say')[0]?.image;
    };
    expect(shown('chat')).toEqual({ id: 'label', alt: 'A case with its label' });
    expect(shown('messaging', 'es')).toEqual({ id: 'label', alt: 'Un estuche con su etiqueta' });
    expect([shown('sms'), shown('voice')]).toEqual([null, null]);
  });
  it('keeps SSML for the voice and its words for the transcript; a value cannot become a tag', () => {
    const t = talk(
      scriptOf([
        { id: 'r', verb: 'remember', into: { name: 'name', scope: 'conversation' }, value: '<break/> & co' },
        say('a', 'Wait <break time="1s"/> {name}'),
      ]),
      { channel: 'voice' },
    );
    t.start();
    expect(t.find('say')[0]).toMatchObject({
      ssml: 'Wait <break time="1s"/> &lt;break/&gt; &amp; co',
      text: expect.stringContaining('Wait') as string,
    });
  });
  it('a value that is not known is left out with its space', () => {
    expect(talk(scriptOf([say('a', 'Hello {name}, {name as digits}!')])).start()).toEqual(['Hello,!']);
  });
});

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
  const recogniser = (ranked: readonly (readonly [string, number])[], none = false) => ({
    rank: () => ({ ranked: ranked.map(([intentId, confidence]) => ({ intentId, confidence })), none }),
    thing: (listId: string, text: string) => (listId === 'tools' && text.includes('cello') ? 'cello' : null),
    thingName: (_: string, id: string) => id.toUpperCase(),
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
    const t = talk(script, {
      recogniser: recogniser([
        ['repair', 0.9],
        ['bill', 0.05],
      ]),
    });
    t.start();
    expect(t.text('my cello snapped')).toEqual(['fix']);
    expect(t.find('heard')[0]?.intent).toEqual({ id: 'repair', confidence: 0.9 });
    expect(t.state().values).toEqual({ tool: 'CELLO' });
  });
  it('two close ones lead to a question back, which either answers', () => {
    const t = talk(script, {
      recogniser: recogniser([
        ['repair', 0.5],
        ['bill', 0.45],
      ]),
    });
    t.start();
    expect(t.text('hm')[0]).toMatch(/fix.*pay/);
    expect(t.text('2')).toEqual(['pay']);
    const again = talk(script, {
      recogniser: recogniser([
        ['repair', 0.5],
        ['bill', 0.45],
      ]),
    });
    again.start();
    again.text('hm');
    expect(again.text('fix')).toEqual(['fix']);
  });
  it.each([
    [[['repair', 0.3]] as const, true],
    [
      [
        ['other', 0.9],
        ['repair', 0.08],
      ] as const,
      false,
    ],
  ])('none of these, or an intent that is no choice here, is not understood', (ranked, none) => {
    const t = talk(script, { recogniser: recogniser(ranked, none) });
    t.start();
    t.text('x');
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

describe('deciding', () => {
  const branch = (when: object, ask?: Readonly<Record<string, string | number | boolean | null>>) =>
    talk(
      scriptOf([
        { id: 'b', verb: 'branch', ways: [{ when: when as never, cue: toLine('y') }], otherwise: NEXT },
        end('n', 'no'),
        end('y', 'yes'),
      ]),
      { channel: 'sms', ...(ask ? { answers: facts(ask) } : {}) },
    ).start()[0];
  it.each([
    [{ '==': [{ var: 'channel' }, 'sms'] }, undefined, 'yes'],
    [{ '>=': [{ var: 'weekday' }, 6] }, undefined, 'no'],
    [{ '<': [{ var: 'time' }, '12:00'] }, undefined, 'yes'],
    [{ '==': [{ var: 'anyone.free' }, true] }, { 'anyone.free': true }, 'yes'],
    [{ '>': [{ var: 'queue.q.free' }, 0] }, { 'queue.q.free': 0 }, 'no'],
    [{ '>': [{ var: 'queue.q.expectedWait' }, 0] }, { 'queue.q.expectedWait': null }, 'no'],
    [{ and: [{ '==': [{ var: 'language' }, 'en'] }, { '==': [{ var: 'channel' }, 'voice'] }] }, undefined, 'no'],
    [{ or: [{ '==': [{ var: 'language' }, 'en'] }, { '==': [{ var: 'channel' }, 'voice'] }] }, undefined, 'yes'],
  ])('%j', (when, ask, answer) => expect(branch(when, ask)).toBe(answer));
  it('Hours: open, closed, and hours that are gone are a fault', () => {
    const script = scriptOf([
      { id: 'h', verb: 'hours', hoursId: 'day', open: toLine('o'), closed: NEXT },
      end('c', 'closed'),
      end('o', 'open'),
    ]);
    expect(talk(script, { answers: facts({ 'hours.day.open': true }) }).start()).toEqual(['open']);
    expect(talk(script, { answers: facts({ 'hours.day.open': false }) }).start()).toEqual(['closed']);
    const gone = talk(script, { answers: facts({}) });
    gone.start();
    expect(overOf(gone)?.because).toMatch(/hours/);
  });
  it('Count keeps a figure and forgets one that is not known', () => {
    const script = scriptOf([
      { id: 'k', verb: 'remember', into: { name: 'free', scope: 'conversation' }, value: '9' },
      {
        id: 'c',
        verb: 'count',
        queue: { by: 'name', queueId: 'q' },
        figure: 'free',
        into: { name: 'free', scope: 'conversation' },
      },
      end('e', 'free: {free}'),
    ]);
    expect(talk(script, { answers: () => ({ to: 'figure', figure: 3 }) }).start()).toEqual(['free: 3']);
    expect(talk(script, { answers: () => ({ to: 'figure', figure: null }) }).start()).toEqual(['free:']);
  });
  it('Identify: known with their name, or unknown', () => {
    const script = scriptOf([
      { id: 'i', verb: 'identify', by: null, known: NEXT, unknown: toLine('u') },
      end('k', 'Hello {customer name}'),
      end('u', 'Who?'),
    ]);
    expect(
      talk(script, { answers: () => ({ to: 'identify', known: true, values: { 'customer name': 'Ida' } }) }).start(),
    ).toEqual(['Hello Ida']);
    expect(talk(script, { answers: () => ({ to: 'identify', known: false, values: {} }) }).start()).toEqual(['Who?']);
  });
});

describe('asking outside', () => {
  const script = scriptOf([
    { id: 'r', verb: 'remember', into: { name: 'number', scope: 'conversation' }, value: '7' },
    lookUp('l', { tries: 2, notFound: toLine('n'), failed: toLine('f') }),
    end('y', 'It is {colour}'),
    end('n', 'not there'),
    end('f', 'failed'),
  ]);
  it('the request carries the inputs; found takes its outputs', () => {
    const t = talk(script);
    expect(t.start()).toEqual([]);
    expect(t.state()).toMatchObject({
      status: 'asking',
      asked: { ask: 'look-up', inputs: { number: '7' }, attempt: 1, slowAfterSeconds: 1, number: 1 },
    });
    expect(t.put({ type: 'slow', number: 1 })).toEqual(['One moment.']);
    expect(t.text('are you there?')).toEqual([]);
    expect(
      t.put({
        type: 'reply',
        number: 1,
        reply: { to: 'look-up', outcome: 'found', outputs: { colour: 'red', more: 'x' } },
      }),
    ).toEqual(['It is red']);
    expect(t.state().values).not.toHaveProperty('more');
  });
  it('failing is tried again as often as set; an answer to an earlier request is none', () => {
    const t = talk(script);
    t.start();
    t.put({ type: 'reply', number: 1, reply: { to: 'look-up', outcome: 'failed', outputs: {} } });
    expect(t.state().asked).toMatchObject({ number: 2, attempt: 2 });
    t.put({ type: 'reply', number: 1, reply: { to: 'look-up', outcome: 'found', outputs: { colour: 'late' } } });
    expect(t.state().asked).toMatchObject({ number: 2 });
    expect(t.put({ type: 'reply', number: 2, reply: { to: 'look-up', outcome: 'failed', outputs: {} } })).toEqual([
      'failed',
    ]);
  });
  it('not found is no failure, and is not tried again', () => {
    expect(talk(script, { answers: () => ({ to: 'look-up', outcome: 'not-found', outputs: {} }) }).start()).toEqual([
      'not there',
    ]);
  });
  it.each([
    ['done', 'ok 5'],
    ['refused', 'no'],
    ['unsure', 'maybe'],
  ] as const)('Do: %s', (outcome, answer) => {
    const t = talk(
      scriptOf([
        {
          id: 'd',
          verb: 'do',
          connectorId: 'c',
          inputs: [],
          outputs: [{ name: 'ref', into: { name: 'ref', scope: 'conversation' } }],
          slowAfterSeconds: 1,
          slow: en(''),
          done: NEXT,
          refused: toLine('n'),
          unsure: toLine('u'),
        },
        end('y', 'ok {ref}'),
        end('n', 'no'),
        end('u', 'maybe'),
      ]),
      { answers: () => ({ to: 'do', outcome, outputs: { ref: 5 } }) },
    );
    expect(t.start()).toEqual([answer]);
    // Asked once, whatever came of it.
    expect(t.find('request')).toHaveLength(1);
  });
  it('an answer to something else is a fault, not a crash', () => {
    const t = talk(script, { answers: () => ({ to: 'facts', facts: {} }) });
    t.start();
    expect(overOf(t)?.because).toMatch(/something else/);
  });
});

describe('handing over', () => {
  it('a queue named by a value, or the one that stands in for it', () => {
    const script = scriptOf([over('h', 'q', { target: { to: 'queue-value', name: 'where', queueId: 'else' } })]);
    const named = talk(script, { answers: () => ({ to: 'queue', queueId: 'named' }) });
    named.start();
    expect(overOf(named)?.queueId).toBe('named');
    const none = talk(script, { answers: () => ({ to: 'queue', queueId: null }) });
    none.start();
    expect(overOf(none)?.queueId).toBe('else');
  });
  it('a person on duty; off duty another way, or the queue', () => {
    const script = (
      off: BotScript['scenes'][number]['steps'][number] extends infer _ ? { to: 'next' } | null : never,
    ) =>
      scriptOf([
        over('h', 'q', { target: { to: 'person', person: { by: 'last' }, queueId: 'q', off } }),
        end('e', 'gone home'),
      ]);
    const there = talk(script(null), { answers: () => ({ to: 'person', personId: 'p', onDuty: true }) });
    there.start();
    expect(overOf(there)).toMatchObject({ personId: 'p', queueId: 'q' });
    const queue = talk(script(null), { answers: () => ({ to: 'person', personId: 'p', onDuty: false }) });
    queue.start();
    expect(overOf(queue)).toMatchObject({ personId: null, queueId: 'q' });
    expect(
      talk(script(NEXT as { to: 'next' }), {
        answers: () => ({ to: 'person', personId: null, onDuty: false }),
      }).start(),
    ).toEqual(['gone home']);
  });
  it('nothing is heard after it', () => {
    const t = talk(scriptOf([over('h')]));
    t.start();
    expect(t.text('hello?')).toEqual([]);
    expect(t.last()).toEqual([]);
  });
});

describe('messages, texts and articles', () => {
  it('Text them: now or after, in the language, without tags', () => {
    const t = talk(
      scriptOf([{ id: 't', verb: 'text-them', when: 'after', to: null, wording: en('Ref {ref}') }, end('e')]),
    );
    t.start();
    expect(t.find('text')).toEqual([{ type: 'text', lineId: 't', when: 'after', to: null, text: 'Ref' }]);
  });
  it('Take a message: keeps the words; twice silent goes on', () => {
    const script = scriptOf([
      { id: 'm', verb: 'take-message', wording: en('After the tone'), queueId: 'q' },
      end('e', 'Thanks'),
    ]);
    const t = talk(script, { channel: 'voice' });
    t.start();
    expect(t.text('Call me')).toEqual(['Thanks']);
    expect(t.find('message')).toEqual([{ type: 'message', lineId: 'm', queueId: 'q', text: 'Call me' }]);
    const quiet = talk(script, { channel: 'voice' });
    quiet.start();
    expect(quiet.silence()).toEqual(['After the tone']);
    expect(quiet.silence()).toEqual(['Thanks']);
    expect(quiet.find('message')).toEqual([]);
  });
  const articles = scriptOf([
    {
      id: 'a',
      verb: 'articles',
      wording: en('Ask me'),
      tries: 2,
      silenceSeconds: 5,
      done: toLine('d'),
      nothing: toLine('n'),
    },
    end('x'),
    end('d', 'bye'),
    end('n', 'a person then'),
  ]);
  const long = {
    id: 'a1',
    title: 'Hours',
    text: `${'We open early every day of the week, as people like it. '.repeat(8)}That is all.`,
  };
  it('quotes the title; in writing whole, then asks for more', () => {
    const t = talk(articles, { answers: () => ({ to: 'article', article: long }) });
    t.start();
    const said = t.text('when do you open');
    expect(said[0]).toMatch(/^Hours\nWe open early/);
    expect(said[1]).toMatch(/anything else/i);
    expect(t.text('no thanks')).toEqual(['bye']);
  });
  it('in parts by voice: go on, repeat, that is all', () => {
    const t = talk(articles, { channel: 'voice', answers: () => ({ to: 'article', article: long }) });
    t.start();
    const first = t.text('when do you open')[0] ?? '';
    expect(first.length).toBeLessThan(400);
    const second = t.text('go on')[0] ?? '';
    expect(second).not.toContain('Hours.');
    expect(t.text('again')[0]).toBe(second);
    expect(t.keys('3')).toEqual(['bye']);
  });
  it('says when nothing fits, asks once more, then goes its way', () => {
    const t = talk(articles, { answers: () => ({ to: 'article', article: null }) });
    t.start();
    expect(t.text('quantum')).toEqual(['I found nothing about that.', 'Ask me']);
    expect(t.text('quantum')).toEqual(['I found nothing about that.', 'a person then']);
  });
});

describe('shared scenes', () => {
  const shared: SharedScene = {
    id: 'sh',
    name: 'Ask name',
    inputs: ['who'],
    steps: [say('m1', 'For {who}:'), hear('m2', { type: 'text' }, 'name')],
  };
  it('are played with inputs and come back to the line after; inputs stay inside', () => {
    const t = talk(
      scriptOf([
        { id: 'p', verb: 'play', sharedId: 'sh', inputs: [{ name: 'who', value: 'us' }] },
        end('e', '{name} {who}'),
      ]),
      { shared: [shared] },
    );
    expect(t.start()).toEqual(['For us:', 'm2?']);
    expect(t.text('Ida')).toEqual(['Ida']);
  });
  it('a cue to one comes back below the line that led there', () => {
    const t = talk(
      scriptOf([choose('q', [choice('go', '1', { to: 'shared', sharedId: 'sh' })]), end('e', 'back with {name}')]),
      { shared: [shared] },
    );
    t.start();
    expect(t.text('go')).toEqual(['For:', 'm2?']);
    expect(t.text('Ida')).toEqual(['back with Ida']);
  });
  it('one that plays itself is stopped; one that is gone is a fault', () => {
    const round: SharedScene = {
      id: 'sh',
      name: 'Round',
      inputs: [],
      steps: [{ id: 'm1', verb: 'play', sharedId: 'sh', inputs: [] }],
    };
    const t = talk(scriptOf([{ id: 'p', verb: 'play', sharedId: 'sh', inputs: [] }]), { shared: [round] });
    t.start();
    expect(overOf(t)?.because).toMatch(/deep/);
    const gone = talk(scriptOf([{ id: 'p', verb: 'play', sharedId: 'nowhere', inputs: [] }]));
    gone.start();
    expect(overOf(gone)?.because).toMatch(/not there/);
  });
});

describe('ending well, always', () => {
  it('the last line of the bot ends it; an empty script hands over', () => {
    const t = talk(scriptOf([say('a', 'Hi')]));
    t.start();
    expect(t.find('end')).toEqual([{ type: 'end', lineId: 'a', how: 'ended' }]);
    const empty = talk(scriptOf([]));
    expect(empty.start()).toEqual([expect.stringMatching(/person/i)]);
    expect(overOf(empty)?.queueId).toBe('fallback');
  });
  it(`more than ${STEP_LIMIT} lines without the customer take the fallback with its own words`, () => {
    const t = talk({
      ...scriptOf([{ id: 'g', verb: 'go-to', cue: toLine('g') }]),
      fallbackWording: en('Something failed here.'),
    });
    expect(t.start()).toEqual(['Something failed here.']);
    expect(overOf(t)?.because).toMatch(new RegExp(`${STEP_LIMIT}`));
  });
  it('a way to a line that is gone hands over, naming where', () => {
    const t = talk(scriptOf([choose('q', [choice('x', '1', toLine('gone'))])]));
    t.start();
    t.text('x');
    expect(overOf(t)?.because).toBe('at 1.1 the line it should go to is not there');
  });
  it('who goes quiet in writing is reminded once, then closed as gone quiet; a word in between counts', () => {
    const t = talk({
      ...scriptOf([choose('q', [choice('x', '1')])]),
      quiet: { remindSeconds: 60, wording: en('Still there?'), closeSeconds: 90 },
    });
    t.start();
    expect(t.find('wait').at(-1)?.seconds).toBe(60);
    expect(t.silence()).toEqual(['Still there?']);
    expect(t.find('wait').at(-1)?.seconds).toBe(90);
    t.text('hm');
    expect(t.silence()).toEqual(['Still there?']);
    t.silence();
    expect(t.find('end').at(-1)?.how).toBe('went-quiet');
  });
  it('begins at a named scene', () => {
    expect(talk(scriptOf([end('a', 'first')], [end('b', 'second')])).put({ type: 'scene', sceneId: 's2' })).toEqual([
      'second',
    ]);
  });
  it('the same inputs give the same acts', () => {
    const run = () => {
      const t = talk(scriptOf([choose('q', [choice('a', '1', END), choice('b', '2')], { tries: 3 }), over('h')]));
      t.start();
      for (const x of ['?', 'b']) t.text(x);
      return t.acts;
    };
    expect(run()).toEqual(run());
  });
});
