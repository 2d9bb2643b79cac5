import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readCoachingRules } from '../../src/data/coaching';
import type { CoachingView, ContactCoachingView, PersonCoachingView } from '../../src/services/coaching/coachingviews';
import type { OwnWorkView } from '../../src/services/review/ownwork';
import type { SubjectView } from '../../src/services/review/subject';
import { threeWeeks, writePast } from '../helpers/past';
import { codeIn, codeOf, makeWorld, type World } from '../helpers/world';

// Tamsin Orrel is at the front desk, which Bertil Achterberg supervises; Odile Karrow is not.
const [TAMSIN, ODILE] = ['person_04', 'person_05'];
let w: World;
beforeAll(() => {
  w = makeWorld();
  writePast(w.db, threeWeeks('2026-10-26', 'Europe/Dublin', 'queue_newhire', [ODILE, TAMSIN]));
});
afterAll(() => w.close());
const lead = () => w.actor('Noor Amsel');
const supervisor = () => w.actor('Bertil Achterberg');
const act = (name: string, body: object, who = lead()) => w.services.act(name, who, body) as { id: string };
const contact = async (id: string, who = lead()) =>
  (await w.services.read('contact-coaching', who, { id })) as ContactCoachingView;
const person = async (id: string, who = lead()) =>
  (await w.services.read('person-coaching', who, { id })) as PersonCoachingView;
const own = (name: string) => w.services.coaching.own(w.actor(name));
const marks = (...all: string[]) =>
  readCoachingRules(w.db).points.map((point, i) => ({ pointId: point.id, mark: all[i] ?? 'none' }));
const note = { personId: TAMSIN, contactId: null, words: 'Calm when it was busy.', shared: false, toTalk: false };

describe('notes', () => {
  it('are read by whoever coaches them, and by themselves only where they are shared', async () => {
    act('write-note', note);
    expect((await person(TAMSIN)).notes.map((n) => [n.words, n.author, n.mine])).toEqual([
      [note.words, 'Noor Amsel', true],
    ]);
    expect((await person(TAMSIN, supervisor())).notes[0]).toMatchObject({ words: note.words, mine: false });
    expect(own('Tamsin Orrel').notes).toEqual([]);
    act('write-note', { ...note, words: 'Well done.', shared: true });
    expect(own('Tamsin Orrel').notes.map((n) => n.words)).toEqual(['Well done.']);
    expect(own('Odile Karrow').notes).toEqual([]);
    expect(await codeIn(() => w.services.read('person-coaching', w.actor('Tamsin Orrel'), { id: TAMSIN }))).toBe(
      'not-allowed',
    );
  });
  it('one to talk about stays open until it was talked about', async () => {
    const { id } = act('write-note', { ...note, contactId: 'past3', toTalk: true });
    const open = async () =>
      ((await w.services.read('coaching', lead(), {})) as CoachingView).people.find((p) => p.id === TAMSIN)?.toTalk;
    expect(await open()).toBe(1);
    act('mark-talked', { id, talked: true }, supervisor());
    expect(await open()).toBe(0);
    act('mark-talked', { id, talked: false });
    expect(await open()).toBe(1);
    expect(codeOf(() => act('drop-note', { id }, supervisor()))).toBe('not-allowed');
    act('drop-note', { id });
    expect(await open()).toBe(0);
    expect(codeOf(() => act('drop-note', { id }))).toBe('not-found');
  });
  it('are about somebody who had the contact, or about it alone', async () => {
    expect(codeOf(() => act('write-note', { ...note, personId: ODILE, contactId: 'past3' }))).toBe('not-valid');
    expect(codeOf(() => act('write-note', { ...note, personId: null }))).toBe('not-valid');
    expect(codeOf(() => act('write-note', { ...note, personId: null, contactId: 'past3', toTalk: true }))).toBe(
      'not-valid',
    );
    act('write-note', { ...note, personId: null, contactId: 'past3', words: 'The line was bad.' });
    expect((await contact('past3')).notes.map((n) => n.words)).toContain('The line was bad.');
  });
  it('about people of another team, or oneself, are refused', () => {
    expect(codeOf(() => act('write-note', { ...note, personId: ODILE }, supervisor()))).toBe('not-found');
    const self = supervisor().personId;
    expect(codeOf(() => act('write-note', { ...note, personId: self }, supervisor()))).toBe('not-allowed');
  });
});

describe('ratings', () => {
  const rating = () => ({
    contactId: 'past7',
    personId: TAMSIN,
    marks: marks('met', 'partly', 'missed'),
    words: 'Ask first.',
    shared: true,
  });
  it('take the place of one’s own before, stand beside another’s, and keep the words they were given by', async () => {
    act('rate-contact', rating());
    act('rate-contact', { ...rating(), marks: marks('met', 'met', 'met', 'met') });
    act('rate-contact', rating(), supervisor());
    expect((await contact('past7')).ratings.map((r) => r.score).sort()).toEqual([0.5, 1]);
    const rules = readCoachingRules(w.db);
    const renamed = rules.points.map((p) => ({ ...p, name: `${p.name} now` }));
    act('save-coaching', { ...rules, points: renamed });
    expect((await contact('past7')).ratings[0]?.marks[0]?.name).toBe('Understood');
    expect((await contact('past7')).points[0]?.name).toBe('Understood now');
    expect(own('Tamsin Orrel').ratings).toHaveLength(2);
    expect((await person(TAMSIN)).months.at(-1)).toMatchObject({ month: '2026-11', count: 2, score: 0.75 });
  });
  it('say something, of somebody whose turn it was, by points that are there', () => {
    expect(codeOf(() => act('rate-contact', { ...rating(), marks: marks() }))).toBe('not-valid');
    expect(codeOf(() => act('rate-contact', { ...rating(), personId: ODILE }))).toBe('not-valid');
    expect(codeOf(() => act('rate-contact', { ...rating(), contactId: 'nothing' }))).toBe('not-found');
    expect(codeOf(() => act('rate-contact', { ...rating(), marks: [{ pointId: 'gone', mark: 'met' }] }))).toBe(
      'changed-meanwhile',
    );
  });
});

describe('contacts drawn to be rated', () => {
  it('are drawn once, however often it is pressed, and for those whom one coaches', async () => {
    const month = '2026-11';
    const draw = (who = lead()) => w.services.act('draw-contacts', who, { month }) as Promise<{ drawn: number }>;
    const rules = readCoachingRules(w.db);
    // Two people had contacts.
    expect(await Promise.all([draw(), draw(supervisor())]).then((all) => all.map((a) => a.drawn))).toEqual([
      2 * (rules.byChance + rules.byRule.longest),
      0,
    ]);
    expect(await draw()).toEqual({ drawn: 0 });
    const view = (await w.services.read('coaching', supervisor(), { month })) as CoachingView;
    expect(view.due.map((d) => d.personId)).toEqual(
      Array.from({ length: rules.byChance + rules.byRule.longest }, () => TAMSIN),
    );
    expect(view.people.every((p) => p.team === 'Front desk')).toBe(true);
    const first = view.due.find((d) => d.personId === TAMSIN);
    act('rate-contact', {
      contactId: first?.contactId,
      personId: TAMSIN,
      marks: marks('met'),
      words: '',
      shared: false,
    });
    expect(((await w.services.read('coaching', supervisor(), { month })) as CoachingView).due).toHaveLength(
      view.due.length - 1,
    );
  });
});

describe('goals', () => {
  const goal = { kind: 'people', of: TAMSIN, measure: 'handle-time', bound: 'most', value: 300 };
  const goals = async (id: string) =>
    (await w.services.reading('review-subject', lead(), { kind: 'people', id, from: '2026-11-02', to: '2026-11-08' }))
      .goals;
  it('are a person’s own, else their team’s', async () => {
    act('set-figure-goal', { ...goal, kind: 'teams', of: 'team_front', value: 400 });
    expect(await goals(TAMSIN)).toEqual([{ measure: 'handle-time', bound: 'most', value: 400, own: false }]);
    act('set-figure-goal', goal, supervisor());
    expect(await goals(TAMSIN)).toEqual([{ measure: 'handle-time', bound: 'most', value: 300, own: true }]);
    expect(await goals(ODILE)).toEqual([]);
    act('set-figure-goal', { ...goal, value: null });
    expect(await goals(TAMSIN)).toHaveLength(1);
  });
  it('make sense in their unit, and are of those whom one coaches', () => {
    for (const wrong of [
      { measure: 'met', value: 80 },
      { measure: 'handled', value: 10 },
      { measure: 'bot', value: 0.5 },
      { value: -1 },
    ])
      expect([wrong, codeOf(() => act('set-figure-goal', { ...goal, ...wrong }))]).toEqual([wrong, 'not-valid']);
    expect(codeOf(() => act('set-figure-goal', { ...goal, of: ODILE }, supervisor()))).toBe('not-found');
  });
});

describe('how somebody did, for themselves', () => {
  it('is not beside a mean that would say who the others are', async () => {
    const view = (await w.services.read('own-work', w.actor('Tamsin Orrel'), {})) as OwnWorkView;
    expect(view.whyNot).toContain('too small');
    expect(view.figures.every((f) => f.team === null)).toBe(true);
    const seen = (await w.services.reading('review-subject', lead(), {
      kind: 'people',
      id: TAMSIN,
      from: view.from,
      to: view.to,
    })) as SubjectView;
    expect(view.figures.map((f) => f.mine.value)).toEqual(
      seen.figures.filter((f) => f.id !== 'rung-back').map((f) => f.value),
    );
  });
});
