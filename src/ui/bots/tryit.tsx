'use client';

import { clsx } from 'clsx';
import { useEffect, useRef, useState } from 'react';
import { beginning, runBot, type BotInput, type BotState } from '@/core/bots/interpreter';
import { lineNumber, type BotScript } from '@/core/bots/model';
import { CHANNELS, type Channel } from '@/core/channels';
import { languageName } from '@/core/localised';
import type { BotView, WouldAsk } from '@/services/bots';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Input, Select } from '../kit/field';
import { Panel } from '../kit/panel';
import { KEYPAD, soundKey } from '../handset/tones';

type Shown = { readonly from: 'bot' | 'customer' | 'note'; readonly text: string; readonly options?: readonly { key: string; label: string }[] };

/** The script as a customer would meet it, run by the same interpreter as live contacts, on the draft. */
export function TryIt({ script, doors, onLine }: { script: BotScript; doors: BotView['doors']; onLine: (lineId: string | null) => void }) {
  const [channel, setChannel] = useState<Channel>(doors[0]?.channel ?? 'chat');
  const [language, setLanguage] = useState(script.languages[0] ?? 'en');
  const [state, setState] = useState<BotState | null>(null);
  const [shown, setShown] = useState<readonly Shown[]>([]);
  const [asked, setAsked] = useState<WouldAsk | null>(null);
  const [text, setText] = useState('');
  const end = useRef<HTMLLIElement>(null);
  useEffect(() => { void end.current?.scrollIntoView({ block: 'nearest' }); }, [shown, asked]);

  const feed = (from: BotState, input: BotInput, said: Shown[], on: Channel) => {
    const { state: next, acts } = runBot(script, { channel: on, open: true }, from, input);
    const lines: Shown[] = acts.flatMap((act): Shown[] => {
      switch (act.type) {
        case 'say': return [{ from: 'bot', text: act.text, options: act.options }];
        case 'heard': return [{ from: 'note', text: act.understood ? `understood at ${lineNumber(script, act.lineId) ?? '?'}` : 'not understood' }];
        case 'remember': return [{ from: 'note', text: `${act.name} = ${act.value}` }];
        case 'hand-over':
          setting<WouldAsk>('would-ask', { queueId: act.queueId, channel: on, needs: act.needs }).then(setAsked, (e: unknown) => setAsked({ queue: '', needs: '', sentence: sentence(e), others: [] }));
          return act.because ? [{ from: 'note', text: `failed: ${act.because}` }] : [];
        case 'end': return [{ from: 'note', text: 'the conversation ends here' }];
      }
    });
    setState(next);
    onLine(next.lineId);
    setShown([...said, ...lines]);
  };
  const begin = (on: Channel = channel, lang: string = language) => { setAsked(null); feed(beginning(lang), { type: 'start' }, [], on); };
  const stop = () => { setState(null); setShown([]); setAsked(null); onLine(null); };
  const answer = (input: Extract<BotInput, { type: 'text' | 'key' }>, words: string) => { if (state) feed(state, input, [...shown, { from: 'customer', text: words }], channel); };
  const listening = state?.status === 'listening';
  const last = shown.findLast((s) => s.from === 'bot');
  return (
    <Panel className="flex min-h-0 flex-col p-3" label="Try it">
      <div className="mb-2 flex items-center gap-2"><h2 className="text-panel">Try it</h2>
        <span className="ml-auto flex gap-1" role="radiogroup" aria-label="Channel">{CHANNELS.map((c) => <button key={c} type="button" role="radio" aria-checked={c === channel} onClick={() => { setChannel(c); if (state) begin(c); }} className={clsx('rounded-full p-0.5', c === channel && 'bg-chosen ring-2 ring-brass-2')}><ChannelMark channel={c} size={20} /></button>)}</span></div>
      <div className="mb-2 flex items-center gap-2"><Select aria-label="Language" className="!w-32 !py-1 text-small" value={language} onChange={(e) => { setLanguage(e.target.value); if (state) begin(channel, e.target.value); }}>{script.languages.map((l) => <option key={l} value={l}>{languageName(l)}</option>)}</Select>
        <Button small kind="primary" onClick={() => begin()}>{state ? 'Start again' : 'Start'}</Button>{state && <Button small onClick={stop}>Clear</Button>}</div>
      <ol className="flex min-h-0 flex-1 flex-col gap-1.5 overflow-y-auto rounded-control bg-sunk p-2.5" aria-live="polite" aria-label="Tried conversation" tabIndex={0}>
        {!state && <li className="m-auto px-6 text-center text-small text-ink-2">Start a conversation to meet the draft as a customer would.</li>}
        {shown.map((s, i) => s.from === 'note' ? <li key={i} className="self-end text-tiny text-ink-2">{s.text}</li> : <li key={i} className={clsx('max-w-[85%] rounded-panel px-3 py-1.5 whitespace-pre-wrap', s.from === 'bot' ? 'self-start border border-rule bg-sheet' : 'self-end bg-mark-chat text-mark-ink')}>{s.text}</li>)}
        {listening && channel === 'chat' && (last?.options?.length ?? 0) > 0 && <li className="flex flex-wrap gap-1">{last?.options?.map((o) => <Button key={o.label} small onClick={() => answer({ type: 'text', text: o.label }, o.label)}>{o.label}</Button>)}</li>}
        {asked && <li className="rounded-control border border-dashed border-plum-2 p-2 text-small"><b className="text-plum">To {asked.queue}</b>{asked.needs && ` · needs ${asked.needs}`}<span className="block text-ink-2">{asked.sentence}</span>{asked.others.length > 0 && <span className="block text-tiny text-ink-2">{asked.others.join(' · ')}</span>}</li>}
        <li ref={end} aria-hidden />
      </ol>
      {listening && channel === 'voice' && <div className="mt-2 grid grid-cols-6 gap-1" role="group" aria-label="Keypad">{KEYPAD.map((k) => <Button key={k} small onClick={() => { soundKey(k); answer({ type: 'key', key: k }, k); }}>{k}</Button>)}</div>}
      <form className="mt-2 flex gap-2" onSubmit={(e) => { e.preventDefault(); if (text.trim()) { answer({ type: 'text', text }, text); setText(''); } }}>
        <Input aria-label="Say something" placeholder={listening ? 'Say something…' : 'Start first'} disabled={!listening} value={text} onChange={(e) => setText(e.target.value)} /><Button type="submit" disabled={!listening || text.trim() === ''}>Say</Button></form>
    </Panel>
  );
}
