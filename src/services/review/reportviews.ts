import { object } from 'yup';
import { LaneError } from '../../core/errors';
import { localDate } from '../../core/hours/weekly';
import { copyId, REPORT_COPIES, type ReportFigures, type ReportPart, REPORTS, SENT_REPORTS } from '../../data/reports';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly, id } from '../ground/schemas';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';
import { type KeptView, keptViewsOf } from './keptviews';
import { readersOf } from './readers';
import { type Correction, correctionsOf, monthsUpTo, reportFigures } from './reportfigures';

export type { ReportFigures, ReportTable } from '../../data/reports';

export const oneSchema = exactly(object({ id: id('The report') }));
export const mayOpen = (actor: Actor, of: { readonly ownerId: string; readonly forAll: boolean }): boolean =>
  of.forAll || of.ownerId === actor.personId;
const zoneOf = ({ db }: Pick<Host, 'db'>): string => readWorkspace(db)?.zone ?? 'UTC';

/** What a sent report says to whoever reads it: for a thread of its own. */
export function figuresToSend(host: Host, actor: Actor, input: unknown): ReportFigures {
  mustHold(actor, 'review.view');
  const sent = SENT_REPORTS.one(host.db, parse(oneSchema, input).id);
  if (!sent) throw new LaneError('not-found', 'There is no such report.');
  return reportFigures(host, actor, sent.parts, monthsUpTo(localDate(sent.floorAt, zoneOf(host)), sent.months));
}

export type ReportLine = {
  readonly id: string;
  readonly name: string;
  readonly mine: boolean;
  /** Whose it is, where it is somebody else's. */
  readonly owner: string | null;
  readonly forAll: boolean;
  readonly months: number;
  readonly parts: readonly ReportPart[];
};
export type SentLine = {
  readonly id: string;
  readonly name: string;
  readonly floorAt: number;
  readonly by: string;
  readonly to: readonly string[];
  /** Whether the reader's own copy has been made. */
  readonly ready: boolean;
};
export type ReportsView = {
  readonly reports: readonly ReportLine[];
  readonly sent: readonly SentLine[];
  readonly views: readonly Pick<KeptView, 'id' | 'name'>[];
  readonly people: readonly { readonly id: string; readonly name: string }[];
  readonly zone: string;
};

/** One's own reports and those for all; and what one sent, or was sent. */
export function viewReports(host: Host, actor: Actor): ReportsView {
  mustHold(actor, 'review.view');
  const { names } = sightOf(host, actor);
  const nameOf = (personId: string) => names.get(personId) ?? 'somebody';
  const today = localDate(host.times.floor(), zoneOf(host));
  return {
    reports: REPORTS.all(host.db)
      .filter((report) => mayOpen(actor, report))
      .map(({ id: reportId, name, ownerId, forAll, months, parts }) => {
        const mine = ownerId === actor.personId;
        return { id: reportId, name, mine, owner: mine ? null : nameOf(ownerId), forAll, months, parts };
      }),
    sent: SENT_REPORTS.all(host.db)
      .filter((sent) => sent.personIds.includes(actor.personId))
      .map(({ id: sentId, name, floorAt, ownerId, personIds, left }) => ({
        id: sentId,
        name,
        floorAt,
        by: ownerId === actor.personId ? 'you' : nameOf(ownerId),
        to: ownerId === actor.personId ? personIds.filter((one) => one !== ownerId).map(nameOf) : [],
        ready: !left.includes(actor.personId),
      }))
      .sort((a, b) => b.floorAt - a.floorAt),
    views: keptViewsOf(host, actor, today).map(({ id: viewId, name }) => ({ id: viewId, name })),
    people: readersOf(host, actor).filter((p) => p.id !== actor.personId),
    zone: zoneOf(host),
  };
}

export type ReportView = ReportLine & { readonly figures: ReportFigures; readonly hrefs: readonly (string | null)[] };
/** A report as it is now. */
export function viewReport(host: Host, actor: Actor, input: unknown): ReportView {
  mustHold(actor, 'review.view');
  const asked = parse(oneSchema, input);
  const line = viewReports(host, actor).reports.find((report) => report.id === asked.id);
  if (!line) throw new LaneError('not-found', 'There is no such report that you may open.');
  const today = localDate(host.times.floor(), zoneOf(host));
  const hrefs = new Map(keptViewsOf(host, actor, today).map((view) => [view.id, view.href]));
  return {
    ...line,
    figures: reportFigures(host, actor, line.parts, monthsUpTo(today, line.months)),
    hrefs: line.parts.map((part) => hrefs.get(part.viewId) ?? null),
  };
}

export type SentView = SentLine & {
  readonly figures: ReportFigures;
  readonly corrections: readonly Correction[];
  readonly zone: string;
};
/** A report as it was sent to its reader, and what of it is otherwise by now. */
export function viewSentReport(host: Host, actor: Actor, input: unknown): SentView {
  mustHold(actor, 'review.view');
  const asked = parse(oneSchema, input);
  const { sent, zone } = viewReports(host, actor);
  const line = sent.find((one) => one.id === asked.id);
  const copy = REPORT_COPIES.one(host.db, copyId(asked.id, actor.personId));
  const parts = SENT_REPORTS.one(host.db, asked.id)?.parts ?? [];
  if (!line) throw new LaneError('not-found', 'There is no such report that you were sent.');
  if (!copy)
    throw new LaneError(
      'not-found',
      line.ready ? 'When it was sent you might not open Review.' : 'Your copy of this report is still being made.',
    );
  const now = reportFigures(host, actor, parts, copy.figures.months);
  return { ...line, zone, figures: copy.figures, corrections: correctionsOf(copy.figures, now) };
}
