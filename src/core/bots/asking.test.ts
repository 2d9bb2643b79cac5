import type { Request } from './conversation';
import { describe, expect, it } from 'vitest';
import { en, end, lookUp, NEXT, scriptOf, talk, toLine } from '../../../tests/helpers/scripts';

const overOf = (t: ReturnType<typeof talk>) => t.find('hand-over')[0];

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

describe('messages, texts and articles', () => {
  describe('Text them', () => {
    const NUMBER = '+353209140001';
    const texting = (to: string | null) =>
      scriptOf([{ id: 't', verb: 'text-them', when: 'after', to, wording: en('Ref {ref}') }, end('e', 'Bye')]);
    const sentTo = (to: string | null) => [{ type: 'text', lineId: 't', when: 'after', to, text: 'Ref' }];
    const whose = (number: string | null, proven: boolean) => (request: Request) =>
      request.ask === 'number'
        ? ({ to: 'number', number, proven } as const)
        : request.ask === 'code'
          ? ({ to: 'code', right: request.telephone === number && request.code === '123456' } as const)
          : null;
    it('goes to a number that is theirs, in the language, without tags; nowhere without one', () => {
      for (const number of [NUMBER, null]) {
        const t = talk(texting(null), { answers: whose(number, number !== null) });
        expect(t.start()).toEqual(['Bye']);
        expect([t.find('text'), t.find('send-code')]).toEqual([sentTo(number), []]);
      }
    });
    it('to any other a code goes first, which they give by keys, words or in writing', () => {
      for (const channel of ['voice', 'chat'] as const) {
        const t = talk(texting('number'), { channel, answers: whose(NUMBER, false) });
        expect(t.start()[0]).toMatch(/^We have sent a code to \+353 20 914 0001/);
        expect([t.find('send-code'), t.find('text')]).toEqual([
          [{ type: 'send-code', lineId: 't', number: NUMBER }],
          [],
        ]);
        expect(t.text('654321')[0]).toMatch(/^That is not the code\. We have sent/);
        expect(channel === 'voice' ? t.keys('123456#') : t.text('it is 123 456')).toEqual(['Bye']);
        expect(t.find('text')).toEqual(sentTo(NUMBER));
        expect(t.find('code-tried').map((a) => a.type === 'code-tried' && a.right)).toEqual([false, true]);
      }
    });
    it('after three wrong ones nothing is sent, and the conversation goes on', () => {
      const t = talk(texting('number'), { channel: 'voice', answers: whose(NUMBER, false) });
      t.start();
      t.keys('1#');
      t.silence();
      expect(t.text('no idea')).toEqual(['Bye']);
      expect(t.find('text')).toEqual(sentTo(null));
    });
  });
  it('Take a message: keeps the words; twice silent goes on', () => {
    const script = scriptOf([
      { id: 'm', verb: 'take-message', wording: en('After the tone'), queueId: 'q' },
      end('e', 'Thanks'),
    ]);
    const t = talk(script, { channel: 'voice' });
    t.start();
    expect(t.text('Call me')).toEqual(['Thanks']);
    expect(t.find('message')).toEqual([{ type: 'message', lineId: 'm', queueId: 'q', text: 'Call me', needs: [] }]);
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
  it.each(['No, that is all.', 'no thanks, that’s all', 'Gracias, eso es todo', 'non, merci'])(
    '%s: it is over, and not one question more',
    (words) => {
      const t = talk(articles, { answers: () => ({ to: 'article', article: long }) });
      t.start();
      t.text('when do you open');
      expect(t.text(words)).toEqual(['bye']);
    },
  );
  it('“no deposit” is a question, though it begins like an end', () => {
    const t = talk(articles, { answers: () => ({ to: 'article', article: long }) });
    t.start();
    t.text('when do you open');
    expect(t.text('no deposit')[0]).toMatch(/^Hours/);
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
