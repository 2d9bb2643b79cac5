'use client';

import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import { toast } from 'sonner';
import type { ReportsView, ReportView } from '@/services/review/reportviews';
import { Button, LinkButton } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Link } from '../kit/link';
import { Picks } from '../kit/picks';
import { StopNav } from '../lane/stopnav';
import { useHolds } from '../lane/viewer';
import { type ReportForm, WriteReport } from './reportform';
import { Definitions, ReportTables } from './reporttable';

/** A report as it is now; its writer changes and sends it here. */
export function ReportPage({ report, all }: { report: ReportView; all: ReportsView }) {
  const router = useRouter();
  const holds = useHolds();
  const [doing, setDoing] = useState<'change' | 'send' | 'forget' | null>(null);
  const act = (name: string, input: object, done: () => void) =>
    void setting(name, input).then(done, (fault: unknown) => toast.error(sentence(fault)));
  const keep = (form: ReportForm) =>
    act('keep-report', form, () => {
      setDoing(null);
      router.refresh();
    });
  return (
    <>
      <StopNav stop="Review" />
      <main className="flex flex-col gap-3 p-4 pt-2.5">
        <div className="flex flex-wrap items-center gap-2">
          <Link href="/review/reports" className="text-small text-plum print:hidden">
            Reports
          </Link>
          <h1 className="text-title">{report.name}</h1>
          <span className="text-small text-ink-2">{report.owner ? `by ${report.owner}, ` : ''}as it is now</span>
          <span className="ml-auto flex gap-2 print:hidden">
            {holds('review.export') && (
              <LinkButton small href={`/api/review.csv?kind=report&id=${encodeURIComponent(report.id)}`}>
                CSV
              </LinkButton>
            )}
            <Button small onClick={() => window.print()}>
              Print
            </Button>
            {report.mine && (
              <>
                <Button small onClick={() => setDoing('forget')}>
                  Forget
                </Button>
                <Button small onClick={() => setDoing('change')}>
                  Change
                </Button>
                <Button small kind="primary" onClick={() => setDoing('send')}>
                  Send…
                </Button>
              </>
            )}
          </span>
        </div>
        <ReportTables figures={report.figures} hrefs={report.hrefs} />
        <Definitions figures={report.figures} />
        {doing === 'change' && (
          <WriteReport report={report} views={all.views} onKeep={keep} onClose={() => setDoing(null)} />
        )}
        {doing === 'send' && (
          <Send
            name={report.name}
            people={all.people}
            onClose={() => setDoing(null)}
            onSend={(personIds) =>
              act('send-report', { id: report.id, personIds }, () => {
                toast.success(`${report.name} is being sent.`);
                router.push('/review/reports');
              })
            }
          />
        )}
        {doing === 'forget' && (
          <Dialog
            open
            onClose={() => setDoing(null)}
            title={`Forget ${report.name}?`}
            description="What you wrote in it goes with it. What was sent of it stays with whoever has it."
          >
            <div className="flex gap-2">
              <Button
                kind="primary"
                onClick={() => act('drop-report', { id: report.id }, () => router.push('/review/reports'))}
              >
                Forget it
              </Button>
              <Button onClick={() => setDoing(null)}>Keep it</Button>
            </div>
          </Dialog>
        )}
      </main>
    </>
  );
}

function Send({
  name,
  people,
  onSend,
  onClose,
}: {
  name: string;
  people: ReportsView['people'];
  onSend: (personIds: readonly string[]) => void;
  onClose: () => void;
}) {
  const [to, setTo] = useState<readonly string[]>([]);
  const send = (event: FormEvent) => {
    event.preventDefault();
    onSend(to);
  };
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Send ${name}`}
      description="Each has it for good as they can see it now, and you as you do. What is corrected later is said beside it."
    >
      <form onSubmit={send} className="flex flex-col gap-3">
        <Picks
          label="To whom"
          of={people}
          picked={to}
          onPicked={setTo}
          takeOut={(person) => `Do not send it to ${person}`}
          none="Nobody yet"
        />
        <div className="flex gap-2">
          <Button kind="primary" type="submit" disabled={to.length === 0}>
            Send
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
