'use client';

import { clsx } from 'clsx';
import { type ReactNode, useState } from 'react';
import { type Wording, wordingOn } from '@/core/bots/model';
import { placesIn } from '@/core/bots/value';
import { type Channel, CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import { languageName, localised, missingLanguages } from '@/core/localised';
import { smsSegments } from '@/core/messages/segments';
import { speechSeconds, ssmlFault, wordingSpeech } from '@/core/messages/ssml';
import { Button } from '../../kit/button';
import { Area } from '../../kit/field';
import { Select } from '../../kit/select';
import { useAround, valuesKnown } from './around';

export const Value = ({ name }: { name: string }) => (
  <span className="rounded bg-brass-wash px-1.5 text-small text-brass-ink">{name}</span>
);

/** Wording with its values marked. */
export function Worded({ text }: { text: string }) {
  return (
    <>
      {text
        .split(/(\{[^{}]+\})/g)
        .map((part, i) =>
          /^\{.+\}$/.test(part) && placesIn(part).length > 0 ? (
            <Value key={i} name={part.slice(1, -1)} />
          ) : (
            <span key={i}>{part}</span>
          ),
        )}
    </>
  );
}

/** A line's wording as it is read, with the languages it is missing in. */
export function Quote({ wording, extra }: { wording: Wording; extra?: ReactNode }) {
  const { script } = useAround();
  const text = localised(wording.text, script.languages[0] ?? 'en', script.languages);
  const missing = missingLanguages(wording.text, script.languages);
  const variants = CHANNELS.filter((c) => Object.values(wording.on?.[c] ?? {}).some(Boolean));
  return (
    <span className="flex gap-3">
      <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">
        {text ? (
          <>
            “<Worded text={text} />”
          </>
        ) : (
          <span className="text-ink-3">nothing said</span>
        )}
      </span>
      <span className="text-tiny whitespace-nowrap text-ink-2">
        {extra}
        {variants.map((c) => (
          <span key={c} className="ml-1.5">
            own {CHANNEL_NAMES[c].name}
          </span>
        ))}
        {text && script.languages.length > 1 && (
          <span className="ml-2">
            {script.languages.map((l) => (
              <span key={l} className={clsx('ml-1', missing.includes(l) && 'font-semibold text-clay')}>
                {missing.includes(l) ? `no ${l}` : l}
              </span>
            ))}
          </span>
        )}
      </span>
    </span>
  );
}

/** How long a sentence is, where that matters. */
export function Lengths({ text, channels }: { text: string; channels: readonly Channel[] }) {
  if (!text) return null;
  const sms = smsSegments(text);
  const seconds = Math.round(speechSeconds(wordingSpeech(text)));
  const fault = channels.includes('voice') ? ssmlFault(text) : null;
  return (
    <span className="text-tiny text-ink-3">
      {channels.includes('voice') && (
        <span className={clsx(seconds > 20 && 'font-semibold text-clay')}>{seconds} s spoken</span>
      )}
      {channels.includes('voice') && channels.includes('sms') && ' · '}
      {channels.includes('sms') && (
        <span className={clsx(sms.segments > 3 && 'font-semibold text-clay')}>
          {sms.segments} SMS {sms.segments === 1 ? 'segment' : 'segments'}
        </span>
      )}
      {fault && <span className="block text-clay">{fault}</span>}
    </span>
  );
}

/** Wording in every language of the script, with values to put in and text of its own for a channel. */
export function WordingEditor({
  label,
  note,
  wording,
  rows = 2,
  onChange,
}: {
  label: string;
  /** What may stand in it besides values. */
  note?: string;
  wording: Wording;
  rows?: number;
  onChange: (wording: Wording) => void;
}) {
  const around = useAround();
  const { script, channels } = around;
  const [focused, setFocused] = useState<{ channel: Channel | null; language: string } | null>(null);
  const own = CHANNELS.filter((c) => wording.on?.[c]);
  const put = (channel: Channel | null, language: string, text: string) =>
    onChange(
      channel === null
        ? { ...wording, text: { ...wording.text, [language]: text } }
        : { ...wording, on: { ...wording.on, [channel]: { ...wording.on?.[channel], [language]: text } } },
    );
  const textOf = (channel: Channel | null, language: string): string =>
    (channel === null ? wording.text : wording.on?.[channel])?.[language] ?? '';
  const drop = (channel: Channel) => {
    const on = Object.fromEntries(Object.entries(wording.on ?? {}).filter(([c]) => c !== channel));
    onChange(Object.keys(on).length > 0 ? { ...wording, on } : { text: wording.text });
  };
  return (
    <div>
      {[null, ...own].map((channel) => (
        <div key={channel ?? 'all'} className={clsx(channel && 'mt-1.5 border-l-2 border-rule-strong pl-2')}>
          {channel && (
            <p className="mb-0.5 flex items-center gap-2 text-tiny text-ink-2">
              {label}, on {CHANNEL_NAMES[channel].name} only
              <Button small kind="quiet" onClick={() => drop(channel)}>
                As elsewhere
              </Button>
            </p>
          )}
          <div className={clsx('grid gap-2', script.languages.length > 1 && 'xl:grid-cols-2')}>
            {script.languages.map((l) => (
              <label key={l} className="min-w-0">
                <span className="mb-0.5 flex items-baseline justify-between gap-2 text-small font-medium text-ink-2">
                  <span>
                    {label}, {languageName(l)}
                    {note && <span className="ml-1.5 font-normal text-ink-3">{note}</span>}
                  </span>
                  <Lengths text={textOf(channel, l)} channels={channel ? [channel] : channels} />
                </span>
                <Area
                  aria-label={`${label}, ${languageName(l)}${channel ? `, ${CHANNEL_NAMES[channel].name}` : ''}`}
                  rows={rows}
                  lang={l}
                  maxLength={2000}
                  value={textOf(channel, l)}
                  onFocus={() => setFocused({ channel, language: l })}
                  onChange={(e) => put(channel, l, e.target.value)}
                />
              </label>
            ))}
          </div>
        </div>
      ))}
      {focused && (
        <div className="mt-1 flex flex-wrap items-center gap-1 text-tiny text-ink-3">
          put in{' '}
          {valuesKnown(around)
            .slice(0, 10)
            .map((v) => (
              <button
                key={v.name}
                type="button"
                title={v.from}
                onMouseDown={(e) => e.preventDefault()}
                onClick={() =>
                  put(focused.channel, focused.language, `${textOf(focused.channel, focused.language)}{${v.name}}`)
                }
                className="rounded bg-brass-wash px-1.5 text-brass-ink"
              >
                {v.name}
              </button>
            ))}
          {channels.length > 1 && (
            <Select
              aria-label={`${label}: own text for a channel`}
              className="!ml-auto !w-44 !py-0.5 text-tiny"
              value=""
              onChange={(chosen) => {
                const channel = CHANNELS.find((c) => c === chosen);
                if (channel) onChange({ ...wording, on: { ...wording.on, [channel]: {} } });
              }}
            >
              <option value="">own text on a channel…</option>
              {channels
                .filter((c) => !own.includes(c))
                .map((c) => (
                  <option key={c} value={c}>
                    {CHANNEL_NAMES[c].name}
                  </option>
                ))}
            </Select>
          )}
        </div>
      )}
    </div>
  );
}

export const plainWording = (wording: Wording, language: string, languages: readonly string[]): string =>
  localised(wordingOn(wording, 'chat'), language, languages);
