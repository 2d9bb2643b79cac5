import { array, boolean, number, object } from 'yup';
import { LaneError } from '../../core/errors';
import { KEPT_VIEWS } from '../../data/keptviews';
import { readPerson } from '../../data/people';
import { copyId, REPORT_COPIES, type ReportFigures, REPORTS, SENT_REPORTS } from '../../data/reports';
import { type Actor, actorOf, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id, requiredText, text } from '../ground/schemas';
import { parse } from '../ground/validate';
import type { MailedViewsDeps } from './mailedviews';
import { readersOf } from './readers';
import { mayOpen, oneSchema } from './reportviews';

/** As many months as a range may have, and as many views as are read one after the other. */
const MOST_MONTHS = 13;
const MOST_PARTS = 12;
const MOST_PEOPLE = 100;

const keepSchema = exactly(
  object({
    /** None for a new one. */
    id: id('The report').nullable().defined('Which report is missing'),
    name: requiredText(60, 'The name'),
    forAll: boolean().required('It must be said for whom it is kept'),
    months: number()
      .integer()
      .min(1, 'A report has at least one month')
      .max(MOST_MONTHS, `A report has at most ${MOST_MONTHS} months`)
      .required('How many months is missing'),
    parts: array(
      exactly(object({ viewId: id('The view'), said: text(2000, 'What is said').defined('What is said is missing') })),
    )
      .min(1, 'A report has at least one view')
      .max(MOST_PARTS, `A report has at most ${MOST_PARTS} views`)
      .required('Its views are missing'),
  }),
);
const sendSchema = exactly(
  object({
    id: id('The report'),
    personIds: array(id('A person'))
      .min(1, 'Somebody must have it')
      .max(MOST_PEOPLE, `At most ${MOST_PEOPLE} people`)
      .required('To whom is missing'),
  }),
);

function ownReport(host: Pick<Host, 'db'>, actor: Actor, reportId: string) {
  const report = REPORTS.one(host.db, reportId);
  if (report?.ownerId !== actor.personId) throw new LaneError('not-found', 'There is no such report of yours.');
  return report;
}

/** Keeps a report of one's own: a new one, or one as it is now. */
export function keepReport(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'review.view');
  const { id: known, name, forAll, months, parts } = parse(keepSchema, input);
  if (known !== null) ownReport(host, actor, known);
  const before = new Set(known === null ? [] : (REPORTS.one(host.db, known)?.parts ?? []).map((p) => p.viewId));
  const gone = parts.findIndex(({ viewId }) => {
    const view = KEPT_VIEWS.one(host.db, viewId);
    // A view that went away later does not keep the others from being changed.
    return !(view && mayOpen(actor, view)) && !before.has(viewId);
  });
  if (gone >= 0)
    throw new LaneError('not-valid', 'A report is made of kept views that you may open.', [
      { where: `parts[${gone}].viewId`, what: 'is none' },
    ]);
  return host.transact((tx) => {
    const reportId = known ?? tx.ids('report');
    REPORTS.write(tx.db, reportId, name, { ownerId: actor.personId, forAll, months, parts });
    return { id: reportId };
  });
}

/** Forgets a report of one's own. What was sent of it stays. */
export function dropReport(host: Host, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'review.view');
  const asked = parse(oneSchema, input);
  ownReport(host, actor, asked.id);
  return host.transact((tx) => {
    REPORTS.remove(tx.db, asked.id);
    return { id: asked.id };
  });
}

/**
 * Sends a report of one's own: each of those named, and its sender, has it for good as they can see it now, with a mail that
 * says where it is.
 */
export function sendReport(deps: MailedViewsDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'review.view');
  const { host } = deps;
  const { id: reportId, personIds } = parse(sendSchema, input);
  const { name, months, parts } = ownReport(host, actor, reportId);
  const may = new Set(readersOf(host, actor).map((p) => p.id));
  if (personIds.some((personId) => !may.has(personId)))
    throw new LaneError('not-valid', 'Only people of your teams who may open Review are sent a report.', [
      { where: 'personIds', what: 'may not open Review' },
    ]);
  return host.transact((tx) => {
    const sentId = tx.ids('sent');
    const to = [...new Set([actor.personId, ...personIds])];
    const { personId: ownerId } = actor;
    SENT_REPORTS.write(tx.db, sentId, name, {
      reportId,
      ownerId,
      floorAt: tx.floorAt,
      personIds: to,
      left: to,
      months,
      parts,
    });
    tx.onceKept(() => void freeze(deps, sentId).catch(host.fault));
    return { id: sentId };
  });
}

/** Makes the copies of a sent report that are still missing, and mails where they are. */
async function freeze({ host, reading, outbox, linkTo }: MailedViewsDeps, sentId: string): Promise<void> {
  const sent = SENT_REPORTS.one(host.db, sentId);
  if (!sent) return;
  let ofAll: ReportFigures | null = null;
  for (const personId of sent.left) {
    const reader = actorOf(host.db, personId);
    // Whoever may not open Review any more has none.
    const may = reader?.rights.includes('review.view') ?? false;
    const seesAll = reader?.teams === 'all';
    let figures: ReportFigures | null = seesAll ? ofAll : null;
    try {
      if (reader && may) figures ??= await reading('report-to-send', reader, { id: sentId });
    } catch (error) {
      // The others have theirs all the same; this one's is made after the next start.
      host.fault(error);
      continue;
    }
    if (seesAll) ofAll = figures;
    if (!host.db.open) return;
    host.transact((tx) => {
      const now = SENT_REPORTS.one(tx.db, sentId);
      if (!now?.left.includes(personId)) return;
      const { id: _id, name, place: _place, revision: _revision, ...rest } = now;
      SENT_REPORTS.write(tx.db, sentId, name, { ...rest, left: rest.left.filter((one) => one !== personId) });
      if (!may || !figures) return;
      REPORT_COPIES.write(tx.db, copyId(sentId, personId), name, { figures });
      const address = readPerson(tx.db, personId)?.email;
      if (address && personId !== sent.ownerId)
        outbox.mail(tx, address, `Report: ${name}`, `${name}\n\n${linkTo(`/review/reports/sent/${sentId}`)}`);
    });
  }
}
/** After a start: whoever was to have a copy and has none gets it. */
export async function resumeReports(deps: MailedViewsDeps): Promise<void> {
  for (const sent of SENT_REPORTS.all(deps.host.db)) await freeze(deps, sent.id);
}
