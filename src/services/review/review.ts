import { readWorkspace } from '../../data/workspace';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { behindFigure } from './behindfigure';
import { reviewCsv } from './csv';
import { viewEach } from './each';
import { explainFigures } from './figurewords';
import { setFigureGoal, undoableGoals } from './figuregoals';
import { dropView, firstView, keepView } from './keptviews';
import { beginWithView, mailDue, type MailedViewsDeps, mailView, resumeMails, viewMailing } from './mailedviews';
import { markDays, unmarkDays } from './markeddays';
import { viewReview } from './overview';
import { dropReport, keepReport, resumeReports, sendReport } from './reports';
import { viewSubject } from './subject';

/** The zone in which days begin and times are shown. */
export const zone = ({ db }: Host): string => readWorkspace(db)?.zone ?? 'UTC';

/** The workspace's languages, the first of them the one to fall back to. */
export const languages = ({ db }: Host): readonly string[] => readWorkspace(db)?.languages ?? ['en'];

export const createReview = (mails: MailedViewsDeps) => ({
  undoable: undoableGoals,
  ...bind(mails, { mailView, mailing: viewMailing, mailDue, sendReport }),
  /** After a start: what was due and has not been mailed is. */
  resumeMails: (): void => void resumeMails(mails).catch(mails.host.fault),
  /** Whoever was to have a copy of a report and has none gets it. */
  resumeReports: (): void => void resumeReports(mails).catch(mails.host.fault),
  ...bind(mails.host, {
    zone,
    languages,
    view: viewReview,
    each: viewEach,
    subject: viewSubject,
    behind: behindFigure,
    csv: reviewCsv,
    keepView,
    dropView,
    keepReport,
    dropReport,
    markDays,
    unmarkDays,
    setGoal: setFigureGoal,
    beginWithView,
    explain: explainFigures,
    firstView,
  }),
});
