'use client';

import { clsx } from 'clsx';
import { PICKING_RULES, type PickingRule, READY_ORDERS } from '@/core/routing/queue';
import { ORDER_NAMES, RULE_WORDS } from '@/core/routing/queuesentence';
import { Button } from '../../kit/button';
import { Check, Field, Input } from '../../kit/field';
import { options, Select } from '../../kit/select';
import { number, type Part } from './part';

export function Order({ settings: s, disabled, onChange }: Part) {
  const swap = (i: number, j: number) => {
    const order = [...s.order];
    const [a, b] = [order[i], order[j]];
    if (a && b) {
      order[i] = b;
      order[j] = a;
      onChange({ order });
    }
  };
  const unused = PICKING_RULES.filter((r) => !s.order.includes(r));
  return (
    <div className="flex flex-col gap-4">
      <div role="radiogroup" aria-label="Ready-made picking orders" className="grid gap-2 sm:grid-cols-3">
        {(Object.keys(READY_ORDERS) as (keyof typeof READY_ORDERS)[]).map((id) => {
          const on = JSON.stringify(READY_ORDERS[id]) === JSON.stringify(s.order);
          return (
            <label
              key={id}
              className={clsx('flex gap-2 rounded-control border p-2', on ? 'border-brass-2 bg-chosen' : 'border-rule')}
            >
              <input
                type="radio"
                name="order"
                className="mt-1 accent-plum"
                disabled={disabled}
                checked={on}
                onChange={() => onChange({ order: [...READY_ORDERS[id]] })}
              />
              <span>
                <span className="font-display font-semibold">{ORDER_NAMES[id].name}</span>
                <span className="block text-small text-ink-2">{ORDER_NAMES[id].means}</span>
              </span>
            </label>
          );
        })}
      </div>
      <details
        open={
          !(Object.values(READY_ORDERS) as readonly (readonly PickingRule[])[]).some(
            (o) => JSON.stringify(o) === JSON.stringify(s.order),
          )
        }
      >
        <summary className="font-display font-semibold">Adjust</summary>
        <ol className="mt-2 flex flex-col gap-1">
          {s.order.map((rule, i) => (
            <li
              key={rule}
              className="flex items-center gap-2 rounded-control border border-rule px-2 py-1.5 text-small"
            >
              <b className="w-5">{i + 1}.</b>
              <span className="flex-1">
                <span className="font-medium">{RULE_WORDS[rule].name}</span>{' '}
                <span className="text-ink-2">{RULE_WORDS[rule].means}</span>
              </span>
              {!disabled && (
                <>
                  <Button
                    small
                    kind="quiet"
                    aria-label={`${RULE_WORDS[rule].name} earlier`}
                    disabled={i === 0}
                    onClick={() => swap(i, i - 1)}
                  >
                    ↑
                  </Button>
                  <Button
                    small
                    kind="quiet"
                    aria-label={`${RULE_WORDS[rule].name} later`}
                    disabled={i === s.order.length - 1}
                    onClick={() => swap(i, i + 1)}
                  >
                    ↓
                  </Button>
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Remove ${RULE_WORDS[rule].name}`}
                    disabled={s.order.length === 1}
                    onClick={() => onChange({ order: s.order.filter((r) => r !== rule) })}
                  >
                    Remove
                  </Button>
                </>
              )}
            </li>
          ))}
        </ol>
        {!disabled && unused.length > 0 && (
          <Select
            aria-label="Add a picking rule"
            className="mt-2 !w-64"
            value=""
            onChange={(chosen) => {
              const rule = unused.find((r) => r === chosen);
              if (rule) onChange({ order: [...s.order, rule] });
            }}
          >
            <option value="">Then by…</option>
            {options(unused, (r) => RULE_WORDS[r].name)}
          </Select>
        )}
        <p className="mt-1 text-tiny text-ink-3">
          What is still equal goes to whoever has gone longest without a contact, and then by lot.
        </p>
      </details>
      <div className="grid gap-3 sm:grid-cols-2">
        <fieldset disabled={disabled} className="rounded-control border border-rule p-3">
          <legend className="px-1 text-small font-medium">Somebody the customer knows</legend>
          <Check
            checked={s.familiar !== null}
            label="Whoever dealt with them last comes first"
            onChange={(e) => onChange({ familiar: e.target.checked ? { days: 14, holdSeconds: 60 } : null })}
          />
          {s.familiar && (
            <div className="mt-2 flex gap-3">
              <Field label="within days">
                {(p) => (
                  <Input
                    {...p}
                    type="number"
                    min={1}
                    max={365}
                    value={s.familiar?.days ?? 1}
                    onChange={(e) =>
                      onChange({
                        familiar: {
                          holdSeconds: s.familiar?.holdSeconds ?? 0,
                          days: number(e.target.valueAsNumber, 1),
                        },
                      })
                    }
                  />
                )}
              </Field>
              <Field label="held while full, s">
                {(p) => (
                  <Input
                    {...p}
                    type="number"
                    min={0}
                    max={3600}
                    value={s.familiar?.holdSeconds ?? 0}
                    onChange={(e) =>
                      onChange({
                        familiar: { days: s.familiar?.days ?? 1, holdSeconds: number(e.target.valueAsNumber, 0) },
                      })
                    }
                  />
                )}
              </Field>
            </div>
          )}
        </fieldset>
        <fieldset disabled={disabled} className="rounded-control border border-rule p-3">
          <legend className="px-1 text-small font-medium">How it is offered</legend>
          <Select
            aria-label="How it is offered"
            value={s.offering.way}
            onChange={(chosen) =>
              onChange({
                offering:
                  chosen === 'claim'
                    ? { way: 'claim' }
                    : chosen === 'ring-all'
                      ? { way: 'ring-all', most: 5 }
                      : { way: 'one' },
              })
            }
          >
            <option value="one">one person at a time</option>
            <option value="ring-all">several at once, the first has it</option>
            <option value="claim">taken by hand from a list</option>
          </Select>
          {s.offering.way === 'ring-all' && (
            <div className="mt-2 w-28">
              <Field label="at most at once">
                {(p) => (
                  <Input
                    {...p}
                    type="number"
                    min={2}
                    max={20}
                    value={s.offering.way === 'ring-all' ? s.offering.most : 2}
                    onChange={(e) =>
                      onChange({ offering: { way: 'ring-all', most: number(e.target.valueAsNumber, 2) } })
                    }
                  />
                )}
              </Field>
            </div>
          )}
          <div className="mt-2">
            <Check
              checked={s.missedSetsAway}
              label="Missing an offer sets somebody away"
              onChange={(e) => onChange({ missedSetsAway: e.target.checked })}
            />
          </div>
        </fieldset>
      </div>
    </div>
  );
}
