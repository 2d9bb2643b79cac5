'use client';

import type { SentView } from '@/services/review/reportviews';
import { monthName } from '../coaching/months';
import { Button, LinkButton } from '../kit/button';
import { asDayTime, asFigure } from '../kit/figures';
import { Link } from '../kit/link';
import { Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { useHolds } from '../lane/viewer';
import { Definitions, ReportTables } from './reporttable';

/** A report as it was sent: it stays so, and what of it is otherwise by now is said first. */
export function SentReportPage({ sent }: { sent: SentView }) {
  const holds = useHolds();
  return (
    <>
      <StopNav stop="Review" />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <div className="flex flex-wrap items-center gap-2">
          <Link href="/review/reports" className="text-small text-plum print:hidden">
            Reports
          </Link>
          <h1 className="text-title">{sent.name}</h1>
          <span className="text-small text-ink-2">
            as it was sent {asDayTime(sent.floorAt, sent.zone)}
            {sent.by === 'you' ? ` to ${sent.to.join(', ')}` : ` by ${sent.by}`}
          </span>
          <span className="ml-auto flex gap-2 print:hidden">
            {holds('review.export') && (
              <LinkButton small href={`/api/review.csv?kind=sent-report&id=${encodeURIComponent(sent.id)}`}>
                CSV
              </LinkButton>
            )}
            <Button small onClick={() => window.print()}>
              Print
            </Button>
          </span>
        </div>
        {sent.corrections.length > 0 && (
          <Panel className="p-4" label="Corrected since">
            <h2 className="text-panel">Corrected since</h2>
            <ul className="mt-1 text-small">
              {sent.corrections.slice(0, 40).map((one) => (
                <li key={`${one.table} ${one.row} ${one.month.from}`}>
                  {one.table}: {one.row}, {monthName(one.month.from.slice(0, 7))}: {asFigure(one.sent, one.unit)} was
                  sent, {asFigure(one.now, one.unit)} it is now
                </li>
              ))}
              {sent.corrections.length > 40 && <li>and {sent.corrections.length - 40} more</li>}
            </ul>
          </Panel>
        )}
        <ReportTables figures={sent.figures} />
        <Definitions figures={sent.figures} />
      </main>
    </>
  );
}
