import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { row } from '../../src/data/database';
import { ownRepliesOf } from '../../src/data/ownreplies';
import { handsIn } from '../helpers/hands';
import { codeIn, makeWorld, type World } from '../helpers/world';

/** Replies that somebody keeps for themselves at their Desk. */
let w: World;
beforeEach(() => {
  w = makeWorld();
});
afterEach(() => w.close());
const { tamsin, odile, ready, chat, take } = handsIn(() => w);
const act = (body: object, who = tamsin()) => w.services.desk.act(who, body, null);
const keep = (title: string, text: string, id: string | null = null, who = tamsin()) =>
  act({ act: 'keep-own-reply', id, title, text }, who);
const own = (who = tamsin()) => ownRepliesOf(w.db, who.personId);
const talking = () => {
  ready(tamsin());
  chat();
  const legId = take(tamsin());
  return { legId, atDesk: () => w.services.desk.view(tamsin(), 0).contacts.find((c) => c.legId === legId) };
};

describe('a reply of one’s own', () => {
  it('is kept, found filled among all others, changed and dropped, by whoever it is of', async () => {
    keep('Two weeks', 'Good morning {customer}, it takes two weeks.');
    const { atDesk } = talking();
    expect(atDesk()?.replies.find((r) => r.title === 'Two weeks')).toMatchObject({
      set: 'Mine',
      text: 'Good morning Ida Lindqvarn, it takes two weeks.',
    });
    expect(w.services.desk.view(odile(), 0).ownReplies).toEqual([]);
    const id = own()[0]?.id ?? '';
    expect(await codeIn(() => keep('Taken over', 'x', id, odile()))).toBe('not-found');
    act({ act: 'drop-own-reply', id }, odile());
    keep('Three weeks', 'It takes three weeks.', id);
    expect(own()).toEqual([{ id, title: 'Three weeks', text: 'It takes three weeks.' }]);
    act({ act: 'drop-own-reply', id });
    expect(own()).toEqual([]);
    expect(await codeIn(() => keep('Again', 'x', id))).toBe('not-found');
  });
  it('goes by the rules of all replies: nothing unknown is kept, nothing unfilled is sent, its use is counted', async () => {
    expect(await codeIn(() => keep('Odd', 'Dear {nobody-knows}'))).toBe('not-valid');
    expect(await codeIn(() => keep('', 'x'))).toBe('not-valid');
    keep('Hire', 'Yours is {hire_number}.'.replace('hire_number', fieldName()));
    expect(await codeIn(() => keep('HIRE', 'x'))).toBe('not-valid');
    const { legId } = talking();
    const replyId = own()[0]?.id ?? '';
    const text = own()[0]?.text ?? '';
    expect(await codeIn(() => act({ act: 'say', legId, text, replyId }))).toBe('not-valid');
    act({ act: 'say', legId, text: 'Yours is 204816.', replyId });
    expect(row(w.db, 'SELECT times FROM stock_uses WHERE reply_id = ?', replyId)).toEqual({ times: 1 });
  });
  it('there are as many as are found at a glance', async () => {
    for (let i = 0; i < 100; i++) keep(`Reply ${i}`, 'x');
    expect(await codeIn(() => keep('One more', 'x'))).toBe('too-large');
    keep('Reply 7', 'y', own().find((r) => r.title === 'Reply 7')?.id ?? null);
    expect(own()).toHaveLength(100);
  });
});
const fieldName = () =>
  row<{ name: string }>(
    w.db,
    "SELECT name FROM fields WHERE name NOT IN ('reason', 'instrument') ORDER BY name LIMIT 1",
  )?.name ?? '';
