import { handleSeconds } from '../../core/measures/handletime';
import type { PastContact } from '../../core/past/pastlines';
import { goalOf } from '../../core/routing/queue';
import { customerAt, writeCustomer } from '../../data/customers';
import type { Happened } from '../../data/lives';
import { readQueue } from '../../data/queuesettings';
import type { Tx } from '../ground/host';
import type { IdOf } from './pastthings';

/** The goal of a visit of which neither the file nor the queue says one, seconds. */
const USUAL_GOAL = 60;

/** What happened in a contact that is brought in, in order, as the log would have it. Writes its customer. */
export function lifeOf(tx: Tx, contact: PastContact, idOf: IdOf): Happened[] {
  const { channel, startedAt, endedAt } = contact;
  const contactId = tx.ids('contact');
  const people = (name: string | null) => (name === null ? null : idOf(tx, 'person', name));
  const life: Happened[] = [
    {
      at: startedAt,
      body: {
        type: 'contact.started',
        contactId,
        doorId: idOf(tx, 'door', contact.door),
        channel,
        customerId: customerOf(tx, contact),
        language: contact.language,
        botId: contact.bot === null ? null : idOf(tx, 'bot', contact.bot),
        botVersion: null,
      },
    },
  ];
  const visitIds = contact.visits.map(() => tx.ids('visit'));
  contact.visits.forEach((visit, i) => {
    const queueId = idOf(tx, 'queue', visit.queue);
    const queue = readQueue(tx.db, queueId);
    const about = { contactId, visitId: visitIds[i] ?? '' };
    life.push(
      {
        at: visit.enteredAt,
        body: {
          type: 'visit.began',
          ...about,
          queueId,
          channel,
          settingsVersion: 1,
          placedAt: visit.placedAt,
          needs: [],
          priority: 0,
          goalSeconds: visit.goalSeconds ?? (queue && goalOf(queue, channel)?.seconds) ?? USUAL_GOAL,
          because: 'it was brought in',
        },
      },
      { at: visit.endedAt, body: { type: 'visit.ended', ...about, how: visit.ended } },
    );
  });
  for (const turn of contact.turns) {
    const about = { contactId, legId: tx.ids('leg'), personId: idOf(tx, 'person', turn.person) };
    const signs = contact.messages.map((message) => message.at);
    life.push(
      {
        at: turn.acceptedAt,
        body: { type: 'leg.began', ...about, visitId: visitIds[turn.visit] ?? '', broughtIn: true },
      },
      { at: turn.endedAt, body: { type: 'leg.wrapping', ...about, passedOn: turn.passedOn } },
      {
        at: turn.endedAt,
        body: {
          type: 'leg.ended',
          ...about,
          outcome: turn.outcome === null ? null : idOf(tx, 'outcome', turn.outcome),
          handleSeconds:
            turn.handleSeconds ??
            handleSeconds(channel, {
              acceptedAt: turn.acceptedAt,
              talkEndedAt: turn.endedAt,
              endedAt: turn.endedAt,
              signs,
            }),
        },
      },
    );
  }
  for (const message of contact.messages)
    life.push({
      at: message.at,
      text: message.text,
      body: {
        type: 'message.written',
        contactId,
        from: message.from,
        personId: people(message.person),
        lineId: null,
      },
    });
  life.push({ at: endedAt, body: { type: 'contact.ended', contactId, how: contact.ended } });
  // What begins stands before what ends at the same moment; both sorts keep the order of what is alike.
  const [first, ...rest] = life;
  return first ? [first, ...rest.sort((a, b) => a.at - b.at || rank(a) - rank(b))] : [];
}
/** Of what happens at one moment: a turn begins when its visit has been answered, and the contact ends last. */
function rank({ body }: Happened): number {
  return body.type === 'contact.ended' ? 2 : body.type === 'leg.ended' ? 1 : 0;
}

/** The customer whom a file names: one that is here by that address, so that it is known who came back. */
function customerOf(tx: Tx, { channel, customer }: PastContact): string {
  const known = customerAt(tx.db, channel, customer, true) ?? customerAt(tx.db, channel, customer, false);
  if (known) return known.id;
  const id = tx.ids('customer');
  writeCustomer(tx.db, { id, channel, address: customer, name: null, vouched: false });
  return id;
}
