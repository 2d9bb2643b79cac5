'use client';

import { clsx } from 'clsx';
import { useEffect, useRef, useState } from 'react';
import type { Channel } from '@/core/channels';
import { languageName } from '@/core/localised';
import type { Stage } from '@/core/routing/clock';
import { heardWaiting } from '@/core/contact/waitwords';
import { clockEnd } from '@/core/routing/clocksegments';
import type { QueuesView } from '@/services/queues/queuesview';
import { useRecorded } from '../../bots/shared/userecorded';
import { hush, speakParts } from '../../handset/tones';
import { Button } from '../../kit/button';
import { Dialog } from '../../kit/dialog';
import { Check } from '../../kit/field';
import { asClock } from '../../kit/figures';
import { playMusic, stopMusic } from '../../kit/music';
import { Empty } from '../../kit/panel';
import { options, Select } from '../../kit/select';

const SPEEDS = [1, 4, 10] as const;
/** Somebody who waits, for the sentences that speak of it. */
const AHEAD = { place: 3, seconds: 90 } as const;

/** What somebody hears or reads while they wait, played at a chosen speed with captions and, if wanted, sound. */
export function HearIt({
  stages,
  channel,
  languages,
  music,
  onClose,
}: {
  stages: readonly Stage[];
  channel: Channel;
  languages: readonly string[];
  music: QueuesView['music'];
  onClose: () => void;
}) {
  const [language, setLanguage] = useState(languages[0] ?? 'en');
  const partsOf = useRecorded();
  const [at, setAt] = useState(0);
  const [running, setRunning] = useState(false);
  const [speed, setSpeed] = useState<(typeof SPEEDS)[number]>(4);
  const [aloud, setAloud] = useState(false);
  const musicName = (id: string) => music.find((m) => m.id === id)?.name ?? 'music that is gone';
  const end = clockEnd(stages, 30);
  const segments = heardWaiting(stages, end, { channel, language, languages, ahead: AHEAD });
  const now = segments.find((s) => s.from <= at && at < s.to);
  const said = useRef('');
  useEffect(() => {
    if (!running) return undefined;
    const timer = setInterval(() => setAt((t) => Math.min(end, t + 0.1 * speed)), 100);
    return () => clearInterval(timer);
  }, [running, speed, end]);
  useEffect(() => {
    if (at >= end) setRunning(false);
  }, [at, end]);
  const heard =
    !running || !aloud || !now
      ? ''
      : now.kind === 'music'
        ? `♪${music.find((m) => m.id === now.music)?.url ?? now.music}`
        : now.text;
  useEffect(() => {
    if (heard === said.current) return;
    said.current = heard;
    hush();
    if (heard.startsWith('♪')) playMusic(heard.slice(1), 0.4);
    else {
      stopMusic();
      if (heard) speakParts(partsOf(heard, language), language);
    }
  }, [heard, language, partsOf]);
  useEffect(
    () => () => {
      hush();
      stopMusic();
    },
    [],
  );
  return (
    <Dialog
      open
      onClose={onClose}
      title={channel === 'voice' ? 'What a caller hears' : 'What a customer reads'}
      description="The clock as it is on the page, before it is applied; for somebody third in line, with 1.5 minutes to wait."
      wide
    >
      {segments.length === 0 ? (
        <Empty title="Nothing is said or played">Add a message or music to the row Hears.</Empty>
      ) : (
        <>
          <div className="flex flex-wrap items-center gap-3">
            <Button
              kind="primary"
              onClick={() => {
                if (at >= end) setAt(0);
                setRunning(!running);
              }}
            >
              {running ? 'Pause' : at >= end ? 'Play again' : 'Play'}
            </Button>
            <div role="group" aria-label="Speed" className="flex gap-1">
              {SPEEDS.map((s) => (
                <Button
                  key={s}
                  small
                  aria-pressed={s === speed}
                  className={clsx(s === speed && '!bg-plum-wash')}
                  onClick={() => setSpeed(s)}
                >
                  ×{s}
                </Button>
              ))}
            </div>
            <Select aria-label="Language" className="!w-32" value={language} onChange={(chosen) => setLanguage(chosen)}>
              {options(languages, languageName)}
            </Select>
            <Check label="Sound" checked={aloud} onChange={(e) => setAloud(e.target.checked)} />
            <span className="ml-auto text-panel font-semibold" aria-live="off">
              {asClock(at)}
            </span>
          </div>
          <input
            type="range"
            aria-label="Second of the wait"
            className="mt-3 w-full accent-plum"
            min={0}
            max={end}
            step={1}
            value={Math.round(at)}
            onChange={(e) => setAt(e.target.valueAsNumber)}
          />
          <div
            className="mt-2 flex min-h-28 flex-col items-center justify-center rounded-panel bg-sunk px-6 py-4 text-center"
            role="status"
          >
            {!now ? (
              <p className="text-ink-3">silence</p>
            ) : now.kind === 'music' ? (
              <p className="text-ink-2">♪ {musicName(now.music)}</p>
            ) : (
              <p className={clsx('text-panel', now.asks && 'text-brass-ink')}>{now.text}</p>
            )}
          </div>
          <ol className="mt-3 max-h-48 overflow-y-auto text-small">
            {segments.map((s, i) => (
              <li key={i} className={clsx('flex gap-3 rounded-control px-2 py-0.5', s === now && 'bg-chosen')}>
                <button type="button" className="w-14 text-left font-semibold" onClick={() => setAt(s.from)}>
                  {asClock(s.from)}
                </button>
                <span>{s.kind === 'music' ? `♪ ${musicName(s.music)}` : s.text}</span>
              </li>
            ))}
          </ol>
        </>
      )}
    </Dialog>
  );
}
