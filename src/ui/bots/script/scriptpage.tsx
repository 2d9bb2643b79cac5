'use client';

import { clsx } from 'clsx';
import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import { mended } from '@/core/bots/checks';
import { mayset } from '@/core/bots/graph';
import { allSteps, type BotScript } from '@/core/bots/model';
import { sharedUsed } from '@/core/bots/program';
import type { Traffic } from '@/core/bots/traffic';
import type { Channel } from '@/core/channels';
import type { BotView } from '@/services/bots/botviews';
import { Button } from '../../kit/button';
import { call, sentence } from '../../kit/call';
import { useLive } from '../../kit/live';
import { Panel, Pill } from '../../kit/panel';
import { AroundScript } from './around';
import { AboutDialog, PublishDialog } from './botdialogs';
import { MapView } from './mapview';
import { ScriptView } from './scriptview';
import { focusLine } from './usescript';
import { TestsView } from './testsview';
import { TryIt } from './tryit';
import { BothVersions } from '../../drafts/bothversions';
import { savedWords } from './autosave';
import { namesInScript } from './namesinscript';
import { useDraft } from './usedraft';
import { VersionsView } from './versionsview';
import { Value } from './wordingeditor';
import { WordingTable } from './wordingtable';

const TABS = ['Script', 'Map', 'Wording', 'Tests', 'Versions'] as const;
type Tab = (typeof TABS)[number];

/** A bot as a script, with Try it beside it. The draft is kept as it is made; nobody meets it until it is published. */
export function ScriptPage({ initial, zone, line }: { initial: BotView; zone: string; line: string | null }) {
  const { data, refetch } = useLive<BotView>(`/api/read/bot?id=${initial.bot.id}`, ['settings.changed'], initial);
  const view = data ?? initial;
  const draft = useDraft(initial);
  const { script, faults } = draft;
  const [tab, setTab] = useState<Tab>('Script');
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set(line ? [line] : []));
  const [open, setOpen] = useState<'publish' | 'about' | null>(null);
  const [running, setRunning] = useState<string | null>(null);
  const [fault, setFault] = useState(0);
  const [traffic, setTraffic] = useState<Traffic | null>(null);
  useEffect(() => {
    if (line) focusLine(line);
  }, [line]);
  useEffect(() => {
    call<Traffic>(`/api/read/bot-traffic?id=${initial.bot.id}`).then(setTraffic, (e: unknown) =>
      toast.error(sentence(e)),
    );
  }, [initial.bot.id]);
  const channels: readonly Channel[] = [...new Set(view.doors.map((d) => d.channel))];
  const goTo = (lineId: string) => {
    setTab('Script');
    setChosen(new Set([lineId]));
    requestAnimationFrame(() => focusLine(lineId));
  };

  const stops = faults.filter((f) => f.weight === 'stops');
  const advice = faults.filter((f) => f.weight === 'advice');
  const ordered = [...stops, ...advice];
  const now = ordered[Math.min(fault, ordered.length - 1)];
  const publish = async () => {
    if (draft.saved === 'kept' || (await draft.keep())) {
      await refetch();
      setOpen('publish');
    }
  };
  const differs = view.bot.liveVersion === null || draft.touched || view.draftDiffers;
  const remembers = [...new Set(allSteps(script).flatMap(mayset))];
  const uses = sharedUsed(script, new Map(view.shared.map((s) => [s.id, s])));
  return (
    <AroundScript value={{ script, view, channels, mayChange: view.mayChange }}>
      <main className="grid h-[calc(100vh-64px)] min-h-[560px] grid-cols-[minmax(0,1fr)_350px] gap-3 p-4">
        <Panel className="flex min-h-0 min-w-0 flex-col overflow-hidden" label="Script">
          <div className="border-b border-rule px-4 pt-2.5 pb-2">
            <div className="flex items-center gap-2">
              {view.mayChange ? (
                <input
                  aria-label="Name of the bot"
                  value={draft.name}
                  maxLength={60}
                  size={Math.max(6, draft.name.length)}
                  onChange={(e) => draft.rename(e.target.value)}
                  className="max-w-60 min-w-0 rounded-control bg-transparent font-display text-title font-semibold"
                />
              ) : (
                <h1 className="text-title">{draft.name}</h1>
              )}
              {view.bot.liveVersion === null ? (
                <Pill tone="bad">never published</Pill>
              ) : (
                <Pill tone="good">
                  {view.bot.liveVersion} is live · {view.doors.length} {view.doors.length === 1 ? 'door' : 'doors'}
                </Pill>
              )}
              {differs && view.bot.liveVersion !== null && <Pill tone="warn">draft differs</Pill>}
              <span className="ml-auto flex items-center gap-0.5" role="tablist" aria-label="Views of the bot">
                {TABS.map((t) => (
                  <button
                    key={t}
                    type="button"
                    role="tab"
                    aria-selected={t === tab}
                    onClick={() => setTab(t)}
                    className={clsx(
                      'rounded-control px-2 py-1 text-small',
                      t === tab ? 'bg-plum-wash font-semibold text-plum' : 'hover:bg-sunk',
                    )}
                  >
                    {t}
                    {t === 'Tests' && view.tests.length > 0 ? ` ${view.tests.length}` : ''}
                  </button>
                ))}
              </span>
              {view.mayPublish && (
                <Button kind="primary" onClick={() => void publish()}>
                  Check &amp; publish
                </Button>
              )}
            </div>
            {draft.clash && (
              <BothVersions
                clashes={draft.clash.clashes}
                nameOf={namesInScript(script, view)}
                onTake={draft.clash.take}
              />
            )}
            <div className="mt-1 flex items-center gap-1.5 text-tiny text-ink-2">
              <span className="flex min-w-0 flex-1 items-center gap-1 overflow-hidden whitespace-nowrap">
                {remembers.length > 0 && (
                  <>
                    Remembers{' '}
                    {remembers.slice(0, 7).map((n) => (
                      <Value key={n} name={n} />
                    ))}
                    {remembers.length > 7 && `and ${remembers.length - 7} more`}
                  </>
                )}
                {uses.length > 0 && (
                  <span className="ml-2">
                    Uses{' '}
                    {uses.map((s) => (
                      <span key={s.id} className="ml-1 rounded bg-plum-wash px-1.5 text-plum">
                        {s.name}
                      </span>
                    ))}
                  </span>
                )}
              </span>
              <span role="status" className="text-ink-3">
                {savedWords(draft)}
              </span>
              {view.mayChange && (
                <>
                  <Button kind="quiet" small disabled={!draft.undo} onClick={() => draft.undo?.()}>
                    Undo
                  </Button>
                  <Button kind="quiet" small disabled={!draft.redo} onClick={() => draft.redo?.()}>
                    Redo
                  </Button>
                </>
              )}
              <Button kind="quiet" small onClick={() => setOpen('about')}>
                About
              </Button>
            </div>
          </div>
          <div
            className="min-h-0 flex-1 overflow-y-auto"
            tabIndex={tab === 'Script' ? 0 : -1}
            role="region"
            aria-label={tab === 'Script' ? 'Scenes and lines' : tab}
          >
            {tab === 'Script' && (
              <ScriptView
                faults={faults}
                traffic={traffic}
                running={running}
                chosen={chosen}
                onChosen={setChosen}
                onChange={draft.change}
              />
            )}
            {tab === 'Map' && (
              <MapView
                faults={faults}
                traffic={traffic}
                chosen={chosen}
                running={running}
                onChosen={setChosen}
                onChange={draft.change}
              />
            )}
            {tab === 'Wording' && (
              <WordingTable
                script={script}
                channels={channels}
                mayChange={view.mayChange}
                onChange={draft.change}
                onLine={goTo}
              />
            )}
            {tab === 'Tests' && <TestsView view={view} script={script} onChanged={() => void refetch()} />}
            {tab === 'Versions' && (
              <VersionsView
                view={view}
                zone={zone}
                onTake={(taken: BotScript) => draft.change(taken)}
                onChanged={() => void refetch()}
                onLine={goTo}
              />
            )}
          </div>
          <div
            className={`flex items-center gap-2 border-t border-rule px-4 py-2 text-small ${stops.length > 0 ? 'bg-clay-wash' : ''}`}
            role="status"
            aria-label="What the checks found"
          >
            {stops.length > 0 && (
              <Pill tone="bad">
                {stops.length} {stops.length === 1 ? 'stops' : 'stop'} contacts
              </Pill>
            )}
            {advice.length > 0 && <Pill tone="warn">{advice.length} advice</Pill>}
            <span className="min-w-0 flex-1">{now?.sentence ?? 'No fault found in this script.'}</span>
            {now?.fix && view.mayChange && (
              <Button
                small
                onClick={() => {
                  if (now.fix) draft.change(mended(script, now.fix));
                }}
              >
                {now.fix.label}
              </Button>
            )}
            {now?.lineId && (
              <Button small onClick={() => goTo(now.lineId ?? '')}>
                Show
              </Button>
            )}
            {ordered.length > 1 && (
              <Button small onClick={() => setFault((Math.min(fault, ordered.length - 1) + 1) % ordered.length)}>
                Next
              </Button>
            )}
          </div>
        </Panel>
        <TryIt botId={view.bot.id} onLine={setRunning} onKept={() => void refetch()} />
        {open === 'publish' && (
          <PublishDialog
            view={view}
            faults={faults}
            revision={draft.revision()}
            zone={zone}
            onClose={() => setOpen(null)}
            onDone={() => {
              setOpen(null);
              draft.settled();
              void refetch();
            }}
          />
        )}
        {open === 'about' && (
          <AboutDialog script={script} view={view} onChange={draft.change} onClose={() => setOpen(null)} />
        )}
      </main>
    </AroundScript>
  );
}
