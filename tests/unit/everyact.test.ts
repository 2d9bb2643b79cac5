import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { readQueues } from '../../src/data/queuesettings';
import { SETTINGS_ACTS } from '../../src/services/settingsacts';
import { sized } from '../helpers/size';
import { ASKED, asTexts, CHANGES, doer, type ValidAct } from '../helpers/validacts';
import { makeWorld, type World } from '../helpers/world';

const EACH = sized({ quick: 9, usual: 1, long: 1 });
let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());

/** Acts with what they are called; while working, a few of them stand for all. */
const named = (acts: readonly ValidAct[]) =>
  acts.filter((_, i) => i % EACH === 0).map((a) => [`${a.act}: ${a.says}`, a] as const);
/** What an act gives, or what it was refused with. */
const does = (
  act: ValidAct,
  input: unknown = act.input(w),
): Promise<{ gave?: unknown; code?: string; says?: string }> =>
  Promise.resolve()
    .then(() => w.services.act(act.act, doer(w, act), input))
    .then(
      (gave) => ({ gave }),
      (error: { code?: string; message: string }) => ({ code: error.code ?? 'broken', says: error.message }),
    );
const floorNow = () =>
  JSON.stringify([...w.services.floor.router.floor.people.values()].map((p) => [p.id, [...p.levels], p.duty]));

describe('every act that changes something', () => {
  it('the list leaves none out but those that need more than the demo company has', () => {
    const listed = new Set([...CHANGES, ...ASKED].map((a) => a.act));
    expect(Object.keys(SETTINGS_ACTS).filter((name) => !listed.has(name))).toEqual([
      'keep-filter',
      'drop-filter',
      'keep-view',
      'drop-view',
      'mail-view',
      'begin-with-view',
      'keep-report',
      'drop-report',
      'send-report',
      'mark-days',
      'unmark-days',
      'write-note',
      'drop-note',
      'mark-talked',
      'rate-contact',
      'set-mood',
      'drop-rating',
      'draw-contacts',
      'past-begin',
      'past-check',
      'past-keep',
      'past-stop',
      'past-take-out',
      'import-plan',
      'import-cancel',
      'import-apply',
      'send-invitations',
      'withdraw-invitations',
      'remove-profile',
      'remove-shift',
      'import-shifts',
      'remove-role',
      'stop-press',
      'undo',
      'try-again',
      'mend',
      'change-callback',
      'keep-draft',
      'drop-draft',
      'call-off-plan',
      'bring-back',
      'remove-hours',
      'bot-version-live',
      'bring-bot',
      'keep-image',
      'remove-recording',
      'try-connector',
      'save-hosts',
      'take-in-language',
      'read-phrasebook-file',
      'teach-phrase',
      'stop-learning',
      'mend-bot',
      'bot-call-off',
      'try-bot',
      'join-customers',
      'part-customers',
      'not-them',
      'set-customer',
      'note-on-customer',
      'drop-customer-note',
      'ask-to-block',
      'decide-block',
      'erase-customer',
      'send-code',
      'verify-way',
      'choose-way',
    ]);
  });
  it.each(named(CHANGES))('%s is kept, and there after a start', async (_, act) => {
    const before = asTexts(w);
    expect(await does(act)).toEqual({ gave: expect.anything() as unknown });
    const after = asTexts(w);
    expect(after).not.toEqual(before);
    w.restart();
    expect(asTexts(w)).toEqual(after);
  });
  it.each(named(ASKED))('%s answers and changes nothing', async (_, act) => {
    const before = asTexts(w);
    expect(await does(act)).toEqual({ gave: expect.anything() as unknown });
    expect(asTexts(w)).toEqual(before);
  });
  it.each(named(CHANGES))('%s: what fails half way leaves nothing behind, and works once it can', async (_, act) => {
    const input = act.input(w);
    doer(w, act);
    const [before, floor] = [asTexts(w), floorNow()];
    // Whatever is written last of an act goes through one of these; each stands for a disk that is full just then.
    for (const table of ['events', 'settings_versions', 'history']) {
      w.db.exec(`CREATE TEMP TRIGGER full BEFORE INSERT ON ${table} BEGIN SELECT RAISE(ABORT, 'disk is full'); END`);
      const refused = await does(act, input);
      w.db.exec('DROP TRIGGER full');
      if (refused.code === undefined) {
        // Not everything writes History; but all of it tells others.
        expect(table).toBe('history');
        return;
      }
      expect(refused).toMatchObject({ says: 'disk is full' });
      expect(asTexts(w)).toEqual(before);
      expect(floorNow()).toBe(floor);
    }
    expect(await does(act, input)).toEqual({ gave: expect.anything() as unknown });
  });
  it.each(named([...CHANGES, ...ASKED]))('%s takes no name it does not know', async (_, act) => {
    const input = act.input(w);
    doer(w, act);
    const before = asTexts(w);
    for (const extra of [{ colour: 'red' }, JSON.parse('{"__proto__": {"id": "x"}}') as object, { constructor: 1 }])
      expect([extra, await does(act, { ...input, ...Object.fromEntries(Object.entries(extra)) })]).toEqual([
        extra,
        expect.objectContaining({ code: 'not-valid' }),
      ]);
    expect(asTexts(w)).toEqual(before);
  });
});

describe('two who change one thing', () => {
  it.each(named(CHANGES.filter((a) => a.based)))('%s: the second is told and loses nothing', async (_, act) => {
    const opened = act.input(w);
    expect(await does(act, opened)).toEqual({ gave: expect.anything() as unknown });
    const first = asTexts(w);
    expect(await does(act, opened)).toMatchObject({ code: 'changed-meanwhile' });
    expect(asTexts(w)).toEqual(first);
    // Having seen the other's, they save over it.
    expect(await does(act)).toEqual({ gave: expect.anything() as unknown });
  });
});

/** JSON within columns is opened and its names sorted: in which order they were written says nothing. */
function plainly(value: unknown): unknown {
  if (typeof value === 'string' && /^[[{]/.test(value))
    try {
      return plainly(JSON.parse(value));
    } catch {
      return value;
    }
  if (Array.isArray(value)) return value.map(plainly);
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, inner]) => [name, plainly(inner)]),
  );
}

describe('taking back', () => {
  // Numbers that only ever rise, what says that something happened, and files that an undo brings back.
  const COUNTS = /^(events|history|settings_versions|acts|event_tables|timers|queue_versions|sounds)$/;
  /** The rows of a table as it was kept, without those numbers. */
  const plainRows = (text: string): string[] =>
    (JSON.parse(text) as Record<string, unknown>[])
      .map(({ revision: _r, seq: _s, place: _p, version: _v, ...row }) => JSON.stringify(plainly(row)))
      .sort();
  const settings = (): Readonly<Record<string, string>> =>
    Object.fromEntries(
      // Of a queue every version is kept; what counts is the newest.
      Object.entries({ ...asTexts(w), queues: JSON.stringify(readQueues(w.db)) }).filter(
        ([name]) => !COUNTS.test(name),
      ),
    );
  /** Tables in which something differs that counts, with the rows that are only in the first and only in the second. */
  const differing = (one: Readonly<Record<string, string>>, other: Readonly<Record<string, string>>) =>
    Object.entries(one).flatMap(([name, text]) => {
      if (text === other[name]) return [];
      const [here, there] = [plainRows(text), plainRows(other[name] ?? '[]')];
      if (JSON.stringify(here) === JSON.stringify(there)) return [];
      const [mine, theirs] = [new Set(here), new Set(there)];
      return [[name, here.filter((r) => !theirs.has(r)), there.filter((r) => !mine.has(r))]];
    });
  it.each(named(CHANGES.filter((a) => a.undone)))('%s is undone as if it had never been', async (_, act) => {
    const input = act.input(w);
    const who = doer(w, act);
    const before = settings();
    expect(await does(act, input)).toEqual({ gave: expect.anything() as unknown });
    expect(differing(before, settings())).not.toEqual([]);
    const line = w.services.history.view(who, {}).lines.find((l) => l.canUndo);
    const lines = () => (JSON.parse(asTexts(w).history ?? '[]') as unknown[]).length;
    const noted = lines();
    const { undone } = w.services.history.undo(who, { id: line?.id });
    // Each change that was taken back is noted once.
    expect(lines()).toBe(noted + undone);
    // Told by the rows that differ, since a table may be long.
    expect(differing(before, settings())).toEqual([]);
    // And the undoing can itself be taken back.
    const done = w.services.history.view(who, {}).lines.find((l) => l.canUndo);
    w.services.history.undo(who, { id: done?.id });
    expect(differing(before, settings())).not.toEqual([]);
  });
});
