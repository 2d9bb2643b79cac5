import { object } from 'yup';
import { type Line, LINES } from '../../core/contact/contact';
import { LaneError } from '../../core/errors';
import { fieldValue } from '../../core/fieldvalue';
import { localTime } from '../../core/hours/weekly';
import { placeholdersIn, unfilled } from '../../core/messages/stockreplies';
import { cannotFile } from '../../core/outcomes';
import { DUTY_STATES, type DutyState } from '../../core/people/duty';
import { AWAY_REASONS, STOCK_SETS } from '../../data/duty';
import { countReplyUse } from '../../data/replyuses';
import { type Leg, readLeg } from '../../data/legs';
import { GROUPS } from '../../data/groups';
import { transcriptEnd } from '../../data/messages';
import { ownRepliesOf } from '../../data/ownreplies';
import { readOutcomes } from '../../data/outcomes';
import { writePassNote } from '../../data/passnotes';
import { readPerson } from '../../data/people';
import { writeSummary } from '../../data/summaries';
import { writeValue } from '../../data/values';
import { openOfferOf, readVisit } from '../../data/visits';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold } from '../ground/actor';
import type { Tx } from '../ground/host';
import { once } from '../ground/once';
import { exactly, id, oneOf, requiredText, text } from '../ground/schemas';
import { parse } from '../ground/validate';
import { MOST_MESSAGES } from './channel';
import { contact, contactSeconds, type DeskDeps, fieldsOf, languages } from './deskcontact';
import { claimableBy } from './deskview';
import { dropOwnReply, keepOwnReply, OWN_REPLY_ACTS } from './ownreplies';
import { mustTake, passTargets, type PassTargets } from './passing';
import { keepPrivate, withTokens } from './privatevalues';

const ACTS = {
  ...OWN_REPLY_ACTS,
  duty: exactly(
    object({
      act: oneOf(['duty'], 'act'),
      duty: oneOf<DutyState>(DUTY_STATES, 'The state'),
      reason: text(60, 'The reason').optional(),
    }),
  ),
  accept: exactly(object({ act: oneOf(['accept'], 'act'), offerId: id('The offer') })),
  decline: exactly(object({ act: oneOf(['decline'], 'act'), offerId: id('The offer') })),
  say: exactly(
    object({
      act: oneOf(['say'], 'act'),
      legId: id('The contact'),
      text: requiredText(4000, 'The text'),
      /** The stock reply that it is from. */ replyId: text(80, 'The stock reply').optional(),
    }),
  ),
  end: exactly(object({ act: oneOf(['end'], 'act'), legId: id('The contact') })),
  line: exactly(
    object({ act: oneOf(['line'], 'act'), legId: id('The contact'), line: oneOf<Line>(LINES, 'The line') }),
  ),
  file: exactly(
    object({ act: oneOf(['file'], 'act'), legId: id('The contact'), code: requiredText(8, 'The outcome code') }),
  ),
  claim: exactly(object({ act: oneOf(['claim'], 'act'), visitId: id('The contact') })),
  finish: exactly(object({ act: oneOf(['finish'], 'act'), legId: id('The contact') })),
  note: exactly(
    object({
      act: oneOf(['note'], 'act'),
      legId: id('The contact'),
      name: requiredText(60, 'The field'),
      value: text(500, 'The value').defined(),
    }),
  ),
  summarise: exactly(
    object({
      act: oneOf(['summarise'], 'act'),
      legId: id('The contact'),
      words: requiredText(2000, 'The summary'),
    }),
  ),
  'ring-back': exactly(object({ act: oneOf(['ring-back'], 'act'), legId: id('The contact') })),
  'pass-on': exactly(
    object({
      act: oneOf(['pass-on'], 'act'),
      legId: id('The contact'),
      queueId: id('The queue'),
      personId: text(80, 'The person').optional(),
      groupId: text(80, 'The group').optional(),
      /** Read first by whoever takes it; the customer never sees it. */
      note: text(1000, 'The note').optional(),
    }),
  ),
} as const;

const isAct = (name: unknown): name is keyof typeof ACTS => typeof name === 'string' && Object.hasOwn(ACTS, name);

function myLeg({ host }: DeskDeps, actor: Actor, legId: string): Leg {
  const leg = readLeg(host.db, legId);
  if (!leg || leg.personId !== actor.personId || leg.endedAt !== null)
    throw new LaneError('not-found', 'This contact is not with you any more.');
  return leg;
}

function talking(deps: DeskDeps, actor: Actor, legId: string): Leg {
  const leg = myLeg(deps, actor, legId);
  if (leg.talkEndedAt !== null) throw new LaneError('not-now', 'This conversation has ended; file its outcome.');
  return leg;
}

/** Keeps what a conversation came to by its own words, where that helper is on and nobody has said it. */
function keepOwnSummary(deps: DeskDeps, tx: Tx, leg: Leg): void {
  const person = readPerson(tx.db, leg.personId);
  const made = person && contact(deps, leg, deps.desks.layoutFor(person))?.summary;
  if (made)
    writeSummary(tx.db, leg.contactId, {
      words: withTokens(tx.db, leg.contactId, made),
      personId: null,
      at: tx.floorAt,
    });
}

/** Counts the use of a stock reply. Throws `not-valid` where something of it is still to be filled. */
function useReply(tx: Tx, personId: string, replyId: string, words: string): void {
  const own = ownRepliesOf(tx.db, personId).find((r) => r.id === replyId);
  const reply = STOCK_SETS.all(tx.db)
    .flatMap((set) => set.replies)
    .find((r) => r.id === replyId);
  if (!reply && !own) return;
  const texts = own ? [own.text] : Object.values(reply?.text ?? {});
  const left = unfilled(words, texts.flatMap(placeholdersIn));
  if (left.length > 0)
    throw new LaneError('not-valid', `Fill in ${left.map((name) => `{${name}}`).join(', ')} before it is sent.`);
  countReplyUse(tx.db, replyId, tx.floorAt);
}

/** Where a contact that the actor has open can be passed on to. */
export function targetsOf(deps: DeskDeps, actor: Actor, legId: string): PassTargets {
  mustHold(actor, 'desk.work');
  return passTargets(deps, talking(deps, actor, legId));
}

function offered({ host }: DeskDeps, actor: Actor, offerId: string): void {
  if (openOfferOf(host.db, actor.personId)?.id !== offerId)
    throw new LaneError('not-now', 'This offer is over: the customer left, or the time to accept ran out.');
}

/** Carries out one act of the Desk, once per key. Throws `not-now` when the moment has passed. */
export function actAtDesk(
  deps: DeskDeps,
  actor: Actor,
  input: unknown,
  key: string | null,
): { done: true; legId: string | null } {
  mustHold(actor, 'desk.work');
  const name = typeof input === 'object' && input !== null && 'act' in input ? input.act : undefined;
  if (!isAct(name))
    throw new LaneError('not-valid', `act must be one of ${Object.keys(ACTS).join(', ')}.`, [
      { where: 'act', what: 'is not known' },
    ]);
  return once(deps.host, key, `person ${actor.personId}`, input, (tx) => {
    let legId: string | null = null;
    switch (name) {
      case 'duty': {
        const { duty, reason } = parse(ACTS.duty, input);
        const known = AWAY_REASONS.all(tx.db).map((r) => r.name);
        if (duty === 'away' && reason !== undefined && known.length > 0 && !known.includes(reason))
          throw new LaneError('not-valid', `There is no away reason ${reason}.`, [
            { where: 'reason', what: 'is not known' },
          ]);
        if (duty === 'ready') deps.floor.beat(actor.personId);
        deps.floor.setDuty(tx, actor.personId, duty, duty === 'away' ? (reason ?? known[0] ?? 'Break') : null);
        break;
      }
      case 'accept':
        offered(deps, actor, parse(ACTS.accept, input).offerId);
        legId = deps.floor.accept(tx, actor.personId);
        break;
      case 'decline':
        offered(deps, actor, parse(ACTS.decline, input).offerId);
        deps.floor.turnDown(tx, actor.personId, 'declined');
        break;
      case 'say': {
        const say = parse(ACTS.say, input);
        const leg = talking(deps, actor, say.legId);
        if (transcriptEnd(tx.db, leg.contactId).count >= MOST_MESSAGES)
          throw new LaneError('too-large', `A conversation has at most ${MOST_MESSAGES} messages. End this one.`);
        if (say.replyId !== undefined) useReply(tx, actor.personId, say.replyId, say.text);
        deps.contacts.happen(tx, leg.contactId, { type: 'person-says', legId: leg.id, text: say.text });
        break;
      }
      case 'end': {
        const leg = talking(deps, actor, parse(ACTS.end, input).legId);
        deps.contacts.happen(tx, leg.contactId, { type: 'talk-ends', legId: leg.id, how: 'resolved' });
        break;
      }
      case 'line': {
        const { legId: of, line } = parse(ACTS.line, input);
        const leg = talking(deps, actor, of);
        deps.contacts.happen(tx, leg.contactId, { type: 'line', legId: leg.id, line });
        break;
      }
      case 'file': {
        const file = parse(ACTS.file, input);
        const leg = myLeg(deps, actor, file.legId);
        const outcome = readOutcomes(tx.db).find((o) => o.code === file.code);
        if (!outcome)
          throw new LaneError('not-valid', `There is no outcome code ${file.code}.`, [
            { where: 'code', what: 'is not known' },
          ]);
        const bar = cannotFile(outcome, contactSeconds(deps, leg));
        if (bar)
          throw new LaneError('not-valid', `${file.code} cannot be filed: ${bar}.`, [{ where: 'code', what: bar }]);
        keepOwnSummary(deps, tx, leg);
        deps.contacts.happen(tx, leg.contactId, { type: 'outcome', legId: leg.id, outcome: file.code });
        break;
      }
      case 'summarise': {
        const { legId: of, words } = parse(ACTS.summarise, input);
        const leg = myLeg(deps, actor, of);
        writeSummary(tx.db, leg.contactId, {
          words: withTokens(tx.db, leg.contactId, words),
          personId: actor.personId,
          at: tx.floorAt,
        });
        tx.emit({ type: 'value.set', contactId: leg.contactId, name: 'summary' });
        break;
      }
      case 'ring-back': {
        const leg = talking(deps, actor, parse(ACTS['ring-back'], input).legId);
        deps.contacts.happen(tx, leg.contactId, { type: 'ring-back', legId: leg.id });
        break;
      }
      case 'keep-own-reply':
        keepOwnReply(tx, actor, input);
        break;
      case 'drop-own-reply':
        dropOwnReply(tx, actor, input);
        break;
      case 'claim': {
        const { visitId } = parse(ACTS.claim, input);
        if (!claimableBy(deps, actor.personId).some((v) => v.id === visitId))
          throw new LaneError('not-now', 'Somebody else has it, the customer left, or it is not yours to take.');
        legId = tx.ids('leg');
        deps.floor.run(tx, { type: 'claim', visitId, personId: actor.personId, legId });
        break;
      }
      case 'finish': {
        const leg = myLeg(deps, actor, parse(ACTS.finish, input).legId);
        keepOwnSummary(deps, tx, leg);
        deps.contacts.happen(tx, leg.contactId, { type: 'wrap-up-ends', legId: leg.id });
        break;
      }
      case 'note': {
        const note = parse(ACTS.note, input);
        const leg = myLeg(deps, actor, note.legId);
        const field = fieldsOf(deps, readVisit(tx.db, leg.visitId)?.queueId).find(
          (f) => f.name === note.name && f.filledBy.includes('agent'),
        );
        if (!field)
          throw new LaneError('not-valid', 'This field is not filled in here.', [
            { where: 'name', what: 'is not known' },
          ]);
        const value =
          note.value === ''
            ? ''
            : fieldValue(field.type, note.value, {
                language: languages(deps)[0] ?? 'en',
                local: localTime(tx.floorAt, readWorkspace(tx.db)?.zone ?? 'UTC'),
                country: readWorkspace(tx.db)?.country ?? '',
              });
        if (value === null)
          throw new LaneError('not-valid', `“${note.value}” cannot be read as ${field.label.toLowerCase()}.`, [
            { where: 'value', what: 'cannot be read' },
          ]);
        if (field.private) keepPrivate(tx, leg.contactId, field.name, String(value));
        else writeValue(tx.db, leg.contactId, field.name, withTokens(tx.db, leg.contactId, String(value)));
        tx.emit({ type: 'value.set', contactId: leg.contactId, name: field.name });
        break;
      }
      case 'pass-on': {
        const pass = parse(ACTS['pass-on'], input);
        const leg = talking(deps, actor, pass.legId);
        const { queueId, personId = null, groupId = null, note } = pass;
        if (personId !== null) mustTake(deps, leg, queueId, personId);
        if (groupId !== null && !GROUPS.one(tx.db, groupId))
          throw new LaneError('not-found', 'There is no such group.');
        if (note?.trim())
          writePassNote(tx.db, leg.contactId, { personId: actor.personId, words: note.trim(), at: tx.floorAt });
        deps.contacts.happen(tx, leg.contactId, { type: 'passed-on', legId: leg.id, queueId, personId, groupId });
        break;
      }
    }
    return { done: true as const, legId };
  });
}
