import type { Line } from '../../core/contact/contact';
import { ownNumber } from '../../core/contact/numbers';
import { stands } from '../../core/contact/promised';
import { spokenNumber } from '../../core/messages/spokennumber';
import { nameOf } from '../../data/names';
import { callbackOf } from '../../data/callbacks';
import { customersAsOne, nameAmong, readCustomer } from '../../data/customers';
import { hintOf } from '../../data/customerties';
import type { MergedNeed } from '../../core/routing/needs';
import type { ShownImage } from '../../core/bots/conversation';
import type { Channel } from '../../core/channels';
import type { FieldType } from '../../core/fieldvalue';
import { localised } from '../../core/localised';
import { fillReply, placeholdersIn, suggestReplies, summarise } from '../../core/messages/stockreplies';
import type { Outcome } from '../../core/outcomes';
import { USUAL_WRAP_UP, type WrapUp } from '../../core/routing/queue';
import { decisionSentence } from '../../core/routing/trail';
import { scriptOf } from '../../data/bots';
import { type Contact, contactsOfCustomer, readContact } from '../../data/contacts';
import { type FieldRecord, readFields } from '../../data/fields';
import type { Leg } from '../../data/legs';
import { type Page, pageOf } from '../../data/pages';
import { messagesOf } from '../../data/messages';
import { readOutcomes } from '../../data/outcomes';
import { type OwnReply, ownRepliesOf } from '../../data/ownreplies';
import { passNoteFor } from '../../data/passnotes';
import { readPerson } from '../../data/people';
import { readQueue } from '../../data/queuesettings';
import { readSkills } from '../../data/skills';
import { summaryOf } from '../../data/summaries';
import { passedFields, privateValuesOf, valuesOf } from '../../data/values';
import { decisionsOf } from '../../data/trails';
import { readVisit } from '../../data/visits';
import { readWorkspace } from '../../data/workspace';
import type { Host } from '../ground/host';
import type { DeskLayout } from '../people/desklayout';
import type { DeskProfiles } from '../people/deskprofiles';
import type { Callbacks, CallingNow } from './callbacks';
import type { Contacts } from './contacts';
import { customerName, isVouched } from './contactstate';
import type { InFrontNow } from './infront';
import type { LiveFloor } from './livefloor';
import { MASK, masked, opened } from './privatevalues';

/** A field that a person fills in. */
export type DeskField = {
  readonly name: string;
  readonly label: string;
  readonly type: FieldType;
  readonly value: string;
};

/** One earlier contact of the same customer. */
export type Earlier = {
  readonly contactId: string;
  readonly channel: Channel;
  readonly startedAt: number;
  readonly how: string | null;
};

export type DeskContact = {
  readonly legId: string;
  readonly contactId: string;
  readonly channel: Channel;
  readonly customer: string;
  readonly customerId: string;
  readonly vouched: boolean;
  /** Who they said they are, which nobody has proven; null for nobody. */
  readonly maybe: { readonly id: string; readonly name: string } | null;
  /** The page they write from and where they are, where their browser says so. */
  readonly page: Page | null;
  readonly queue: string;
  readonly queueId: string;
  readonly door: string;
  readonly language: string;
  readonly acceptedAt: number;
  readonly talking: boolean;
  /** Of a call: how this end of it is, and since when, floor ms. */
  readonly line: Line;
  readonly lineSince: number;
  readonly cost: number;
  /** What whoever passed it on wrote for whoever takes it. */
  readonly passNote: { readonly from: string; readonly words: string; readonly at: number } | null;
  /** Since when the customer waits for an answer, floor ms; null while they do not. */
  readonly unansweredSince: number | null;
  readonly fields: readonly { label: string; value: string }[];
  readonly toFill: readonly DeskField[];
  readonly why: string;
  /**
   * A call to the customer that rings or is answered; what is said to the agent first; the codes of the queue with
   * why one cannot be filed yet.
   */
  /** Whether it is a message that was left, and the number by which its customer can be rung back; null for none. */
  readonly left: boolean;
  readonly ringNumber: string | null;
  readonly calling: CallingNow | null;
  readonly opening: string;
  readonly outcomes: readonly Outcome[];
  /** When the talk ended, floor ms: how long a contact was is what its outcomes go by. */ readonly endedAt:
    number | null;
  readonly wrapUp: WrapUp;
  readonly filed: string | null;
  readonly messages: readonly {
    seq: number;
    from: 'customer' | 'bot' | 'person';
    name: string;
    text: string;
    at: number;
    image: ShownImage | null;
  }[];
  readonly lastFrom: 'customer' | 'bot' | 'person' | null;
  readonly resting: boolean;
  /**
   * Stock replies in the customer's language with their placeholders filled; those that fit the last words first when
   * suggestions are on.
   */
  readonly replies: readonly { id: string; set: string; title: string; text: string; fits: boolean }[];
  /** Whether their Desk has replies, and so their own. */
  readonly keepsReplies: boolean;
  /** The names that replies have filled: what is left of them is filled by hand before it is sent. */
  readonly placeholders: readonly string[];
  /** What the conversation came to: as somebody said it, else by its own words where that helper is on. */
  readonly summary: string | null;
};

/** What the functions of this file are given first. */
export type DeskDeps = {
  readonly inFront: InFrontNow;
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly contacts: Contacts;
  readonly desks: DeskProfiles;
  readonly callbacks: Callbacks;
};

/** Fields that a queue shows, in its order. */
export function fieldsOf({ host }: DeskDeps, queueId: string | undefined): FieldRecord[] {
  const all = readFields(host.db);
  const order = queueId === undefined ? null : (readQueue(host.db, queueId)?.fields ?? null);
  return order === null ? all : order.flatMap((fieldId) => all.filter((f) => f.id === fieldId));
}

const valuesKnown = ({ host }: DeskDeps, contactId: string) =>
  new Map(
    [...valuesOf(host.db, contactId), ...privateValuesOf(host.db, contactId)].map((v) => [
      v.name,
      opened(host.db, contactId, v.value),
    ]),
  );

/** Of the values of a contact, those that the queue shows, in its order. */
function shownOf(
  deps: DeskDeps,
  contactId: string,
  queueId: string | undefined,
  values: ReadonlyMap<string, string>,
): { label: string; value: string }[] {
  const passed = passedFields(deps.host.db, contactId);
  return fieldsOf(deps, queueId)
    .filter((f) => values.has(f.name) && passed.has(f.name) && !f.filledBy.includes('agent'))
    .map((f) => ({ label: f.label, value: values.get(f.name) ?? '' }));
}

/** What was passed on or noted, as the queue shows it. */
export function known(
  deps: DeskDeps,
  contactId: string,
  queueId: string | undefined,
): { label: string; value: string }[] {
  return shownOf(deps, contactId, queueId, valuesKnown(deps, contactId));
}

/** The same for somebody to whom nobody has offered it: private values are masked, wherever they stand. */
export function knownBefore(deps: DeskDeps, contactId: string, queueId: string): { label: string; value: string }[] {
  const { db } = deps.host;
  const values = new Map(valuesOf(db, contactId).map((v) => [v.name, masked(v.value)]));
  for (const { name } of privateValuesOf(db, contactId)) values.set(name, MASK);
  return shownOf(deps, contactId, queueId, values);
}

/** Fields that a person fills in, with what stands in them. */
function toFill(deps: DeskDeps, contactId: string, queueId: string | undefined): DeskField[] {
  const values = valuesKnown(deps, contactId);
  return fieldsOf(deps, queueId)
    .filter((f) => f.filledBy.includes('agent'))
    .map((f) => ({ name: f.name, label: f.label, type: f.type, value: values.get(f.name) ?? '' }));
}

export function why({ host }: DeskDeps, visitId: string, personId: string): string {
  const trail = decisionsOf(host.db, visitId)
    .filter((t) => t.chosen === personId)
    .at(-1);
  if (!trail) return '';
  const visit = readVisit(host.db, visitId);
  const skills = new Map(readSkills(host.db).map((s) => [s.id, s.name]));
  const inWords = (needs: readonly MergedNeed[]) =>
    needs.filter((n) => n.atLeast > 0).map((n) => `${skills.get(n.skillId) ?? n.skillId} ${n.atLeast}`);
  // What was needed when they were chosen: a stage of the wait clock may have asked for less than at first.
  const [first, then] = [inWords(visit?.needs ?? []), inWords(trail.needs ?? visit?.needs ?? [])];
  const verb = then.length === 1 ? 'was' : 'were';
  const needed =
    then.length > 0
      ? ` ${then.join(' and ')} or better ${verb} needed${trail.needs ? ` by then; at first ${first.join(' and ')}` : ''}.`
      : first.length > 0
        ? ` ${first.join(' and ')} or better was needed at first, and no skill any more by then.`
        : '';
  return `${decisionSentence(trail, () => 'You')}${needed}`.replace('You was', 'You were');
}

export const languages = ({ host }: DeskDeps): readonly string[] => readWorkspace(host.db)?.languages ?? ['en'];

/** The codes a queue's agents see. */
export const codesOf = ({ host }: DeskDeps, only: readonly string[] | null) =>
  readOutcomes(host.db).filter((o) => !o.retired && o.who === 'agents' && (only === null || only.includes(o.code)));

export const contactSeconds = ({ host }: DeskDeps, leg: Leg): number =>
  ((leg.talkEndedAt ?? host.times.floor()) - leg.acceptedAt) / 1000;

/** The customer's last five contacts before this one. */
export const earlier = ({ host }: DeskDeps, c: { id: string; customerId: string }): Earlier[] =>
  contactsOfCustomer(host.db, c.customerId, 6)
    .filter((b) => b.id !== c.id)
    .slice(0, 5)
    .map((b) => ({ contactId: b.id, channel: b.channel, startedAt: b.startedAt, how: b.endedHow }));

/** What somebody's own replies are called among the sets. */
const OWN = 'Mine';

function repliesFor(
  { host }: DeskDeps,
  layout: DeskLayout,
  own: readonly OwnReply[],
  language: string,
  values: Readonly<Record<string, string>>,
  lastWords: string,
): DeskContact['replies'] {
  const languages = readWorkspace(host.db)?.languages ?? ['en'];
  const all = layout.replies
    .map((r) => ({
      id: r.id,
      set: r.set,
      title: r.title,
      text: fillReply(localised(r.text, language, languages), values),
    }))
    .filter((r) => r.text !== '')
    .concat(own.map(({ id, title, text }) => ({ id, set: OWN, title, text: fillReply(text, values) })));
  const fitting =
    layout.helpers.includes('suggest') && lastWords !== '' ? suggestReplies(all, lastWords).slice(0, 3) : [];
  return [
    ...fitting.map((r) => ({ ...r, fits: true })),
    ...all.filter((r) => !fitting.includes(r)).map((r) => ({ ...r, fits: false })),
  ];
}

/** The telephone number at which the customer of a message can be rung back, as it is read; null for none that is theirs. */
function ringNumber({ host }: DeskDeps, c: Contact): string | null {
  const customer = readCustomer(host.db, c.customerId);
  const number = customer ? ownNumber({ channel: c.channel, customer }) : null;
  return number === null || stands(callbackOf(host.db, c.id) ?? null) ? null : spokenNumber(number);
}

/** What whoever passed it on wrote for whoever took it at an instant. */
export function noteFor({ host }: DeskDeps, contactId: string, takenAt: number): DeskContact['passNote'] {
  const note = passNoteFor(host.db, contactId, takenAt);
  return note && { from: readPerson(host.db, note.personId)?.name ?? 'somebody', words: note.words, at: note.at };
}

/**
 * Since when a customer waits for a person's answer, floor ms: since it was taken, as long as whoever took it has not
 * written; then since the first word that nobody has answered. Null while they wait for nothing.
 */
export function unansweredSince(
  messages: readonly { readonly from: 'customer' | 'bot' | 'person'; readonly at: number }[],
  takenAt: number,
): number | null {
  const answered = messages.findLastIndex((m) => m.from === 'person');
  if ((messages[answered]?.at ?? 0) < takenAt) return takenAt;
  return messages.slice(answered + 1).find((m) => m.from === 'customer')?.at ?? null;
}

/** Who a contact's customer said they are. */
function saidToBe({ host }: DeskDeps, contactId: string): DeskContact['maybe'] {
  const other = hintOf(host.db, contactId);
  const all = other === null ? [] : customersAsOne(host.db, other);
  return other === null ? null : { id: other, name: nameAmong(all) ?? all[0]?.address ?? 'somebody' };
}

export function contact(deps: DeskDeps, leg: Leg, layout: DeskLayout): DeskContact | null {
  const c = readContact(deps.host.db, leg.contactId);
  if (!c) return null;
  const visit = readVisit(deps.host.db, leg.visitId);
  const queue = visit && readQueue(deps.host.db, visit.queueId);
  const script = c.botId !== null && c.botVersion !== null ? scriptOf(deps.host.db, c.botId, c.botVersion) : undefined;
  const customer = customerName(deps.host.db, c);
  const messages = messagesOf(deps.host.db, c.id).map((m) => ({
    seq: m.seq,
    from: m.sender,
    at: m.floorAt,
    text: opened(deps.host.db, c.id, m.text),
    image: m.image,
    name:
      m.sender === 'customer'
        ? customer
        : m.sender === 'bot'
          ? (script?.shownName ?? 'Bot')
          : (readPerson(deps.host.db, m.personId ?? '')?.shownName ?? 'Us'),
  }));
  const fields = known(deps, c.id, visit?.queueId);
  const words = messages.map((m) => ({ from: m.from, text: m.text }));
  const person = readPerson(deps.host.db, leg.personId);
  const own = ownRepliesOf(deps.host.db, leg.personId);
  const keptSummary = summaryOf(deps.host.db, c.id);
  return {
    legId: leg.id,
    contactId: c.id,
    channel: c.channel,
    customer,
    customerId: c.customerId,
    maybe: saidToBe(deps, c.id),
    vouched: isVouched(deps.host.db, c),
    queue: queue?.name ?? '',
    queueId: visit?.queueId ?? '',
    door: nameOf(deps.host.db, c.doorId) ?? '',
    language: c.language,
    page: pageOf(deps.host.db, c.id),
    acceptedAt: leg.acceptedAt,
    talking: leg.talkEndedAt === null,
    line: leg.line,
    lineSince: leg.lineSince ?? leg.acceptedAt,
    cost: deps.floor.router.floor.people.get(leg.personId)?.open.get(leg.id)?.cost ?? 0,
    passNote: noteFor(deps, c.id, leg.acceptedAt),
    unansweredSince:
      leg.talkEndedAt === null && c.channel !== 'voice' ? unansweredSince(messages, leg.acceptedAt) : null,
    resting: deps.floor.router.floor.people.get(leg.personId)?.open.get(leg.id)?.resting ?? false,
    replies: layout.panels.talking.includes('replies')
      ? repliesFor(
          deps,
          layout,
          own,
          c.language,
          {
            ...Object.fromEntries(valuesKnown(deps, c.id)),
            customer,
            agent: person?.shownName ?? '',
            company: readWorkspace(deps.host.db)?.name ?? '',
            queue: queue?.name ?? '',
          },
          words.filter((w) => w.from === 'customer').at(-1)?.text ?? '',
        )
      : [],
    keepsReplies: layout.panels.talking.includes('replies'),
    placeholders: [
      ...new Set([
        ...layout.replies.flatMap((r) => Object.values(r.text).flatMap(placeholdersIn)),
        ...own.flatMap((r) => placeholdersIn(r.text)),
      ]),
    ],
    summary:
      keptSummary !== null
        ? opened(deps.host.db, c.id, keptSummary.words)
        : layout.helpers.includes('summary')
          ? summarise(fields, words)
          : null,
    fields,
    toFill: toFill(deps, c.id, visit?.queueId),
    why: why(deps, leg.visitId, leg.personId),
    left: visit?.kind === 'message',
    ringNumber: visit?.kind === 'message' && leg.talkEndedAt === null ? ringNumber(deps, c) : null,
    calling: deps.callbacks.callingNow(c.id),
    opening: queue ? localised(queue.connect.toAgent, languages(deps)[0] ?? 'en', languages(deps)) : '',
    wrapUp: queue?.wrapUp ?? USUAL_WRAP_UP,
    filed: leg.outcome,
    outcomes: codesOf(deps, queue?.outcomes ?? null),
    endedAt: leg.talkEndedAt,
    messages,
    lastFrom: messages.at(-1)?.from ?? null,
  };
}
