'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import type { Channel } from '@/core/channels';
import { localised } from '@/core/localised';
import { type Stage, type StageAct, WAIT_CHOICES, type WaitChoice } from '@/core/routing/clock';
import { type ActPlace, changeAct, setEarly, spokenSeconds } from '@/core/routing/clockedit';
import type { QueuesView } from '@/services/queues/queuesview';
import { Button } from '../../kit/button';
import { Check, Field, Input } from '../../kit/field';
import { options, Select } from '../../kit/select';
import { WordingField } from '../../kit/wording';
import { namesIn } from '../draft';
import { OnwardFields } from './onward';

const TITLES: Readonly<Record<StageAct['does'], string>> = {
  lower: 'Loosen a skill',
  'add-group': 'Ask a group as well',
  'add-partner': 'Ring a partner desk as well',
  raise: 'More urgent',
  say: 'Say something',
  play: 'Play music',
  ask: 'Offer a way out',
  move: 'Move on',
};
const CHOICE_WORDS: Readonly<Record<WaitChoice, string>> = {
  callback: 'call me back',
  message: 'leave a message',
};

type Props = {
  act: StageAct;
  place: ActPlace;
  stages: readonly Stage[];
  channel: Channel;
  view: QueuesView;
  disabled: boolean;
  onChange: (stages: readonly Stage[]) => void;
  onMove: (seconds: number) => void;
  onRemove: () => void;
  onClose: () => void;
};

/** The chosen act of a clock, with its second typed. */
export function ActEditor({ act, place, stages, channel, view, disabled, onChange, onMove, onRemove, onClose }: Props) {
  const stage = stages[place.stage];
  /** Seconds are typed in peace: the act moves once they are all there. */
  const [typed, setTyped] = useState<string | null>(null);
  const commit = () => {
    const to = Number(typed);
    if (typed !== null && typed.trim() !== '' && Number.isFinite(to) && to !== stage?.atSeconds) onMove(to);
    setTyped(null);
  };
  const set = (next: StageAct) => onChange(changeAct(stages, place, next));
  const routing =
    act.does === 'lower' ||
    act.does === 'add-group' ||
    act.does === 'add-partner' ||
    act.does === 'raise' ||
    act.does === 'move';
  const names = namesIn(view);
  const every = (value: number | null, change: (everySeconds: number | null) => void) => (
    <Field label="Again every, s" hint="Empty: once">
      {(p) => (
        <Input
          {...p}
          type="number"
          min={5}
          max={3600}
          disabled={disabled}
          value={value ?? ''}
          onChange={(e) => change(Number.isNaN(e.target.valueAsNumber) ? null : e.target.valueAsNumber)}
        />
      )}
    </Field>
  );
  return (
    <section
      aria-label="Chosen on the clock"
      className="mt-2 rounded-control border border-rule-strong bg-sunk/40 p-3"
      onKeyDown={(e) => {
        if (e.key === 'Escape') onClose();
      }}
    >
      <div className="mb-2 flex items-center gap-3">
        <h3 className="text-base">{TITLES[act.does]}</h3>
        <span className="flex items-center gap-1.5 text-small text-ink-2">
          at{' '}
          <Input
            type="number"
            min={0}
            max={86_400}
            aria-label="At second"
            title="Enter moves it there"
            className="!w-20 !py-0.5"
            disabled={disabled}
            value={typed ?? stage?.atSeconds ?? 0}
            onChange={(e) => setTyped(e.target.value)}
            onBlur={commit}
            onKeyDown={(e) => {
              if (e.key === 'Enter') {
                e.preventDefault();
                commit();
              }
            }}
          />{' '}
          s
        </span>
        {routing && (
          <Check
            disabled={disabled}
            checked={stage?.early ?? false}
            onChange={(e) => onChange(setEarly(stages, place.stage, e.target.checked))}
            label="or once everybody asked so far is full"
          />
        )}
        <span className="ml-auto flex gap-1">
          {!disabled && (
            <Button small kind="danger" onClick={onRemove}>
              Take out
            </Button>
          )}
          <Button small kind="quiet" onClick={onClose}>
            Done
          </Button>
        </span>
      </div>
      {act.does === 'lower' && (
        <div className="flex items-end gap-3">
          <div className="w-52">
            <Field label="Skill">
              {(p) => (
                <Select
                  {...p}
                  disabled={disabled}
                  value={act.skillId}
                  onChange={(chosen) => set({ ...act, skillId: chosen })}
                >
                  {options(view.skills)}
                </Select>
              )}
            </Field>
          </div>
          <div className="w-32">
            <Field label="Levels lower">
              {(p) => (
                <Select
                  {...p}
                  disabled={disabled}
                  value={act.by}
                  onChange={(chosen) => set({ ...act, by: Number(chosen) })}
                >
                  {options([1, 2, 3, 4, 5])}
                </Select>
              )}
            </Field>
          </div>
          <p className="pb-2 text-small text-ink-2">
            Below 1, {names.skill(act.skillId)} is no longer needed. A firm need stays.
          </p>
        </div>
      )}
      {act.does === 'add-group' && (
        <div className="w-64">
          <Field label="Group">
            {(p) => (
              <Select
                {...p}
                disabled={disabled}
                value={act.groupId}
                onChange={(chosen) => set({ ...act, groupId: chosen })}
              >
                {options(view.groups)}
              </Select>
            )}
          </Field>
        </div>
      )}
      {act.does === 'add-partner' && (
        <div className="w-64">
          <Field label="Partner desk">
            {(p) => (
              <Select
                {...p}
                disabled={disabled}
                value={act.partnerId}
                onChange={(chosen) => set({ ...act, partnerId: chosen })}
              >
                {options(view.partners)}
              </Select>
            )}
          </Field>
        </div>
      )}
      {act.does === 'raise' && (
        <div className="w-40">
          <Field label="Urgency rises by" hint="Within a band the more urgent come first">
            {(p) => (
              <Input
                {...p}
                type="number"
                min={1}
                max={9}
                disabled={disabled}
                value={act.by}
                onChange={(e) => {
                  if (!Number.isNaN(e.target.valueAsNumber)) set({ ...act, by: e.target.valueAsNumber });
                }}
              />
            )}
          </Field>
        </div>
      )}
      {act.does === 'play' && (
        <div className="w-64">
          <Field label="Music" hint="Plays until other music, or a person">
            {(p) => (
              <Select
                {...p}
                disabled={disabled}
                value={act.music}
                onChange={(chosen) => set({ ...act, music: chosen })}
              >
                {!view.music.some((m) => m.id === act.music) && <option value={act.music}>music that is gone</option>}
                {options(view.music)}
              </Select>
            )}
          </Field>
        </div>
      )}
      {act.does === 'say' && (
        <div className="grid gap-3 md:grid-cols-[minmax(0,1fr)_130px]">
          <WordingField
            label="Says"
            wording={act.wording}
            languages={view.languages}
            disabled={disabled}
            onChange={(wording) => set({ ...act, wording })}
          />
          {every(act.everySeconds, (everySeconds) => set({ ...act, everySeconds }))}
          <p className="text-tiny text-ink-3">
            About {spokenSeconds(localised(act.wording, view.languages[0] ?? 'en', view.languages))} s to speak.{' '}
            {'{wait}'} is the expected wait, {'{place}'} the place in line.
          </p>
        </div>
      )}
      {act.does === 'ask' && (
        <div className="grid gap-3 md:grid-cols-[minmax(0,1fr)_250px_120px]">
          <WordingField
            label="Says"
            wording={act.wording}
            languages={view.languages}
            disabled={disabled}
            onChange={(wording) => set({ ...act, wording })}
          />
          <fieldset disabled={disabled}>
            <legend className="mb-1 text-small font-medium text-ink-2">
              {channel === 'voice' ? 'Ways out, by key' : 'Ways out, by button'}
            </legend>
            {WAIT_CHOICES.map((what) => {
              const mine = act.choices.find((c) => c.what === what);
              return (
                <div key={what} className="flex items-center gap-2 py-0.5">
                  <Check
                    checked={mine !== undefined}
                    label={CHOICE_WORDS[what]}
                    onChange={(e) =>
                      set({
                        ...act,
                        choices: e.target.checked
                          ? [...act.choices, { key: String(act.choices.length + 1), what }]
                          : act.choices.filter((c) => c.what !== what),
                      })
                    }
                  />
                  {mine && (
                    <Input
                      aria-label={`Key for ${CHOICE_WORDS[what]}`}
                      className="ml-auto !w-11 !px-1 !py-0.5 text-center"
                      maxLength={1}
                      value={mine.key}
                      onChange={(e) =>
                        set({
                          ...act,
                          choices: act.choices.map((c) => (c === mine ? { ...c, key: e.target.value.slice(-1) } : c)),
                        })
                      }
                    />
                  )}
                </div>
              );
            })}
          </fieldset>
          {every(act.everySeconds, (everySeconds) => set({ ...act, everySeconds }))}
          <p className="text-tiny text-ink-3 md:col-span-3">Whoever takes none of them keeps their place.</p>
          {act.choices.some((c) => c.what === 'callback') && (stage?.atSeconds ?? 0) < 30 && (
            <p className={clsx('text-tiny text-brass-ink md:col-span-3')}>
              A callback offered before 30 s takes calls that would have been answered soon.
            </p>
          )}
        </div>
      )}
      {act.does === 'move' && (
        <OnwardFields
          onward={act.onward}
          view={view}
          disabled={disabled}
          onChange={(onward) => set({ ...act, onward })}
        />
      )}
    </section>
  );
}
