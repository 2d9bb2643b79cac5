'use client';

import { CALLBACK_PARTS, CALLBACK_SENTENCES } from '@/core/callbacks/sentences';
import { wrapUpWords } from '@/core/routing/queuesentence';
import { Button } from '../../kit/button';
import { Check, Field, Input } from '../../kit/field';
import { options, Select } from '../../kit/select';
import { WordingField } from '../../kit/wording';
import { number, type Part } from './part';

export function After({ settings: s, view, own, disabled, onChange }: Part) {
  const set = (
    list: readonly string[] | null,
    all: readonly string[],
    id: string,
    on: boolean,
  ): readonly string[] | null => {
    const next = on ? [...(list ?? all), id] : (list ?? all).filter((x) => x !== id);
    return all.every((x) => next.includes(x)) ? null : next;
  };
  const { callback } = s;
  const setCallback = (change: Partial<typeof callback>) => onChange({ callback: { ...callback, ...change } });
  const fieldIds = view.fields.map((f) => f.id);
  const shown = s.fields ?? fieldIds;
  const shift = (i: number, by: number) => {
    const list = [...shown];
    const [a, b] = [list[i], list[i + by]];
    if (a && b) {
      list[i] = b;
      list[i + by] = a;
      onChange({ fields: list });
    }
  };
  return (
    <div className="flex flex-col gap-4">
      <fieldset disabled={disabled} className="flex flex-wrap items-end gap-x-5 gap-y-2">
        <legend className="mb-1 text-small font-medium text-ink-2">Wrap-up</legend>
        <Check
          label="lasts"
          checked={s.wrapUp.seconds !== null}
          onChange={(e) =>
            onChange({
              wrapUp: e.target.checked
                ? { ...s.wrapUp, seconds: 60 }
                : { ...s.wrapUp, seconds: null, mayFinishEarly: true },
            })
          }
        />
        <span className="-ml-3 flex items-center gap-1.5">
          <Input
            aria-label="Seconds of wrap-up"
            type="number"
            min={1}
            max={3600}
            className="!w-20 !py-1"
            disabled={s.wrapUp.seconds === null}
            value={s.wrapUp.seconds ?? ''}
            onChange={(e) => onChange({ wrapUp: { ...s.wrapUp, seconds: number(e.target.valueAsNumber, 1) } })}
          />
          s
        </span>
        <Check
          label="may be ended early"
          disabled={s.wrapUp.seconds === null}
          checked={s.wrapUp.mayFinishEarly}
          onChange={(e) => onChange({ wrapUp: { ...s.wrapUp, mayFinishEarly: e.target.checked } })}
        />
        <Check
          label="outcome required"
          checked={s.wrapUp.needsOutcome}
          onChange={(e) => onChange({ wrapUp: { ...s.wrapUp, needsOutcome: e.target.checked } })}
        />
        <p className="w-full text-small text-ink-2">{wrapUpWords(s.wrapUp)}.</p>
      </fieldset>
      <fieldset disabled={disabled}>
        <legend className="text-small font-medium text-ink-2">Outcomes that agents see</legend>
        <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
          {view.outcomes.map((o) => (
            <Check
              key={o.code}
              checked={s.outcomes === null || s.outcomes.includes(o.code)}
              label={o.label}
              onChange={(e) =>
                onChange({
                  outcomes: set(
                    s.outcomes,
                    view.outcomes.map((x) => x.code),
                    o.code,
                    e.target.checked,
                  ),
                })
              }
            />
          ))}
        </div>
      </fieldset>
      <div>
        <p className="text-small font-medium text-ink-2">Fields the Desk shows, in this order</p>
        <ul className="mt-1 flex flex-col gap-0.5 text-small">
          {shown.map((id, i) => {
            const f = view.fields.find((x) => x.id === id);
            return (
              f && (
                <li key={id} className="flex items-center gap-2">
                  <span className="w-48">{f.label}</span>
                  {!disabled && (
                    <>
                      <Button
                        small
                        kind="quiet"
                        aria-label={`${f.label} earlier`}
                        disabled={i === 0}
                        onClick={() => shift(i, -1)}
                      >
                        ↑
                      </Button>
                      <Button
                        small
                        kind="quiet"
                        aria-label={`${f.label} later`}
                        disabled={i === shown.length - 1}
                        onClick={() => shift(i, 1)}
                      >
                        ↓
                      </Button>
                      <Button
                        small
                        kind="quiet"
                        aria-label={`Hide ${f.label}`}
                        onClick={() => onChange({ fields: shown.filter((x) => x !== id) })}
                      >
                        Hide
                      </Button>
                    </>
                  )}
                </li>
              )
            );
          })}
        </ul>
        {!disabled && shown.length < fieldIds.length && (
          <Select
            aria-label="Show a field"
            className="mt-1 !w-48"
            value=""
            onChange={(chosen) => {
              if (chosen) onChange({ fields: [...shown, chosen] });
            }}
          >
            <option value="">Show…</option>
            {view.fields
              .filter((f) => !shown.includes(f.id))
              .map((f) => (
                <option key={f.id} value={f.id}>
                  {f.label}
                </option>
              ))}
          </Select>
        )}
      </div>
      <fieldset disabled={disabled} className="rounded-control border border-rule p-3">
        <legend className="px-1 text-small font-medium">Callbacks asked for in this queue</legend>
        <div className="grid grid-cols-2 gap-3 sm:grid-cols-4">
          <Field label="Wait for their turn in">
            {(p) => (
              <Select
                {...p}
                value={callback.queueId ?? ''}
                onChange={(chosen) => setCallback({ queueId: chosen === '' ? null : chosen })}
              >
                <option value="">this queue, place kept</option>
                {options(view.queues.filter((q) => q.id !== own && q.channels.includes('voice')))}
              </Select>
            )}
          </Field>
          <Field label="Attempts">
            {(p) => (
              <Input
                {...p}
                type="number"
                min={1}
                max={10}
                value={callback.attempts}
                onChange={(e) => setCallback({ attempts: number(e.target.valueAsNumber, 1) })}
              />
            )}
          </Field>
          <Field label="Apart, minutes">
            {(p) => (
              <Input
                {...p}
                type="number"
                min={1}
                max={1440}
                value={callback.spacingMinutes}
                onChange={(e) => setCallback({ spacingMinutes: number(e.target.valueAsNumber, 1) })}
              />
            )}
          </Field>
          <Field label="Given up after, hours">
            {(p) => (
              <Input
                {...p}
                type="number"
                min={1}
                max={336}
                value={callback.expiryHours}
                onChange={(e) => setCallback({ expiryHours: number(e.target.valueAsNumber, 1) })}
              />
            )}
          </Field>
        </div>
        <details className="mt-2">
          <summary className="text-small font-medium">Sentences</summary>
          <div className="mt-2 grid gap-2 sm:grid-cols-2">
            {CALLBACK_SENTENCES.map((id) => (
              <WordingField
                key={id}
                label={[CALLBACK_PARTS[id].part, ...CALLBACK_PARTS[id].places.map((p) => `{${p}}`)].join(' ')}
                wording={callback.wording[id] ?? {}}
                languages={view.languages}
                disabled={disabled}
                onChange={(w) => setCallback({ wording: { ...callback.wording, [id]: w } })}
              />
            ))}
          </div>
          <p className="mt-1 text-tiny text-ink-3">
            Where nothing is worded a built-in sentence is said. What stands in braces is filled in; {'{options}'} are
            the answers with their keys, said at the end where they have no place.
          </p>
        </details>
      </fieldset>
    </div>
  );
}
