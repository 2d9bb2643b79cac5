import { seeded } from '../src/core/chance';
import { seededIds } from '../src/core/ids';
import { type Mark } from '../src/core/people/coaching';
import { readCoachingRules, writeDraw } from '../src/data/coaching';
import { contactNo } from '../src/data/contactnumbers';
import { readContact } from '../src/data/contacts';
import type { Db } from '../src/data/database';
import { legsSince } from '../src/data/legs';
import { readPeople, readPersonByEmail } from '../src/data/people';
import { createServices } from '../src/services';
import { type Actor, actorOf } from '../src/services/ground/actor';
import { createHost } from '../src/services/ground/host';
import { emailOf } from './company';

const WORDS = [
  'Found out first what had broken, then offered the bench. Just right.',
  'Asked for the hire number twice; it was in the fields already.',
  'Kind and quick. Say when the driver comes before they have to ask.',
  'Went straight to the price. A question or two before it would have helped.',
];
const MARKS: readonly Mark[] = ['met', 'met', 'met', 'partly', 'partly', 'missed', 'none'];

/** What coaches did this month: contacts of everybody drawn to be rated, about half of them rated, and a few notes. */
export function coachSome(db: Db, until: number): void {
  const chance = seeded(31);
  const now = () => until;
  const host = createHost(db, seededIds(seeded(32)), { real: now, floor: now });
  const { coaching } = createServices(host);
  const actor = (name: string): Actor | null => actorOf(db, readPersonByEmail(db, emailOf(name))?.id ?? '');
  const [lead, supervisor] = [actor('Noor Amsel'), actor('Bertil Achterberg')];
  if (!lead || !supervisor) return;
  const month = new Date(until).toISOString().slice(0, 7);
  const { points } = readCoachingRules(db);
  const since = until - 5 * 86_400_000;
  const turns = readPeople(db).flatMap(({ id: personId }) => {
    const latest = legsSince(db, personId, since, 45);
    return [6, 18, 30, 42].flatMap((place) => {
      const contactId = latest[place]?.contactId;
      return contactId !== undefined && readContact(db, contactId)?.endedAt ? [{ personId, contactId }] : [];
    });
  });
  host.transact((tx) => {
    for (const { personId, contactId } of turns)
      writeDraw(tx.db, month, personId, contactNo(tx.db, contactId), 'chance');
    for (const { personId, contactId } of turns) {
      if (personId === lead.personId || personId === supervisor.personId || chance.next() < 0.5) continue;
      const marks = points.map((point, i) => ({ pointId: point.id, mark: i === 0 ? 'met' : chance.pick(MARKS) }));
      coaching.rate(lead, {
        contactId,
        personId,
        marks,
        words: chance.next() < 0.5 ? chance.pick(WORDS) : '',
        shared: true,
      });
      if (chance.next() < 0.15)
        coaching.writeNote(lead, {
          personId,
          contactId,
          words: 'Let us look at this one together.',
          shared: false,
          toTalk: true,
        });
    }
  });
}
