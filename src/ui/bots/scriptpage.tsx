'use client';

import { useCallback, useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { BotFault } from '@/core/bots/checks';
import type { BotScript } from '@/core/bots/model';
import { languageName } from '@/core/localised';
import type { BotView } from '@/services/bots';
import { Button } from '../kit/button';
import { call, Refused, sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Check, Field, Input, Select } from '../kit/field';
import { asDayTime } from '../kit/figures';
import { useLive } from '../kit/live';
import { Panel, Pill } from '../kit/panel';
import { ScriptView } from './scriptview';
import { TryIt } from './tryit';

/** Real ms after the last edit at which the draft is kept. */
const SETTLE_MS = 700;
const LANGUAGES = ['en', 'es', 'fr', 'pl'];

/** A bot as a script, with Try it beside it. The draft is kept as it is made; nobody meets it until it is published. */
export function ScriptPage({ initial, zone }: { initial: BotView; zone: string }) {
  const { data, refetch } = useLive<BotView>(`/api/read/bot?id=${initial.bot.id}`, ['settings.changed'], initial);
  const view = data ?? initial;
  const [script, setScript] = useState<BotScript>(initial.bot.draft);
  const [name, setName] = useState(initial.bot.name);
  const [past, setPast] = useState<BotScript[]>([]);
  const [future, setFuture] = useState<BotScript[]>([]);
  const [faults, setFaults] = useState<readonly BotFault[]>(initial.faults);
  const [saved, setSaved] = useState<'kept' | 'pending' | 'saving' | 'failed'>('kept');
  const [savedAt, setSavedAt] = useState<string | null>(null);
  const [open, setOpen] = useState<'publish' | 'versions' | 'about' | null>(null);
  const [running, setRunning] = useState<string | null>(null);
  const revision = useRef(initial.bot.revision);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const latest = useRef({ script, name });
  latest.current = { script, name };

  const keep = useCallback(async (): Promise<boolean> => {
    clearTimeout(timer.current);
    timer.current = undefined;
    setSaved('saving');
    try {
      const done = await setting<{ revision: number; faults: BotFault[] }>('save-bot', { id: initial.bot.id, revision: revision.current, name: latest.current.name, draft: latest.current.script });
      revision.current = done.revision;
      setFaults(done.faults);
      setSaved(timer.current === undefined ? 'kept' : 'pending');
      setSavedAt(new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }));
      return true;
    } catch (error) {
      setSaved('failed');
      toast.error(sentence(error), error instanceof Refused && error.code === 'changed-meanwhile' ? { duration: Infinity, action: { label: 'Take their version', onClick: () => window.location.reload() } } : {});
      return false;
    }
  }, [initial.bot.id]);
  const soon = () => { setSaved('pending'); clearTimeout(timer.current); timer.current = setTimeout(() => void keep(), SETTLE_MS); };
  const change = (next: BotScript) => { setPast((p) => [...p.slice(-99), script]); setFuture([]); setScript(next); soon(); };
  const undo = () => { const before = past.at(-1); if (!before) return; setPast(past.slice(0, -1)); setFuture([script, ...future]); setScript(before); soon(); };
  const redo = () => { const after = future[0]; if (!after) return; setFuture(future.slice(1)); setPast([...past, script]); setScript(after); soon(); };

  const keys = useRef<(e: KeyboardEvent) => void>(() => undefined);
  keys.current = (e) => {
    if (!(e.ctrlKey || e.metaKey)) return;
    const inText = e.target instanceof HTMLElement && e.target.closest('input, textarea');
    if (e.key.toLowerCase() === 's') { e.preventDefault(); void keep(); }
    else if (e.key.toLowerCase() === 'z' && !inText) { e.preventDefault(); if (e.shiftKey) redo(); else undo(); }
  };
  useEffect(() => {
    const press = (e: KeyboardEvent) => keys.current(e);
    const warn = (e: BeforeUnloadEvent) => { if (timer.current !== undefined) { e.preventDefault(); void keep(); } };
    window.addEventListener('keydown', press);
    window.addEventListener('beforeunload', warn);
    return () => { window.removeEventListener('keydown', press); window.removeEventListener('beforeunload', warn); if (timer.current !== undefined) void keep(); };
  }, [keep]);

  const stops = faults.filter((f) => f.weight === 'stops');
  const advice = faults.filter((f) => f.weight === 'advice');
  const publish = async () => { if (saved === 'kept' || await keep()) setOpen('publish'); };
  const differs = view.bot.liveVersion === null || past.length > 0 || view.draftDiffers;
  return (
    <main className="grid h-[calc(100vh-64px)] min-h-[560px] grid-cols-[minmax(0,1fr)_350px] gap-3 p-4">
      <Panel className="flex min-h-0 min-w-0 flex-col overflow-hidden" label="Script">
        <div className="flex flex-wrap items-center gap-2 border-b border-rule px-4 py-3">
          {view.mayChange ? <input aria-label="Name of the bot" value={name} maxLength={60} size={Math.max(8, name.length)} onChange={(e) => { setName(e.target.value); soon(); }} className="max-w-72 rounded-control bg-transparent font-display text-title font-semibold" /> : <h1 className="text-title">{name}</h1>}
          {view.bot.liveVersion === null ? <Pill tone="bad">never published</Pill> : <Pill tone="good">{view.bot.liveVersion} is live · {view.doors.length} {view.doors.length === 1 ? 'door' : 'doors'}</Pill>}
          {differs && view.bot.liveVersion !== null && <Pill tone="warn">draft differs</Pill>}
          <span role="status" className="text-small text-ink-3">{saved === 'pending' || saved === 'saving' ? 'Saving…' : saved === 'failed' ? 'Not saved' : savedAt ? `Saved ${savedAt}` : ''}</span>
          <span className="ml-auto flex items-center gap-2">
            {view.mayChange && <><Button kind="quiet" small disabled={past.length === 0} onClick={undo}>Undo</Button><Button kind="quiet" small disabled={future.length === 0} onClick={redo}>Redo</Button></>}
            <Button onClick={() => setOpen('about')}>About</Button><Button onClick={() => setOpen('versions')}>Versions</Button>
            {view.mayPublish && <Button kind="primary" onClick={() => void publish()}>Check &amp; publish</Button>}
          </span>
        </div>
        <div className="min-h-0 flex-1 overflow-y-auto" tabIndex={0} role="region" aria-label="Scenes and lines"><ScriptView script={script} view={view} faults={faults} running={running} onChange={change} /></div>
        <div className={`flex items-center gap-2 border-t border-rule px-4 py-2 text-small ${stops.length > 0 ? 'bg-clay-wash' : ''}`} role="status">
          {stops.length > 0 && <Pill tone="bad">{stops.length} {stops.length === 1 ? 'stops' : 'stop'} contacts</Pill>}{advice.length > 0 && <Pill tone="warn">{advice.length} advice</Pill>}
          <span className="min-w-0 truncate">{(stops[0] ?? advice[0])?.sentence ?? 'No fault found in this script.'}</span>
          {(stops[0] ?? advice[0])?.lineId && <Button small className="ml-auto" onClick={() => document.getElementById(`line-${(stops[0] ?? advice[0])?.lineId ?? ''}`)?.focus()}>Show</Button>}
        </div>
      </Panel>
      <TryIt script={script} doors={view.doors} onLine={setRunning} />
      {open === 'publish' && <PublishDialog view={view} faults={faults} revision={revision.current} onClose={() => setOpen(null)} onDone={() => { setOpen(null); setPast([]); setFuture([]); void refetch(); }} />}
      {open === 'versions' && <VersionsDialog view={view} zone={zone} onClose={() => setOpen(null)} onDone={() => void refetch()} />}
      <Dialog open={open === 'about'} onClose={() => setOpen(null)} title="About this bot">
        <div className="flex flex-col gap-3">
          <Field label="Name customers see">{(p) => <Input {...p} disabled={!view.mayChange} value={script.shownName} onChange={(e) => change({ ...script, shownName: e.target.value })} />}</Field>
          <Field label="Queue when something fails" hint="The customer is told, and a person takes over.">{(p) => <Select {...p} disabled={!view.mayChange} value={script.fallbackQueueId} onChange={(e) => change({ ...script, fallbackQueueId: e.target.value })}>{view.queues.map((q) => <option key={q.id} value={q.id}>{q.name}</option>)}</Select>}</Field>
          <fieldset disabled={!view.mayChange}><legend className="mb-1 text-small font-medium text-ink-2">Languages it is worded in</legend><div className="flex gap-4">{LANGUAGES.map((l) => <Check key={l} label={languageName(l)} checked={script.languages.includes(l)} onChange={(e) => change({ ...script, languages: e.target.checked ? [...script.languages, l] : script.languages.filter((x) => x !== l) })} />)}</div></fieldset>
        </div>
      </Dialog>
    </main>
  );
}

function PublishDialog({ view, faults, revision, onClose, onDone }: { view: BotView; faults: readonly BotFault[]; revision: number; onClose: () => void; onDone: () => void }) {
  const [note, setNote] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const stops = faults.filter((f) => f.weight === 'stops');
  const next = (view.versions[0]?.version ?? 0) + 1;
  const publish = async () => {
    try {
      const { version } = await setting<{ version: number }>('publish-bot', { id: view.bot.id, revision, note });
      toast.success(`Version ${version} is live for the next contact.`);
      onDone();
    } catch (error) {
      setFault(sentence(error));
    }
  };
  return (
    <Dialog open onClose={onClose} title={`Publish version ${next}`} description={view.doors.length === 0 ? 'No door uses this bot yet.' : `From the next contact on, by ${view.doors.map((d) => d.name).join(', ')}. Conversations under way stay on their version.`}>
      {faults.length > 0 && <ul className="mb-3 max-h-48 overflow-y-auto">{faults.map((f, i) => <li key={i} className="flex gap-2 border-t border-rule py-1 text-small"><Pill tone={f.weight === 'stops' ? 'bad' : 'warn'}>{f.weight === 'stops' ? 'stops contacts' : 'advice'}</Pill><span>{f.sentence}</span></li>)}</ul>}
      <form onSubmit={(e) => { e.preventDefault(); void publish(); }}>
        <Field label="What changed" hint="For whoever looks at the versions later">{(p) => <Input {...p} value={note} maxLength={300} onChange={(e) => setNote(e.target.value)} />}</Field>
        {fault && <p role="alert" className="mt-2 text-small text-clay">{fault}</p>}
        <div className="mt-3 flex gap-2"><Button kind="primary" type="submit" disabled={stops.length > 0}>Publish version {next}</Button><Button onClick={onClose}>Cancel</Button></div>
        {stops.length > 0 && <p className="mt-2 text-small text-clay">Mend what stops contacts first.</p>}
      </form>
    </Dialog>
  );
}

function VersionsDialog({ view, zone, onClose, onDone }: { view: BotView; zone: string; onClose: () => void; onDone: () => void }) {
  const goLive = async (version: number) => {
    try {
      await call('/api/settings/bot-version-live', { body: { id: view.bot.id, version } });
      toast.success(`Version ${version} is live again, for the next contact.`);
      onDone();
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  return (
    <Dialog open onClose={onClose} title="Versions" description="A version never changes once published.">
      {view.versions.length === 0 ? <p className="text-ink-2">Never published yet.</p> : <ul>{view.versions.map((v) => <li key={v.version} className="flex items-center gap-3 border-t border-rule py-2"><b className="w-6 text-right">{v.version}</b><span className="min-w-0 flex-1"><span className="block truncate">{v.note || 'without a note'}</span><span className="text-small text-ink-2">{v.by}, {asDayTime(v.realAt, zone)}</span></span>{v.version === view.bot.liveVersion ? <Pill tone="good">live</Pill> : view.mayPublish && <Button small onClick={() => void goLive(v.version)}>Make live</Button>}</li>)}</ul>}
    </Dialog>
  );
}
