'use client';

import { clsx } from 'clsx';
import { useSearchParams } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Setting, Turn } from '@/core/bots/trial';
import { CHANNELS } from '@/core/channels';
import { isTapped } from '@/core/messages/options';
import type { WouldAsk } from '@/services/bots/bottrials';
import type { SaidToBot } from '@/services/bots/saidtobot';
import type { Tried } from '@/services/bots/trials';
import { useRecorded } from '../shared/userecorded';
import { hush, KEYPAD, soundKey, speak, speakParts } from '../../handset/tones';
import { Button } from '../../kit/button';
import { call, setting as act, sentence } from '../../kit/call';
import { ChannelMark } from '../../kit/channelmark';
import { Check, Input } from '../../kit/field';
import { Panel } from '../../kit/panel';
import { useAround } from './around';
import { KeepDialog } from './keepdialog';
import { SettingChips } from './settingchips';
import { TurnLines } from './turnlines';

type Props = {
  /** The bot whose test it may become; null for a shared scene, which is tried with values for its inputs. */
  botId: string | null;
  values?: Readonly<Record<string, string>>;
  onLine: (lineId: string | null) => void;
  onKept?: () => void;
};
const NO_VALUES = {};

/**
 * The draft as a customer would meet it, run by the same interpreter as live contacts in a world set by hand, with
 * what stands behind it: what was understood, what was asked outside and what is remembered.
 */
export function TryIt({ botId, values = NO_VALUES, onLine, onKept }: Props) {
  const { script, view, channels, mayChange } = useAround();
  const [setting, setSetting] = useState<Setting>({
    channel: channels[0] ?? 'chat',
    language: script.languages[0] ?? 'en',
    local: view.now,
    open: true,
    customer: null,
    facts: {},
    behaviours: {},
  });
  const [tried, setTried] = useState<Tried | null>(null);
  const [busy, setBusy] = useState(false);
  const [asked, setAsked] = useState<WouldAsk | null>(null);
  const [text, setText] = useState('');
  const [keeping, setKeeping] = useState(false);
  const partsOf = useRecorded();
  const [aloud, setAloud] = useState(false);
  const end = useRef<HTMLLIElement>(null);
  const run = useRef(0);
  useEffect(() => {
    end.current?.scrollIntoView({ block: 'nearest' });
  }, [tried, asked]);
  useEffect(() => hush, []);

  const play = async (turns: readonly Turn[], world: Setting): Promise<Tried | null> => {
    const mine = ++run.current;
    setBusy(true);
    setAsked(null);
    try {
      const next = await act<Tried>('try-bot', {
        script,
        setting: world,
        turns: turns.map(({ input, replies, says }) => ({ input, replies, says })),
        ...(botId === null ? { values } : {}),
      });
      if (mine !== run.current) return null;
      setTried(next);
      onLine(next.sharedId === null ? next.lineId : null);
      if (aloud)
        for (const a of next.turns.at(-1)?.acts ?? [])
          if (a.type === 'say') {
            const parts = setting.channel === 'voice' ? partsOf(a.text, next.language) : [];
            if (parts.some((p) => p.recording !== null)) speakParts(parts, next.language);
            else speak({ text: a.ssml ?? a.text, tagged: a.ssml !== null }, next.language);
          }
      const over = next.turns.flatMap((t) => t.acts).findLast((a) => a.type === 'hand-over' || a.type === 'promise');
      if (over)
        setAsked(
          await act<WouldAsk>('would-ask', {
            queueId: over.queueId,
            channel: world.channel,
            needs: over.needs,
            language: next.language,
          }),
        );
      return mine === run.current ? next : null;
    } catch (error) {
      if (mine === run.current) toast.error(sentence(error));
      return null;
    } finally {
      if (mine === run.current) setBusy(false);
    }
  };
  const started: readonly Turn[] = [{ input: { type: 'start' }, replies: [], says: [] }];
  const begin = (world: Setting = setting) => void play(started, world);
  const [from, setFrom] = useState<SaidToBot | null>(null);
  /** Says what a customer once said, one after the other, as long as the draft listens. */
  const sayAgain = async (said: SaidToBot) => {
    const world = { ...setting, channel: said.channel, language: said.language, local: said.local };
    setSetting(world);
    setFrom(said);
    let now = await play(started, world);
    for (const input of said.said) {
      if (now?.status !== 'listening') return;
      now = await play([...now.turns, { input, replies: [], says: [] }], world);
    }
  };
  const saidIn = useSearchParams().get('said');
  useEffect(() => {
    if (saidIn === null || botId === null) return;
    let gone = false;
    call<SaidToBot>(`/api/read/said-to-bot?contact=${encodeURIComponent(saidIn)}`).then(
      (said) => !gone && void sayAgain(said),
      (error: unknown) => !gone && toast.error(sentence(error)),
    );
    return () => {
      gone = true;
    };
    // What is said again is what stands in the address, once.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [saidIn, botId]);
  const stop = () => {
    run.current++;
    setTried(null);
    setAsked(null);
    setBusy(false);
    onLine(null);
  };
  const answer = (input: Turn['input']) => {
    if (tried) void play([...tried.turns, { input, replies: [], says: [] }], setting);
  };
  const setWorld = (next: Setting) => {
    setSetting(next);
    if (tried) begin(next);
  };
  const listening = tried?.status === 'listening' && !busy;
  const said = tried?.turns.flatMap((t) => t.acts).findLast((a) => a.type === 'say');
  // What the person who takes it sees: fields that were passed, as the queue shows them.
  const over = tried?.turns.flatMap((t) => t.acts).findLast((a) => a.type === 'hand-over');
  const seen = (
    over && tried ? (over.type === 'hand-over' && over.because !== null ? Object.keys(tried.values) : over.fields) : []
  ).flatMap((name) => {
    const field = view.fields.find((f) => f.name === name);
    const value = tried?.values[name];
    return field && value !== undefined && (asked?.shows ?? [name]).includes(name)
      ? [{ name, label: field.label, value: String(value) }]
      : [];
  });
  const sends = () => {
    if (text.trim()) {
      answer({ type: 'text', text: text.trim() });
      setText('');
    }
  };
  return (
    <Panel className="flex min-h-0 flex-col p-3" label="Try it">
      <div className="mb-1.5 flex items-center gap-2">
        <h2 className="text-panel">Try it</h2>
        <span className="ml-auto flex gap-1" role="radiogroup" aria-label="Channel">
          {CHANNELS.map((c) => (
            <button
              key={c}
              type="button"
              role="radio"
              aria-checked={c === setting.channel}
              onClick={() => setWorld({ ...setting, channel: c })}
              className={clsx('rounded-full p-0.5', c === setting.channel && 'bg-chosen ring-2 ring-brass-2')}
            >
              <ChannelMark channel={c} size={20} />
            </button>
          ))}
        </span>
      </div>
      <SettingChips setting={setting} onChange={setWorld} />
      <ol
        className="flex min-h-0 flex-1 flex-col gap-1.5 overflow-y-auto rounded-control bg-sunk p-2.5"
        aria-live="polite"
        aria-label="Tried conversation"
        aria-busy={busy}
        tabIndex={0}
      >
        {!tried && (
          <li className="m-auto px-6 text-center text-small text-ink-2">
            Start a conversation to meet the draft as a customer would.
          </li>
        )}
        {tried?.turns.map((turn, i) => (
          <TurnLines
            key={i}
            turn={turn}
            channel={setting.channel}
            script={script}
            connectorName={(id) =>
              view.connectors.find((c) => c.id === id)?.name ?? view.tables.find((t) => t.id === id)?.name ?? 'outside'
            }
            intentName={(id) => view.intents.find((x) => x.id === id)?.label.toLowerCase() ?? id}
          />
        ))}
        {listening && isTapped(setting.channel) && said?.type === 'say' && said.options.length > 0 && (
          <li className="flex flex-wrap gap-1">
            {said.options.map((o) => (
              <Button key={o.label} small onClick={() => answer({ type: 'text', text: o.label })}>
                {o.label}
              </Button>
            ))}
          </li>
        )}
        {busy && <li className="text-tiny text-ink-3">…</li>}
        {asked && (
          <li className="rounded-control border border-dashed border-plum-2 p-2 text-small">
            <b className="text-plum">To {asked.queue}</b>
            {asked.needs && ` · needs ${asked.needs}`}
            <span className="block text-ink-2">{asked.sentence}</span>
            {asked.others.length > 0 && <span className="block text-tiny text-ink-2">{asked.others.join(' · ')}</span>}
            {asked.toCustomer && <span className="mt-1 block">The customer then hears: “{asked.toCustomer}”</span>}
            <span className="mt-1 block">
              The person sees{' '}
              {seen.length === 0
                ? 'no field'
                : seen.map((f) => (
                    <span key={f.name} className="mr-1 rounded bg-brass-wash px-1.5 text-brass-ink">
                      {f.label}: {f.value}
                    </span>
                  ))}
              {asked.toAgent && <> and “{asked.toAgent}”</>}
            </span>
          </li>
        )}
        {tried?.status === 'ended' && <li className="self-center text-tiny text-ink-2">the conversation ends here</li>}
        <li ref={end} aria-hidden />
      </ol>
      {tried && Object.keys(tried.values).length > 0 && (
        <p className="mt-1.5 flex max-h-16 flex-wrap gap-1 overflow-y-auto text-tiny" aria-label="Values remembered">
          {Object.entries(tried.values).map(([name, value]) => (
            <span key={name} className="rounded bg-brass-wash px-1.5 text-brass-ink">
              {name} = {String(value)}
            </span>
          ))}
        </p>
      )}
      {listening && setting.channel === 'voice' && (
        <div className="mt-2 grid grid-cols-6 gap-1" role="group" aria-label="Keypad">
          {KEYPAD.map((k) => (
            <Button
              key={k}
              small
              onClick={() => {
                soundKey(k);
                hush();
                answer({ type: 'key', key: k });
              }}
            >
              {k}
            </Button>
          ))}
        </div>
      )}
      <form
        className="mt-2 flex gap-2"
        onSubmit={(e) => {
          e.preventDefault();
          if (tried) sends();
          else begin();
        }}
      >
        <Input
          aria-label="Say something"
          placeholder={listening ? 'Say something…' : tried ? 'It is over' : 'Start first'}
          disabled={!listening}
          value={text}
          maxLength={2000}
          onChange={(e) => setText(e.target.value)}
        />
        {tried ? (
          <Button type="submit" disabled={!listening || text.trim() === ''}>
            Say
          </Button>
        ) : (
          <Button type="submit" kind="primary" disabled={busy}>
            Start
          </Button>
        )}
      </form>
      <div className="mt-1.5 flex flex-wrap items-center gap-1">
        {tried && (
          <>
            <Button small aria-label="Start again" onClick={() => begin()}>
              Again
            </Button>
            <Button small disabled={!listening} onClick={() => answer({ type: 'silence' })}>
              Stay silent
            </Button>
            <Button
              small
              kind="quiet"
              onClick={() => {
                stop();
                setFrom(null);
              }}
            >
              Clear
            </Button>
          </>
        )}
        {setting.channel === 'voice' && (
          <Check
            label="aloud"
            checked={aloud}
            onChange={(e) => {
              setAloud(e.target.checked);
              if (!e.target.checked) hush();
            }}
          />
        )}
        {tried && mayChange && botId !== null && (
          <Button small className="ml-auto" disabled={busy} onClick={() => setKeeping(true)}>
            Keep as test
          </Button>
        )}
      </div>
      {keeping && tried && botId !== null && (
        <KeepDialog
          botId={botId}
          tried={tried}
          setting={setting}
          contactId={from?.contactId ?? null}
          queueName={(id) => view.queues.find((q) => q.id === id)?.name ?? id}
          onClose={() => setKeeping(false)}
          onDone={() => {
            setKeeping(false);
            onKept?.();
          }}
        />
      )}
    </Panel>
  );
}
