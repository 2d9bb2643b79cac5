'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { ReportsView } from '@/services/review/reportviews';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { asDayTime } from '../kit/figures';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Empty, Panel } from '../kit/panel';
import { StopNav } from '../lane/stopnav';
import { type ReportForm, WriteReport } from './reportform';

/** How often it is looked whether a copy has been made, ms. */
const LOOK_MS = 1000;

/** Reports that one wrote or may read, and what one sent or was sent. */
export function ReportsPage({ initial }: { initial: ReportsView }) {
  const router = useRouter();
  const [writing, setWriting] = useState(false);
  const [making, setMaking] = useState(initial.sent.some((sent) => !sent.ready));
  const { data, refetch } = useLive<ReportsView>('/api/read/reports', [], initial, making ? LOOK_MS : false);
  // One comes back here from writing or sending.
  useEffect(() => void refetch(), [refetch]);
  const view = data ?? initial;
  const unready = view.sent.some((sent) => !sent.ready);
  if (unready !== making) setMaking(unready);
  const keep = (form: ReportForm) =>
    void setting<{ id: string }>('keep-report', form).then(
      ({ id }) => router.push(`/review/reports/${encodeURIComponent(id)}`),
      (fault: unknown) => toast.error(sentence(fault)),
    );
  return (
    <>
      <StopNav stop="Review" />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <div className="flex flex-wrap items-center gap-3">
          <h1 className="text-title">Reports</h1>
          <p className="text-small text-ink-2">Kept views in order, month by month, with what you say of them.</p>
          <span className="ml-auto">
            <Button kind="primary" onClick={() => setWriting(true)}>
              New report
            </Button>
          </span>
        </div>
        <div className="grid items-start gap-3 lg:grid-cols-2">
          <Panel className="min-w-0">
            <h2 className="px-4 pt-3.5 pb-1 text-panel">Reports</h2>
            {view.reports.length === 0 ? (
              <Empty title="No report yet">
                A report stands on views that are kept: under “Views” on a page of Review.
              </Empty>
            ) : (
              <ul className="px-4 pb-3">
                {view.reports.map((report) => (
                  <li key={report.id} className="flex items-baseline gap-3 border-t border-rule py-1.5 first:border-0">
                    <Link href={`/review/reports/${encodeURIComponent(report.id)}`} className="font-medium text-plum">
                      {report.name}
                    </Link>
                    <span className="text-small text-ink-2">
                      {report.parts.length === 1 ? 'one view' : `${report.parts.length} views`} ·{' '}
                      {report.months === 1 ? 'one month' : `${report.months} months`}
                    </span>
                    <span className="ml-auto text-tiny text-ink-2">
                      {report.owner ?? (report.forAll ? 'yours, for all' : 'yours')}
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </Panel>
          <Panel className="min-w-0">
            <h2 className="px-4 pt-3.5 pb-1 text-panel">Sent</h2>
            {view.sent.length === 0 ? (
              <Empty title="Nothing sent yet">What is sent stays as it was, with how its figures were made.</Empty>
            ) : (
              <ul className="px-4 pb-3">
                {view.sent.map((sent) => (
                  <li key={sent.id} className="flex items-baseline gap-3 border-t border-rule py-1.5 first:border-0">
                    {sent.ready ? (
                      <Link
                        href={`/review/reports/sent/${encodeURIComponent(sent.id)}`}
                        className="font-medium whitespace-nowrap text-plum"
                      >
                        {sent.name}
                      </Link>
                    ) : (
                      <span className="text-ink-2">{sent.name}, being made…</span>
                    )}
                    <span className="text-small text-ink-2">
                      {sent.by === 'you' ? `to ${sent.to.join(', ')}` : `by ${sent.by}`}
                    </span>
                    <span className="ml-auto text-tiny whitespace-nowrap text-ink-2">
                      {asDayTime(sent.floorAt, view.zone)}
                    </span>
                  </li>
                ))}
              </ul>
            )}
          </Panel>
        </div>
        {writing && <WriteReport report={null} views={view.views} onKeep={keep} onClose={() => setWriting(false)} />}
      </main>
    </>
  );
}
