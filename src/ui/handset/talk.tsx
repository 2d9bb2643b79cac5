'use client';

import { clsx } from 'clsx';
import { useCallback, useEffect, useRef, useState } from 'react';
import { CHANNEL_NAMES } from '@/core/channels';
import { isTapped } from '@/core/messages/options';
import { loopName } from '@/core/sound/loops';
import { Button } from '../kit/button';
import { sentence } from '../kit/call';
import { ChannelMark } from '../kit/channelmark';
import { Check, Input } from '../kit/field';
import { playMusic, stopMusic } from '../kit/music';
import { Pill } from '../kit/panel';
import { Picture } from '../kit/picture';
import { answer, type Conversation, type Door, follow, type Held, leave, read, send, joined } from './channelclient';
import { hush, KEYPAD, soundKey, speak, speakParts } from './tones';

const STATES: Readonly<Record<Conversation['state'], string>> = {
  'with-bot': 'connected',
  waiting: 'waiting for a person',
  talking: 'with a person',
  after: 'one last thing',
  ended: 'ended',
};

export function Talk({
  door,
  held,
  first,
  onClose,
}: {
  door: Door;
  held: Held;
  first: Conversation;
  onClose: () => void;
}) {
  const voice = door.channel === 'voice';
  const [now, setNow] = useState(first);
  const [text, setText] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  const [up, setUp] = useState(true);
  const [aloud, setAloud] = useState(false);
  const spoken = useRef(first.seq);
  const newest = useRef(first.seq);
  const end = useRef<HTMLLIElement>(null);
  const show = useCallback((next: Conversation) => {
    setNow((was) => joined(was, next));
    newest.current = Math.max(newest.current, next.seq);
    setFault(null);
  }, []);
  const plays = now.state === 'waiting' || now.held ? now.music : null;
  const music = aloud ? plays : null;
  useEffect(() => {
    if (music) playMusic(music, 0.3);
    else stopMusic();
  }, [music]);
  useEffect(() => stopMusic, []);
  useEffect(
    () =>
      follow(
        held,
        first.seq,
        () => {
          read(held, newest.current).then(show, (e: unknown) => setFault(sentence(e)));
        },
        setUp,
      ),
    [held, first.seq, show],
  );
  useEffect(() => {
    end.current?.scrollIntoView({ block: 'end' });
    if (aloud)
      for (const m of now.messages)
        if (m.seq > spoken.current && m.from !== 'customer') {
          if (m.spoken) speakParts(m.spoken, now.language);
          else speak({ text: m.ssml ?? m.text, tagged: m.ssml !== null }, now.language);
        }
    spoken.current = now.seq;
  }, [now, aloud]);
  useEffect(() => hush, []);
  const attempt = (work: Promise<Conversation>) => work.then(show, (e: unknown) => setFault(sentence(e)));
  // Words and keys go out in the order in which they were said, however fast they follow one another.
  const sent = useRef<Promise<unknown>>(Promise.resolve());
  const inOrder = (said: Parameters<typeof send>[1]): Promise<Conversation> => {
    const next = sent.current.then(() => send(held, said));
    sent.current = next.catch(() => undefined);
    return next;
  };
  // A key or a word cuts short what may be cut short.
  const cut = () => {
    if (now.messages.findLast((m) => m.from !== 'customer')?.mayInterrupt ?? true) hush();
  };
  const press = (key: string) => {
    soundKey(key);
    cut();
    void attempt(inOrder({ key }));
  };
  const say = () => {
    const words = text.trim();
    if (words === '') return;
    setText('');
    cut();
    void inOrder({ text: words }).then(show, (e: unknown) => {
      setFault(sentence(e));
      setText(words);
    });
  };
  const last = now.messages.at(-1);
  const ended = now.state === 'ended';
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex items-center gap-2 border-b border-rule px-4 py-2">
        <ChannelMark channel={door.channel} />
        <span className="min-w-0 flex-1 truncate font-display font-semibold">{door.name}</span>
        <Pill tone={ended ? 'plain' : plays ? 'warn' : 'good'}>{now.held ? 'on hold' : STATES[now.state]}</Pill>
      </div>
      {!up && !ended && (
        <p role="status" className="bg-brass-wash px-4 py-1 text-small text-brass-ink">
          Connection interrupted; trying again…
        </p>
      )}
      <ol
        className="flex min-h-0 flex-1 flex-col gap-2 overflow-y-auto p-4"
        aria-live="polite"
        aria-label={voice ? 'Captions' : 'Conversation'}
        tabIndex={0}
      >
        {now.messages.length === 0 && !ended && !voice && (
          <li className="self-center text-small text-ink-2">Write to begin.</li>
        )}
        {now.messages.map((m) => (
          <li key={m.seq} className={clsx('max-w-[85%]', m.from === 'customer' ? 'self-end' : 'self-start')}>
            <span
              className={clsx(
                'block rounded-panel px-3 py-1.5 break-words whitespace-pre-wrap',
                m.from === 'customer' ? 'bg-mark-chat text-mark-ink' : m.from === 'bot' ? 'bg-sunk' : 'bg-plum-wash',
              )}
            >
              {m.text}
              {m.image && <Picture src={m.image.url} alt={m.image.alt} />}
            </span>
            {m.name && <span className="px-1 text-tiny text-ink-3">{m.name}</span>}
            {m.spoken && <span className="px-1 text-tiny text-ink-3">recorded</span>}
          </li>
        ))}
        {!ended &&
          !voice &&
          last?.from === 'bot' &&
          now.state !== 'talking' &&
          isTapped(door.channel) &&
          last.options.length > 0 && (
            <li className="flex flex-wrap gap-1.5">
              {last.options.map((o) => (
                <Button key={o.label} small onClick={() => void attempt(inOrder({ text: o.label }))}>
                  {o.label}
                </Button>
              ))}
            </li>
          )}
        {plays && (
          <li className="self-center text-small text-ink-3">
            {now.held && 'On hold: nobody hears you. '}♪ {plays.startsWith('/') ? 'music' : loopName(plays)}
          </li>
        )}
        {now.call === 'message-left' && !ended && (
          <li className="self-center text-small text-ink-3">
            Your message was taken; {voice ? 'the telephone will ring here' : 'the answer comes here'}.
          </li>
        )}
        {now.call === 'promised' && !ended && (
          <li className="self-center text-small text-ink-3">A call was promised; the telephone will ring here.</li>
        )}
        {ended && (
          <li className="self-center text-small text-ink-3">
            {voice ? 'The call has ended.' : 'The conversation has ended.'}
          </li>
        )}
        <li ref={end} aria-hidden />
      </ol>
      {now.call === 'ringing' && !ended && (
        <div role="alert" className="flex items-center gap-2 bg-chosen px-4 py-3">
          <span className="flex-1 animate-pulse font-display font-semibold">
            The telephone rings{now.callNumber && `: ${now.callNumber}`}
          </span>
          <Button kind="primary" onClick={() => void attempt(answer(held, true))}>
            Answer
          </Button>
          <Button kind="danger" onClick={() => void attempt(answer(held, false))}>
            Turn away
          </Button>
        </div>
      )}
      {fault && (
        <p role="alert" className="bg-clay-wash px-4 py-1 text-small text-clay">
          {fault}
        </p>
      )}
      {ended ? (
        <div className="p-3">
          <Button kind="primary" className="w-full" onClick={onClose}>
            Back to the doors
          </Button>
        </div>
      ) : (
        <>
          {voice && (
            <div className="grid grid-cols-3 gap-1.5 px-6 pt-2" role="group" aria-label="Keypad">
              {KEYPAD.map((k) => (
                <button
                  key={k}
                  type="button"
                  aria-label={`Key ${k === '*' ? 'star' : k === '#' ? 'hash' : k}`}
                  onClick={() => press(k)}
                  className="rounded-control border border-rule-strong bg-sheet py-1.5 font-display text-[17px] font-semibold hover:bg-sunk"
                >
                  {k}
                </button>
              ))}
            </div>
          )}
          <form
            className="flex gap-2 p-3"
            onSubmit={(e) => {
              e.preventDefault();
              say();
            }}
          >
            <Input
              aria-label={voice ? 'What you say' : 'Your message'}
              placeholder={
                voice
                  ? 'Type what you say'
                  : `Write a ${CHANNEL_NAMES[door.channel].name === 'SMS' ? 'text' : 'message'}`
              }
              maxLength={4000}
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
            <Button type="submit" disabled={text.trim() === ''}>
              {voice ? 'Say' : 'Send'}
            </Button>
          </form>
          <div className="flex items-center justify-between px-3 pb-3">
            <Check
              label="Speak aloud"
              checked={aloud}
              onChange={(e) => {
                setAloud(e.target.checked);
                if (!e.target.checked) hush();
              }}
            />
            <Button kind="danger" onClick={() => void attempt(leave(held))}>
              {voice ? 'Hang up' : 'Leave'}
            </Button>
          </div>
        </>
      )}
    </div>
  );
}
