'use client';

import { clsx } from 'clsx';
import { Link } from '../kit/link';
import type { ToFixView } from '@/services/workspace/tofix';
import { useLive } from '../kit/live';
import { toast } from 'sonner';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { Empty, Panel, Pill } from '../kit/panel';

/** Every configuration fault in one list, those that keep contacts away first, each with the way to mend it. */
export function ToFixPage({ initial }: { initial: ToFixView }) {
  const { data, refetch } = useLive<ToFixView>(
    '/api/read/to-fix',
    ['settings.changed'],
    initial,
    // What fails while it runs is no change of settings.
    10_000,
  );
  const mend = (f: ToFixView['findings'][number]) =>
    setting(f.act.name, f.act.input).then(
      () => {
        toast.success(
          f.act.name === 'try-again' ? `${f.about}: tried again.` : `${f.about}: mended. It can be undone in History.`,
        );
        void refetch();
      },
      (error: unknown) => {
        toast.error(sentence(error));
        void refetch();
      },
    );
  const view = data ?? initial;
  const groups = [
    ['stops', 'Keeps contacts away'],
    ['advice', 'Worth knowing'],
  ] as const;
  return (
    <main className="mx-auto max-w-4xl p-4">
      <Panel className="p-5" label="To fix">
        <div className="flex items-center gap-2">
          <h1 className="text-title">To fix</h1>
          <Pill tone={view.stops > 0 ? 'bad' : 'good'}>
            {view.stops} {view.stops === 1 ? 'keeps' : 'keep'} contacts away
          </Pill>
          {view.advice > 0 && <Pill tone="warn">{view.advice} to know</Pill>}
        </div>
        {view.findings.length === 0 ? (
          <Empty title="Nothing to fix">
            Everybody who should take contacts can be reached, and every queue has somebody for it.
          </Empty>
        ) : (
          groups.map(([weight, title]) => {
            const mine = view.findings.filter((f) => f.weight === weight);
            return (
              mine.length > 0 && (
                <section key={weight} className="mt-4">
                  <h2 className="text-panel">{title}</h2>
                  <ul>
                    {mine.map((f) => (
                      <li
                        key={f.id}
                        aria-label={`${f.about}: ${f.says}`}
                        className="flex items-center gap-3 border-b border-rule py-2 text-small"
                      >
                        <b className="w-44 shrink-0 truncate font-medium">{f.about}</b>
                        <span className="min-w-0 flex-1">{f.says}</span>
                        {f.press && (
                          <Button small onClick={() => void mend(f)}>
                            {f.press}
                          </Button>
                        )}
                        <Link
                          href={f.path}
                          className={clsx(
                            'rounded-control border border-rule-strong px-2 py-0.5 font-display font-semibold',
                            'whitespace-nowrap hover:bg-sunk',
                          )}
                        >
                          {f.fix}
                        </Link>
                      </li>
                    ))}
                  </ul>
                </section>
              )
            );
          })
        )}
      </Panel>
    </main>
  );
}
