import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { SETTINGS_ACTS } from '../../src/services/settingsacts';
import { VIEWS } from '../../src/services/views';
import { codeIn, makeWorld, type World } from '../helpers/world';

let w: World;
beforeAll(() => {
  w = makeWorld();
});
afterAll(() => w.close());

const LONG = 'x'.repeat(100_000);
/** What a broken page, an old one or somebody with time on their hands may send. */
const NONSENSE: readonly unknown[] = [
  null,
  undefined,
  7,
  'text',
  [],
  [{}],
  { id: null },
  { id: 7 },
  { id: LONG },
  { id: 'nobody', revision: -1 },
  { id: '__proto__' },
  { name: LONG, rows: 'x' },
  { changes: [null] },
  { changes: [{ personId: 'person_04', skillId: 'nothing', level: 99 }] },
  { personIds: ['nobody'], apply: true, set: {} },
  { personIds: ['person_04'], apply: true, set: { teamId: 'nowhere' } },
  { personIds: ['person_04'], apply: true, set: { level: { skillId: 'skill_pl', level: 1.5 } } },
  { personId: 'person_04', profileId: 'nothing', until: '25:99' },
  { personId: 'person_04', profileId: 'profile_front', until: null },
  { ownerId: 'nobody', revision: 0, weekly: [], exceptions: [] },
  { ownerId: 'person_04', revision: 1, weekly: [{ day: 9, from: 'x', to: 'y' }], exceptions: [] },
  { text: 'BEGIN:VCALENDAR\nEND', ownerId: null, seen: null },
  { text: '\u0000\u0001', ownerId: 'person_04', seen: [] },
  { kind: 'team', id: 'nowhere' },
  { kind: 'person', id: 'person_04' },
  { queueId: 'nowhere', rows: [] },
  { reasons: [{ id: null, name: '', paid: 'no', minutes: 0 }] },
  { revision: 0, helpers: ['magic'], rules: [{ who: { by: 'moon' }, exceptIds: [], profileId: 'x' }] },
  { id: null, revision: 0, name: 'N', rights: ['everything'], teams: 'moon' },
  { token: '', password: '' },
  { wayId: 'nothing' },
  { id: 999_999_999 },
];

describe('nonsense is refused in a sentence and changes nothing', () => {
  const state = () =>
    JSON.stringify([
      w.services.people.view(w.actor('Noor Amsel')),
      w.services.teams.view(w.actor('Noor Amsel')),
      w.services.deskProfiles.view(w.actor('Noor Amsel')),
    ]);
  it.each(Object.keys(SETTINGS_ACTS))('%s', async (name) => {
    const before = state();
    for (const [i, input] of NONSENSE.entries()) {
      const code = await Promise.resolve()
        .then(() => w.services.act(name, w.actor('Noor Amsel'), input))
        .then(
          () => 'taken',
          (error: { code?: string; message: string }) => error.code ?? `${i}: ${error.message}`,
        );
      expect([name, i, code]).toEqual([
        name,
        i,
        expect.stringMatching(
          /^(taken|not-valid|not-found|not-now|not-allowed|changed-meanwhile|closed|cannot-publish|slow-down)$/,
        ),
      ]);
    }
    expect(state()).toBe(before);
  });
  it.each(Object.keys(VIEWS))('reading %s', async (name) => {
    for (const asked of [
      { id: LONG },
      { id: '__proto__' },
      { week: 'soon' },
      { before: 'x', text: '%_\\' },
      { from: '2026-13-45' },
      { kind: 'x', page: '99999' },
    ] as Record<string, string>[]) {
      const code = await codeIn(() => w.services.read(name, w.actor('Noor Amsel'), asked));
      expect([name, JSON.stringify(asked).slice(0, 40), code]).toEqual([
        name,
        expect.anything(),
        expect.stringMatching(/^(none|not-valid|not-found)$/),
      ]);
    }
  });
});
