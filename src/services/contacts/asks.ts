import { type Connector, type OutsideAnswer, replyOf } from '../../core/bots/connectors';
import type { Reply } from '../../core/bots/conversation';
import { askingContacts } from '../../data/askings';
import { secretOf, STAND_IN, THE_STAND_IN } from '../../data/connectors';
import { readContact } from '../../data/contacts';
import {
  askOf,
  dropItem,
  keepAnswer,
  markReady,
  markSent,
  type OutboxItem,
  outboxItem,
  unsentItems,
} from '../../data/outbox';
import { clearTimer, setTimer } from '../../data/timers';
import type { Outside } from '../bots/outside';
import type { Programs } from '../bots/programs';
import { bind } from '../ground/bind';
import type { Host, Tx } from '../ground/host';
import type { Happening } from './happening';

/**
 * What bots ask outside, and how each ends: with its answer, or with why there is none. A look-up is asked again after
 * a stop; what changes something is asked once at most, and its bot is told that it is unsure.
 */
export type Asks = ReturnType<typeof createAsks>;

/** What the functions of this file are given first. */
export type AsksDeps = {
  readonly host: Host;
  readonly programs: Programs;
  readonly outside: Pick<Outside, 'system' | 'send'>;
  readonly happen: Happening['happen'];
};
type Ask = Extract<OutboxItem, { readonly kind: 'ask' }>;

/** Real ms beyond a connector's own patience after which an answer is given up, whatever became of the asking. */
const GRACE_MS = 5000;

function connectorOf({ host, programs }: AsksDeps, { contactId, body }: Ask): Connector | null {
  const contact = contactId === null ? undefined : readContact(host.db, contactId);
  if (!contact || contact.botId === null || contact.botVersion === null) return null;
  return programs.of(contact.botId, contact.botVersion)?.connectors.get(body.connectorId) ?? null;
}

/** What the bot is told when nothing can be known. */
const unknown = ({ body }: Ask): Reply =>
  body.ask === 'do' ? { to: 'do', outcome: 'unsure', outputs: {} } : { to: 'look-up', outcome: 'failed', outputs: {} };

function settle(deps: AsksDeps, tx: Tx, item: Ask, answer: OutsideAnswer | null): void {
  if (item.contactId === null || item.number === null) return;
  const connector = answer && connectorOf(deps, item);
  dropItem(tx.db, item.id);
  clearTimer(tx.db, 'outside-answers', item.contactId);
  deps.happen(tx, item.contactId, {
    type: 'answer',
    number: item.number,
    reply: answer && connector ? replyOf(connector, answer) : unknown(item),
  });
}

/** Asks what has been written down. Never throws: whatever goes wrong is an answer in words. */
export function sendAsk(deps: AsksDeps, id: number): void {
  const { host, outside } = deps;
  const item = outboxItem(host.db, id);
  if (item?.kind !== 'ask' || item.state !== 'ready') return;
  const faulted = (error: unknown): OutsideAnswer => {
    host.fault(error);
    return { fault: 'it could not be asked' };
  };
  const { request } = item.body;
  if (request.host === '') {
    let found: { readonly answer: OutsideAnswer; readonly seconds: number };
    try {
      found = outside.system.answer(request, STAND_IN.one(host.db, THE_STAND_IN)?.mood ?? 'usual', host.times.floor());
    } catch (error) {
      found = { answer: faulted(error), seconds: 0 };
    }
    // What says nothing of when it answers never does.
    const late = !(found.seconds <= request.timeoutSeconds);
    const answer = late ? { fault: 'no answer came in time' } : found.answer;
    const seconds = late ? request.timeoutSeconds : found.seconds;
    // It answers by the floor's clock, so that a simulated day has its answers too.
    const later = (tx: Tx): void => {
      keepAnswer(tx.db, id, answer);
      setTimer(tx.db, 'outside-answers', item.contactId ?? '', 'floor', tx.floorAt + Math.ceil(seconds * 1000));
    };
    try {
      host.transact((tx) => (seconds <= 0 ? settle(deps, tx, item, answer) : later(tx)));
    } catch (error) {
      // The answer is kept, and taken by its timer, which is set aside and named if that fails as well.
      host.fault(error);
      host.transact(later);
    }
    return;
  }
  host.transact((tx) => {
    markSent(tx.db, id);
    setTimer(
      tx.db,
      'outside-answers',
      item.contactId ?? '',
      'real',
      tx.realAt + request.timeoutSeconds * 1000 + GRACE_MS,
    );
  });
  // `then` holds what throws at once as well, such as a secret that no header takes.
  void Promise.resolve()
    .then(() => outside.send(request, secretOf(host.db, item.body.connectorId)))
    .catch(faulted)
    .then((answer) => {
      // The server may have stopped meanwhile, or the bot no longer waits.
      if (!host.db.open || outboxItem(host.db, id) === undefined) return;
      host.transact((tx) => settle(deps, tx, item, answer));
    })
    .catch(host.fault);
}

/** The instant of an answer has come, or patience is over. */
export function askDue(deps: AsksDeps, tx: Tx, contactId: string): void {
  const item = askOf(tx.db, contactId);
  if (item?.kind === 'ask') settle(deps, tx, item, item.answer ?? { fault: 'no answer came in time' });
}

function resumeAsk(deps: AsksDeps, id: number): void {
  const { host } = deps;
  const item = outboxItem(host.db, id);
  if (item?.kind !== 'ask') return;
  if (item.state === 'sent' && item.body.ask === 'do') return host.transact((tx) => settle(deps, tx, item, null));
  if (item.state === 'sent') host.transact((tx) => markReady(tx.db, id));
  sendAsk(deps, id);
}

/** After a stop: nothing that was being asked is left waiting for ever. */
export function resumeAsks(deps: AsksDeps): void {
  const { host } = deps;
  for (const id of unsentItems(host.db))
    try {
      resumeAsk(deps, id);
    } catch (error) {
      host.fault(error);
    }
  // Asked by an earlier version of the product, which wrote nothing down.
  for (const { contactId, number, ask } of askingContacts(host.db))
    if (askOf(host.db, contactId) === null)
      host.transact((tx) =>
        deps.happen(tx, contactId, {
          type: 'answer',
          number,
          reply:
            ask === 'do'
              ? { to: 'do', outcome: 'unsure', outputs: {} }
              : { to: 'look-up', outcome: 'failed', outputs: {} },
        }),
      );
}

export const createAsks = (deps: AsksDeps) => bind(deps, { sendAsk, askDue, resumeAsks });
