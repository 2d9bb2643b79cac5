'use client';

import { type Channel, CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import { FULL, type LoadRules } from '@/core/people/load';
import { answersFrom, fullMixes, rulesFromAnswers } from '@/core/people/loadquestions';
import { ChannelMark } from '../../kit/channelmark';
import { Input } from '../../kit/field';

const ASKS: Readonly<Record<Channel, string>> = {
  voice: 'Calls at once',
  chat: 'Chats at once',
  messaging: 'Messages at once',
  sms: 'SMS at once',
};

const BLOCK: Readonly<Record<Channel, string>> = {
  voice: 'bg-mark-voice',
  chat: 'bg-mark-chat',
  messaging: 'bg-mark-messaging',
  sms: 'bg-mark-sms',
};

/** Load in plain questions, and a picture of what then fits together. */
export function AtOnce({ load, off, onLoad }: { load: LoadRules; off: boolean; onLoad: (load: LoadRules) => void }) {
  const answers = answersFrom(load);
  const set = (channel: Channel | 'during', n: number) => {
    if (!Number.isInteger(n) || n < 0 || n > 20) return;
    onLoad(
      rulesFromAnswers(
        channel === 'during'
          ? { ...answers, smsDuringCall: n }
          : { ...answers, atOnce: { ...answers.atOnce, [channel]: n } },
      ),
    );
  };
  const mixes = fullMixes(load);
  return (
    <section aria-label="How much at once">
      <h2 className="text-small font-semibold">How much at once</h2>
      <div className="mt-1 grid grid-cols-[1fr_64px_70px] items-center gap-x-2 gap-y-1 text-small">
        <span />
        <span className="text-tiny text-ink-2">how many</span>
        <span className="text-tiny text-ink-2">load of one</span>
        {CHANNELS.map((c) => (
          <div key={c} className="contents">
            <span className="flex items-center gap-1.5">
              <ChannelMark channel={c} size={15} />
              {ASKS[c]}
            </span>
            <Input
              aria-label={ASKS[c]}
              type="number"
              min={0}
              max={20}
              disabled={off}
              className="!px-1.5 !py-0.5"
              value={load[c].most}
              onChange={(e) => set(c, e.target.valueAsNumber)}
            />
            <Input
              aria-label={`Load of one by ${CHANNEL_NAMES[c].name}`}
              type="number"
              min={0}
              max={100}
              disabled={off || load[c].most === 0}
              className="!px-1.5 !py-0.5"
              value={load[c].cost}
              onChange={(e) => {
                const n = e.target.valueAsNumber;
                if (Number.isInteger(n) && n >= 0 && n <= 100) onLoad({ ...load, [c]: { ...load[c], cost: n } });
              }}
            />
          </div>
        ))}
        <span className="text-ink-2">SMS during a call</span>
        <Input
          aria-label="SMS during a call"
          type="number"
          min={0}
          max={20}
          disabled={off || load.voice.most === 0 || load.sms.most === 0}
          className="!px-1.5 !py-0.5"
          value={answers.smsDuringCall}
          onChange={(e) => set('during', e.target.valueAsNumber)}
        />
        <span />
      </div>
      <p className="mt-2 text-tiny text-ink-2">What fits together into {FULL}</p>
      <ul className="mt-1 flex flex-col gap-1">
        {mixes.slice(0, 7).map((m) => {
          const words = CHANNELS.filter((c) => m[c] > 0)
            .map((c) => `${m[c]} ${CHANNEL_NAMES[c].name}`)
            .join(' + ');
          return (
            <li key={words} className="flex items-center gap-2 text-tiny">
              <span className="flex h-3 w-32 gap-px overflow-hidden rounded bg-sunk">
                {CHANNELS.flatMap((c) =>
                  Array.from({ length: m[c] }, (_, i) => (
                    <span key={`${c}${i}`} className={BLOCK[c]} style={{ width: `${load[c].cost}%` }} />
                  )),
                )}
              </span>
              {words}
            </li>
          );
        })}
      </ul>
      {mixes.length === 0 && <p className="text-small text-clay">No channel is taken.</p>}
    </section>
  );
}
