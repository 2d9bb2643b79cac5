import { LaneError } from '../../core/errors';
import { reasonFor, reasonKey, type Turn } from '../../core/differing/reason';
import { numberOf } from '../../data/contactnumbers';
import { type ContactLine, contactLines } from '../../data/facts';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { askedOf } from './asking';
import { mayRead } from './each';
import { daysOf } from './figures';
import { namesOf } from './names';
import { matesOf, TEAM, TOO_MANY, turnsOfBoth } from './two';

/** Contacts of a reason that are listed. */
const MOST = 200;
export type ReasonContacts = {
  readonly lines: readonly (Omit<ContactLine, 'queues' | 'people'> & {
    /** Whether the first of the two took it. */ readonly mine: boolean;
    readonly queue: string;
    readonly decidedAt: number;
    readonly able: number | null;
  })[];
  readonly more: number;
};

/** The contacts that stand behind one reason, latest first. */
export function contactsOfReason(host: Host, actor: Actor, input: unknown): ReasonContacts {
  mustHold(actor, 'review.view');
  const asked = askedOf(host, actor, input);
  const [id, other] = [asked.id ?? '', asked.with ?? ''];
  const may = mayRead(host, actor, 'person');
  if (!may(id) || (other !== TEAM && !may(other)))
    throw new LaneError('not-found', 'There are no two people by these names that you may see.');
  const mates = other === TEAM ? matesOf(host, id) : [other];
  const both = turnsOfBoth(host, asked, daysOf(host, asked).now, id, mates);
  if (!both) throw new LaneError('not-valid', TOO_MANY);
  const { mine, others } = both;
  const is = (turn: Turn, who: string) => reasonKey(reasonFor(turn, who)) === asked.reason;
  const found = [
    ...mine.filter((turn) => others.some((o) => is(turn, o.id))).map((turn) => ({ turn, mine: true })),
    ...others.flatMap((o) => o.turns.filter((turn) => is(turn, id)).map((turn) => ({ turn, mine: false }))),
  ].sort((a, b) => b.turn.acceptedAt - a.turn.acceptedAt);
  const nameOf = namesOf(host, actor);
  const shown = found.slice(0, MOST);
  const contacts = new Map(
    contactLines(host.db, [...new Set(shown.flatMap(({ turn }) => numberOf(host.db, turn.contactId) ?? []))]).map(
      (c) => [c.id, c],
    ),
  );
  return {
    lines: shown.flatMap(({ turn, mine: isMine }) => {
      const contact = contacts.get(turn.contactId);
      if (!contact) return [];
      const { queues: _queues, people: _people, ...line } = contact;
      const trail = turn.trail === 'unknown' ? null : turn.trail;
      return [
        {
          ...line,
          mine: isMine,
          queue: nameOf('queue', turn.queueId),
          decidedAt: trail?.at ?? turn.acceptedAt,
          able: trail?.able ?? null,
        },
      ];
    }),
    more: Math.max(0, found.length - MOST),
  };
}
