'use client';

import { clsx } from 'clsx';
import { createContext, useContext, useId, useState, type ReactNode } from 'react';
import { mayset } from '@/core/bots/graph';
import { cueWords } from '@/core/bots/edit';
import { allSteps, lineNumber, wordingOn, type BotScript, type Cue, type Wording } from '@/core/bots/model';
import { placesIn, VALUE_NAME, type Into } from '@/core/bots/value';
import { CHANNEL_NAMES, CHANNELS, type Channel } from '@/core/channels';
import { languageName, localised, missingLanguages } from '@/core/localised';
import { smsSegments } from '@/core/messages/segments';
import { speechSeconds, ssmlFault } from '@/core/messages/ssml';
import type { Surroundings } from '@/services/bots/bots';
import { Button } from '../kit/button';
import { Area, Input, Select } from '../kit/field';

/** What the pieces of a script's editor stand in: the script, what it can refer to, and the channels its doors are on. */
export type Around = {
  readonly script: BotScript;
  readonly view: Surroundings;
  readonly channels: readonly Channel[];
  readonly mayChange: boolean;
  /** The one scene of the script is a shared one, with these inputs. */ readonly inputs?: readonly string[];
};
const AroundContext = createContext<Around | null>(null);
export const AroundScript = AroundContext.Provider;
export function useAround(): Around {
  const around = useContext(AroundContext);
  if (!around) throw new Error('a piece of a script stands outside of one');
  return around;
}

/** The values that a script may know, with the lines that set them. */
export function valuesKnown({
  script,
  view,
  inputs = [],
}: Pick<Around, 'script' | 'view' | 'inputs'>): { readonly name: string; readonly from: string }[] {
  const set = new Map<string, string[]>(inputs.map((name) => [name, ['its inputs']]));
  for (const step of allSteps(script))
    for (const name of mayset(step)) set.set(name, [...(set.get(name) ?? []), lineNumber(script, step.id) ?? '']);
  for (const scene of view.shared)
    for (const step of scene.steps)
      for (const name of mayset(step)) set.set(name, [...(set.get(name) ?? []), scene.name]);
  const fields = view.fields.filter((f) => !set.has(f.name)).map((f) => ({ name: f.name, from: `field ${f.label}` }));
  return [
    ...[...set].map(([name, lines]) => ({ name, from: `set at ${[...new Set(lines)].slice(0, 3).join(', ')}` })),
    ...fields,
  ];
}

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
  const seconds = Math.round(speechSeconds(text));
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
  wording,
  rows = 2,
  onChange,
}: {
  label: string;
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
              onChange={(e) => {
                const channel = CHANNELS.find((c) => c === e.target.value);
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

const cueValue = (cue: Cue | null): string =>
  cue === null
    ? ''
    : cue.to === 'line'
      ? `line:${cue.lineId}`
      : cue.to === 'scene'
        ? `scene:${cue.sceneId}`
        : cue.to === 'shared'
          ? `shared:${cue.sharedId}`
          : cue.to;
function cueFrom(text: string): Cue | null {
  const [to = '', ...rest] = text.split(':');
  const id = rest.join(':');
  return to === 'line'
    ? { to, lineId: id }
    : to === 'scene'
      ? { to, sceneId: id }
      : to === 'shared'
        ? { to, sharedId: id }
        : to === 'next' || to === 'end'
          ? { to }
          : null;
}
export const useCueWords = (): ((cue: Cue) => string | null) => {
  const { script, view } = useAround();
  return (cue) => cueWords(script, cue, (id) => view.shared.find((s) => s.id === id)?.name ?? null);
};

/** Where a way goes, chosen among lines, scenes and shared scenes. */
export function CueSelect({
  label,
  cue,
  none,
  onChange,
}: {
  label: string;
  cue: Cue | null;
  none?: string;
  onChange: (cue: Cue | null) => void;
}) {
  const { script, view } = useAround();
  const words = useCueWords();
  return (
    <Select
      aria-label={label}
      className={clsx('!w-44 !py-1 text-small', cue !== null && words(cue) === null && '!border-clay')}
      value={cueValue(cue)}
      onChange={(e) => onChange(cueFrom(e.target.value))}
    >
      {cue !== null && words(cue) === null && <option value={cueValue(cue)}>gone</option>}
      {(none !== undefined || cue === null) && <option value="">{none ?? 'nowhere yet'}</option>}
      <option value="next">→ next line</option>
      <option value="end">→ end</option>
      <optgroup label="Scenes">
        {script.scenes.map((s, i) => (
          <option key={s.id} value={`scene:${s.id}`}>
            → {i + 1} {s.name}
          </option>
        ))}
      </optgroup>
      {view.shared.length > 0 && (
        <optgroup label="Shared scenes, and back">
          {view.shared.map((s) => (
            <option key={s.id} value={`shared:${s.id}`}>
              → {s.name}
            </option>
          ))}
        </optgroup>
      )}
      <optgroup label="Lines">
        {allSteps(script).map((s) => (
          <option key={s.id} value={`line:${s.id}`}>
            → {lineNumber(script, s.id)}
          </option>
        ))}
      </optgroup>
    </Select>
  );
}

/** The name of a value, offered as it is typed with where it is set. */
export function ValueInput({
  label,
  name,
  onChange,
  className = '!w-44',
  placeholder,
}: {
  label: string;
  name: string;
  onChange: (name: string) => void;
  className?: string;
  placeholder?: string;
}) {
  const around = useAround();
  const list = useId();
  return (
    <>
      <Input
        aria-label={label}
        list={list}
        placeholder={placeholder}
        aria-invalid={name !== '' && !VALUE_NAME.test(name)}
        className={clsx(className, '!py-1 text-small')}
        maxLength={60}
        value={name}
        onChange={(e) => onChange(e.target.value)}
      />
      <datalist id={list}>
        {valuesKnown(around).map((v) => (
          <option key={v.name} value={v.name}>
            {v.from}
          </option>
        ))}
      </datalist>
    </>
  );
}

/** Where something is remembered, and for how long. An empty name remembers nothing, where that may be. */
export function IntoInput({
  label,
  into,
  onChange,
}: {
  label: string;
  into: Into | null;
  onChange: (into: Into | null) => void;
}) {
  return (
    <span className="inline-flex items-center gap-1">
      <ValueInput
        label={label}
        className="!w-28"
        name={into?.name ?? ''}
        placeholder="nothing"
        onChange={(name) => onChange(name === '' ? null : { name, scope: into?.scope ?? 'conversation' })}
      />
      {into && (
        <Select
          aria-label={`${label}: kept for`}
          className="!w-40 !py-1 text-small"
          value={into.scope}
          onChange={(e) => onChange({ ...into, scope: e.target.value === 'scene' ? 'scene' : 'conversation' })}
        >
          <option value="conversation">the conversation</option>
          <option value="scene">this scene only</option>
        </Select>
      )}
    </span>
  );
}

/** A label beside small controls. */
export const Row = ({ label, children }: { label: string; children: ReactNode }) => (
  <div className="flex flex-wrap items-center gap-2 text-small">
    <span className="w-28 shrink-0 text-ink-2">{label}</span>
    {children}
  </div>
);
export const plainWording = (wording: Wording, language: string, languages: readonly string[]): string =>
  localised(wordingOn(wording, 'chat'), language, languages);
/** A whole number typed within bounds. */
export function Whole({
  label,
  value,
  least,
  most,
  unit,
  onChange,
}: {
  label: string;
  value: number;
  least: number;
  most: number;
  unit?: string;
  onChange: (value: number) => void;
}) {
  return (
    <span className="inline-flex items-center gap-1 text-small">
      <Input
        aria-label={label}
        type="number"
        min={least}
        max={most}
        className="!w-16 !py-1 text-right text-small"
        value={value}
        onChange={(e) => {
          if (!Number.isNaN(e.target.valueAsNumber))
            onChange(Math.min(most, Math.max(least, Math.round(e.target.valueAsNumber))));
        }}
      />
      {unit}
    </span>
  );
}
