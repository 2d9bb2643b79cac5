import { describe, expect, it } from 'vitest';
import {
  choice,
  choose,
  en,
  end,
  END,
  hear,
  NEXT,
  over,
  say,
  scriptOf,
  talk,
  toLine,
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
    [{ '==': [{ var: 'anyone.free' }, true] }, { 'people.all.free': 3 }, 'yes'],
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
