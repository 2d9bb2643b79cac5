import { object, string } from 'yup';
import type { Channel } from '../../core/channels';
import type { TiedHow } from '../../core/customers/joining';
import { LaneError } from '../../core/errors';
import type { ContactEnd } from '../../core/measures/facts';
import { holds } from '../../core/people/rights';
import { scriptOf } from '../../data/bots';
import { contactsOfCustomer, readContact } from '../../data/contacts';
import { blocksOf, type Customer, customersAsOne, customersLike, nameAmong, notesOn } from '../../data/customers';
import { standsFor, tiesAround } from '../../data/customerties';
import { erasureOf, isGoingOn } from '../../data/erasing';
import { legsOf } from '../../data/legs';
import { messagesOf } from '../../data/messages';
import { nameOf } from '../../data/names';
import { summaryOf } from '../../data/summaries';
import { visitsOf } from '../../data/visits';
import { readWorkspace } from '../../data/workspace';
import { type ContactState, contactState } from '../contacts/contactstate';
import { masked } from '../contacts/privatevalues';
import { type Actor, mustHoldOne } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id } from '../ground/schemas';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';
import { customerHere, dealsWith, mayReadWords } from './access';

/** One contact in a customer's line of time. */
export type LineOfTime = {
  readonly contactId: string;
  readonly channel: Channel;
  readonly door: string;
  readonly queues: readonly string[];
  readonly people: readonly string[];
  readonly startedAt: number;
  readonly endedAt: number | null;
  readonly state: ContactState;
  readonly how: ContactEnd | null;
  /** Whether the reader may read what was said. */ readonly opens: boolean;
};
/** One address by which a customer is known, and what joins it with the others. */
export type KnownBy = Pick<Customer, 'id' | 'channel' | 'address' | 'name' | 'vouched'>;
export type CustomerView = {
  /** Who stands for all of them. */ readonly id: string;
  readonly name: string | null;
  readonly vouched: boolean;
  readonly language: string | null;
  /** The workspace’s languages, of which they may like one. */ readonly languages: readonly string[];
  readonly erased: boolean;
  readonly knownBy: readonly KnownBy[];
  readonly ties: readonly {
    readonly id: string;
    readonly between: readonly [string, string];
    readonly how: TiedHow;
    readonly by: string | null;
    readonly at: number;
  }[];
  readonly notes: readonly {
    readonly id: string;
    readonly by: string;
    readonly words: string;
    readonly at: number;
    readonly mayDrop: boolean;
  }[];
  readonly block: {
    readonly customerId: string;
    readonly why: string;
    readonly askedBy: string;
    readonly askedAt: number;
    readonly decidedBy: string | null;
    readonly decidedAt: number | null;
    readonly came: number;
    readonly cameAt: number | null;
  } | null;
  /** Open ones first, then the newest first. */ readonly contacts: readonly LineOfTime[];
  /** Whether there are older ones. */ readonly more: boolean;
  readonly now: number;
  readonly goingOn: boolean;
  readonly mayChange: boolean;
  readonly mayDecide: boolean;
  readonly mayErase: boolean;
};

/** Contacts shown at a time. */
const SHOWN = 40;
const viewSchema = exactly(
  object({
    id: id('The customer'),
    shown: string()
      .matches(/^\d{1,4}$/, 'How many are shown must be a number')
      .optional(),
  }),
);

/** A customer with all by which they are known, and their contacts over all channels. For a thread of its own. */
export function viewCustomer(host: Host, actor: Actor, asked: unknown): CustomerView {
  mustHoldOne(actor, ['conversations.view', 'desk.work']);
  const { id: customerId, shown = String(SHOWN) } = parse(viewSchema, asked);
  const { db } = host;
  const all = customerHere(db, customerId);
  const [main] = all;
  const ids = all.map((c) => c.id);
  const { names } = sightOf(host, actor);
  const by = (personId: string | null): string => (personId === null ? '' : (names.get(personId) ?? 'somebody'));
  const most = Math.max(1, Number(shown));
  const found = contactsOfCustomer(db, customerId, most + 1);
  const [block] = blocksOf(db, ids);
  const changes = holds(actor, 'customers.change') || dealsWith(db, actor.personId, customerId);
  return {
    id: main?.id ?? customerId,
    name: nameAmong(all),
    vouched: all.some((c) => c.vouched),
    language: all.find((c) => c.language !== null)?.language ?? null,
    languages: readWorkspace(db)?.languages ?? ['en'],
    erased: ids.every((one) => erasureOf(db, one) !== undefined),
    knownBy: all.map(({ language: _l, namedAt: _n, ...c }) => c),
    ties: tiesAround(db, customerId).map((t) => ({
      id: t.id,
      between: [t.customerId, t.otherId],
      how: t.how,
      by: t.byPersonId === null ? null : by(t.byPersonId),
      at: t.at,
    })),
    notes: notesOn(db, ids).map((n) => ({
      id: n.id,
      by: by(n.personId),
      words: n.words,
      at: n.at,
      mayDrop: n.personId === actor.personId || holds(actor, 'customers.change'),
    })),
    block: block
      ? { ...block, askedBy: by(block.askedBy), decidedBy: block.decidedBy === null ? null : by(block.decidedBy) }
      : null,
    contacts: found
      .slice(0, most)
      .map((c): LineOfTime => ({
        contactId: c.id,
        channel: c.channel,
        door: nameOf(db, c.doorId) ?? '',
        queues: [...new Set(visitsOf(db, c.id).map((v) => nameOf(db, v.queueId) ?? ''))],
        people: [...new Set(legsOf(db, c.id).map((l) => by(l.personId)))],
        startedAt: c.startedAt,
        endedAt: c.endedAt,
        state: contactState(db, c),
        how: c.endedHow,
        opens: mayReadWords(host, actor, c),
      }))
      .sort((a, b) => Number(a.endedAt !== null) - Number(b.endedAt !== null) || b.startedAt - a.startedAt),
    more: found.length > most,
    now: host.times.floor(),
    goingOn: ids.some((one) => isGoingOn(db, one)),
    mayChange: changes,
    mayDecide: holds(actor, 'customers.change'),
    mayErase: holds(actor, 'customers.erase') && actor.teams === 'all',
  };
}

/** What a contact came to, and who said so; nobody where it was made of its own words. */
export type KeptSummary = { readonly words: string; readonly by: string | null };
export type WordsOfContact = {
  readonly summary: KeptSummary | null;
  readonly messages: readonly {
    readonly seq: number;
    readonly from: 'customer' | 'bot' | 'person';
    readonly name: string;
    readonly text: string;
    readonly at: number;
    readonly image: { readonly id: string; readonly alt: string } | null;
  }[];
};
/** What a contact came to, private values masked. */
export function keptSummaryOf(host: Pick<Host, 'db'>, actor: Actor, contactId: string): KeptSummary | null {
  const kept = summaryOf(host.db, contactId);
  const { names } = sightOf(host, actor);
  return kept && { words: masked(kept.words), by: kept.personId && (names.get(kept.personId) ?? 'somebody') };
}

const wordsSchema = exactly(object({ contact: id('The contact') }));

/** What was said in one contact of a customer, private values masked. For a thread of its own. */
export function wordsOfContact(host: Host, actor: Actor, asked: unknown): WordsOfContact {
  mustHoldOne(actor, ['conversations.view', 'desk.work']);
  const { contact: contactId } = parse(wordsSchema, asked);
  const contact = readContact(host.db, contactId);
  if (!contact || !mayReadWords(host, actor, contact))
    throw new LaneError('not-found', 'There is no contact with this id that you may read.');
  const script =
    contact.botId !== null && contact.botVersion !== null
      ? scriptOf(host.db, contact.botId, contact.botVersion)
      : undefined;
  const { shownNames } = sightOf(host, actor);
  const customer = nameAmong(customerHere(host.db, contact.customerId)) ?? 'Customer';
  return {
    summary: keptSummaryOf(host, actor, contactId),
    messages: messagesOf(host.db, contactId).map((m) => ({
      seq: m.seq,
      from: m.sender,
      name:
        m.sender === 'customer'
          ? customer
          : m.sender === 'bot'
            ? (script?.shownName ?? 'Bot')
            : (shownNames.get(m.personId ?? '') ?? 'Us'),
      text: masked(m.text),
      at: m.floorAt,
      image: m.image,
    })),
  };
}

/** One customer found: whoever stands for those who are one stands once. */
export type FoundCustomer = {
  readonly id: string;
  readonly name: string | null;
  readonly channel: Channel;
  readonly address: string;
  readonly vouched: boolean;
};
const findSchema = exactly(
  object({ text: string().max(120, 'At most 120 characters').defined('What is looked for is missing') }),
);
const MOST_FOUND = 20;

/** Customers by name, address or a number in any spelling. Goes through all of them: for a thread of its own. */
export function findCustomers(
  { db }: Host,
  actor: Actor,
  asked: unknown,
): { readonly found: readonly FoundCustomer[] } {
  mustHoldOne(actor, ['conversations.view', 'desk.work']);
  const { text } = parse(findSchema, asked);
  if (text.trim().length < 2) return { found: [] };
  const found = new Map<string, FoundCustomer>();
  for (const { language: _l, namedAt: _n, ...c } of customersLike(db, text, MOST_FOUND * 3)) {
    const main = standsFor(db, c.id);
    if (!found.has(main)) found.set(main, { ...c, id: main, name: nameAmong(customersAsOne(db, main)) });
  }
  return { found: [...found.values()].slice(0, MOST_FOUND) };
}
