import fc from 'fast-check';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { row, rows, run } from '../../src/data/database';
import { historyText, historyValue, KEPT, type KeptKind, keptIn, keptText, keptVersion } from '../../src/data/kept';
import { unreadable } from '../../src/data/readable';
import { readBot } from '../../src/data/bots';
import { readQueue, readQueues } from '../../src/data/queuesettings';
import { handsIn, queueInput } from '../helpers/hands';
import { OLD_KEPT } from '../helpers/oldkept';
import { makeWorld, type World } from '../helpers/world';

const example = (kind: KeptKind, v: number) => {
  const found = OLD_KEPT.find((e) => e.kind === kind && e.v === v);
  if (!found) throw new Error(`no example of ${kind} ${v}`);
  return found;
};

describe('how settings kept by earlier code are read', () => {
  it('there is an example of every kind by every version', () => {
    const all = (Object.keys(KEPT) as KeptKind[]).flatMap((kind) =>
      Array.from({ length: keptVersion(kind) }, (_, i) => `${kind} ${i + 1}`),
    );
    expect(OLD_KEPT.map((e) => `${e.kind} ${e.v}`).sort()).toEqual(all.sort());
  });
  it.each(OLD_KEPT.map((e) => [e.kind, e.v, e] as const))('%s %i reads as it was meant', (kind, v, e) => {
    expect(keptIn(kind, e.kept)).toEqual(e.says);
    // What is read is kept in the present shape, and reads the same again.
    const again = keptText(kind, e.says);
    expect(keptIn(kind, again)).toEqual(e.says);
    if (v === keptVersion(kind)) expect(JSON.parse(again)).toEqual(JSON.parse(KEPT[kind].parts ? again : e.kept));
  });
  it('a part has the version of its own kind', () => {
    const draft = example('script', 2);
    expect(historyText('bot', { name: 'B', draft: draft.says })).toContain('"draft":{"v":2,');
    expect(historyValue('bot', `{"name":"B","draft":${example('script', 1).kept}}`)).toEqual({
      name: 'B',
      draft: example('script', 1).says,
    });
  });
  it('what is newer than this code is refused, and so is what is no version', () => {
    for (const kind of Object.keys(KEPT) as KeptKind[])
      expect(() => keptIn(kind, `{"v":${keptVersion(kind) + 1}}`), kind).toThrow(/newer/);
    expect(() => keptIn('queue', '{"v":"2"}')).toThrow(/newer/);
    expect(() => keptIn('queue', '[]')).toThrow(/object/);
  });
  it('History keeps anything as it is: lists, nothing, and things without versions of their own', () => {
    fc.assert(
      fc.property(fc.constantFrom('person', 'levels', 'constructor', 'away-reasons'), fc.jsonValue(), (kind, value) => {
        fc.pre(
          JSON.stringify(value) === JSON.stringify(JSON.parse(JSON.stringify(value))) &&
            !/"v":/.test(JSON.stringify(value)),
        );
        expect(historyValue(kind, historyText(kind, value))).toEqual(JSON.parse(JSON.stringify(value)));
      }),
    );
  });
});

describe('a workspace kept by earlier code', () => {
  let w: World;
  beforeEach(() => {
    w = makeWorld();
  });
  afterEach(() => w.close());
  const { lead } = handsIn(() => w);

  it('every setting of the demo is kept in the present shape', () => {
    const bodies: [KeptKind, string][] = [
      ...rows<{ kind: KeptKind; body: string }>(w.db, 'SELECT kind, body FROM documents').map(
        (d): [KeptKind, string] => [d.kind, d.body],
      ),
      ...rows<{ body: string }>(w.db, 'SELECT body FROM queue_versions').map((q): [KeptKind, string] => [
        'queue',
        q.body,
      ]),
      ...rows<{ draft: string }>(w.db, 'SELECT draft FROM bots').map((b): [KeptKind, string] => ['script', b.draft]),
      ...rows<{ pinned: string }>(w.db, 'SELECT pinned FROM bot_versions').map((b): [KeptKind, string] => [
        'pinned',
        b.pinned,
      ]),
      ...rows<{ body: string }>(w.db, 'SELECT body FROM duty_profiles').map((d): [KeptKind, string] => [
        'duty-profile',
        d.body,
      ]),
    ];
    expect(new Set(bodies.map(([kind]) => kind)).size).toBeGreaterThan(15);
    for (const [kind, body] of bodies)
      expect(JSON.parse(keptText(kind, keptIn(kind, body))), `${kind} ${body.slice(0, 80)}`).toEqual(JSON.parse(body));
  });
  it('an undo puts back what History kept in an earlier shape, as it is today', () => {
    const queue = readQueue(w.db, 'queue_repairs');
    w.services.queues.save(lead(), queueInput(queue, { name: 'Bench' }));
    const line = w.services.history.view(lead(), {}).lines[0];
    run(w.db, 'UPDATE history SET before = ? WHERE id = ?', example('queue', 1).kept, line?.id ?? 0);
    w.services.history.undo(lead(), { id: line?.id });
    expect(readQueue(w.db, 'queue_repairs')).toMatchObject(example('queue', 1).says);
    const body = row<{ body: string }>(
      w.db,
      'SELECT body FROM queue_versions WHERE queue_id = ? ORDER BY version DESC LIMIT 1',
      'queue_repairs',
    )?.body;
    expect(JSON.parse(body ?? '')).toMatchObject({ v: 3, wrapUp: { seconds: 45, mayFinishEarly: true } });
  });
  it('a draft of the first step of the product opens, and is kept as it is now with its next change', () => {
    run(w.db, 'UPDATE bots SET draft = ? WHERE id = ?', example('script', 1).kept, 'bot_evening');
    expect(readBot(w.db, 'bot_evening')?.draft).toEqual(example('script', 1).says);
    const { revision = 0, name = '', draft } = readBot(w.db, 'bot_evening') ?? {};
    w.services.bots.save(lead(), { id: 'bot_evening', revision, name, draft });
    const kept = row<{ draft: string }>(w.db, 'SELECT draft FROM bots WHERE id = ?', 'bot_evening')?.draft ?? '';
    expect(kept.startsWith('{"v":2,')).toBe(true);
  });
  it('one setting that is newer than this code costs itself alone, and is named', () => {
    const before = readQueues(w.db).length;
    run(w.db, `UPDATE queue_versions SET body = '{"v":99}' WHERE queue_id = 'queue_repairs'`);
    expect(readQueues(w.db).length).toBe(before - 1);
    expect(unreadable(w.db)).toMatchObject([
      { kind: 'queue', id: 'queue_repairs', reason: expect.stringMatching(/newer/) as string },
    ]);
  });
});
