'use client';

import { clsx } from 'clsx';
import { CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import type { Level } from '@/core/people/levels';
import type { Need } from '@/core/routing/needs';
import {
  goalOf,
  PICKING_RULES,
  READY_ORDERS,
  USUAL_GOAL,
  type EntryCondition,
  type EntryRule,
  type PickingRule,
  type QueueSettings,
  type WrapUp,
} from '@/core/routing/queue';
import { conditionWords, ORDER_NAMES, RULE_WORDS } from '@/core/routing/queuesentence';
import type { QueuesView } from '@/services/queues/queues';
import { Button } from '../kit/button';
import { ChannelMark } from '../kit/channelmark';
import { Dialog } from '../kit/dialog';
import { Check, Field, Input, Select } from '../kit/field';
import { WordingField } from '../kit/wording';
import type { SetQueue } from './draft';
import { OnwardFields } from './onward';

export type QueueDialog = 'takes' | 'order' | 'after' | 'rules';
type Part = {
  settings: Omit<QueueSettings, 'id'>;
  view: QueuesView;
  own: string | null;
  disabled: boolean;
  onChange: SetQueue;
};
const TITLES: Readonly<Record<QueueDialog, readonly [string, string]>> = {
  takes: ['What it takes', 'Channels with their goals, hours, and what whoever is asked must know'],
  order: ['Picks the person by', 'Whom a waiting contact prefers among those who are able'],
  after: [
    'On connection and after the contact',
    'What is said when they are joined, wrap-up, outcome codes, callbacks',
  ],
  rules: ['If it goes wrong', 'Looked at in this order when a contact enters; the first that holds decides'],
};

/** The parts of a queue that are not its clock, each in a dialog. What is changed here is gathered with the rest. */
export function QueueDialogs({ which, onClose, ...part }: Part & { which: QueueDialog; onClose: () => void }) {
  const [title, description] = TITLES[which];
  return (
    <Dialog open onClose={onClose} title={title} description={description} wide>
      {which === 'takes' && <Takes {...part} />}
      {which === 'order' && <Order {...part} />}
      {which === 'after' && <After {...part} />}
      {which === 'rules' && <Rules {...part} />}
      <div className="mt-4 flex">
        <Button kind="primary" className="ml-auto" onClick={onClose}>
          Done
        </Button>
      </div>
    </Dialog>
  );
}

const number = (value: number, least: number): number => (Number.isNaN(value) ? least : value);

function Takes({ settings: s, view, disabled, onChange }: Part) {
  const unused = view.skills.filter((k) => !s.needs.some((n) => n.skillId === k.id));
  const setNeed = (need: Need, change: Partial<Need>) =>
    onChange({ needs: s.needs.map((n) => (n === need ? { ...n, ...change } : n)) });
  return (
    <div className="flex flex-col gap-4">
      <div className="grid grid-cols-2 gap-3">
        <Field label="Name">
          {(p) => (
            <Input
              {...p}
              disabled={disabled}
              maxLength={60}
              value={s.name}
              onChange={(e) => onChange({ name: e.target.value })}
            />
          )}
        </Field>
        <Field label="Hours">
          {(p) => (
            <Select
              {...p}
              disabled={disabled}
              value={s.hoursId ?? ''}
              onChange={(e) => onChange({ hoursId: e.target.value === '' ? null : e.target.value })}
            >
              <option value="">whenever a door is open</option>
              {view.hours.map((h) => (
                <option key={h.id} value={h.id}>
                  {h.name}
                </option>
              ))}
            </Select>
          )}
        </Field>
      </div>
      <table className="text-small">
        <thead className="text-tiny text-ink-2">
          <tr>
            <th className="pb-1 text-left font-medium">Channel</th>
            <th className="text-left font-medium">Answer, %</th>
            <th className="text-left font-medium">within, s</th>
          </tr>
        </thead>
        <tbody>
          {CHANNELS.map((c) => {
            const on = s.channels.includes(c);
            const goal = goalOf(s, c);
            const setGoal = (change: object) => onChange({ goals: { ...s.goals, [c]: { ...goal, ...change } } });
            return (
              <tr key={c}>
                <td className="py-0.5">
                  <Check
                    disabled={disabled}
                    checked={on}
                    label={
                      <span className="inline-flex items-center gap-1.5">
                        <ChannelMark channel={c} size={15} />
                        {CHANNEL_NAMES[c].name}
                      </span>
                    }
                    onChange={(e) =>
                      onChange({
                        channels: CHANNELS.filter((x) => (x === c ? e.target.checked : s.channels.includes(x))),
                        goals: e.target.checked && !s.goals[c] ? { ...s.goals, [c]: USUAL_GOAL } : s.goals,
                      })
                    }
                  />
                </td>
                <td>
                  <Input
                    aria-label={`${CHANNEL_NAMES[c].name}: percent answered`}
                    type="number"
                    min={1}
                    max={100}
                    className="!w-20 !py-0.5"
                    disabled={disabled || !on}
                    value={goal.percent}
                    onChange={(e) => setGoal({ percent: number(e.target.valueAsNumber, 1) })}
                  />
                </td>
                <td>
                  <Input
                    aria-label={`${CHANNEL_NAMES[c].name}: within seconds`}
                    type="number"
                    min={1}
                    className="!w-24 !py-0.5"
                    disabled={disabled || !on}
                    value={goal.seconds}
                    onChange={(e) => setGoal({ seconds: number(e.target.valueAsNumber, 1) })}
                  />
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <div>
        <h3 className="text-base">Must know</h3>
        <p className="mb-1 text-small text-ink-2">
          A highest level keeps those above it free for harder work. What is firm is never loosened by the clock.
        </p>
        {s.needs.length === 0 && <p className="text-small text-ink-3">No skill is needed.</p>}
        <ul className="flex flex-col gap-1.5">
          {s.needs.map((n) => {
            const name = view.skills.find((k) => k.id === n.skillId)?.name ?? n.skillId;
            return (
              <li key={n.skillId} className="flex items-center gap-2 text-small">
                <span className="w-40 truncate font-medium">{name}</span>
                <Select
                  aria-label={`Lowest level of ${name}`}
                  className="!w-32 !py-1"
                  disabled={disabled}
                  value={n.atLeast}
                  onChange={(e) => {
                    const atLeast = Number(e.target.value) as Level;
                    setNeed(n, {
                      atLeast,
                      ...(n.atMost !== undefined && n.atMost < atLeast ? { atMost: atLeast } : {}),
                    });
                  }}
                >
                  {[1, 2, 3, 4, 5].map((l) => (
                    <option key={l} value={l}>
                      at least {l}
                    </option>
                  ))}
                </Select>
                <Select
                  aria-label={`Highest level of ${name}`}
                  className="!w-36 !py-1"
                  disabled={disabled}
                  value={n.atMost ?? ''}
                  onChange={(e) => {
                    const { atMost: _old, ...rest } = n;
                    onChange({
                      needs: s.needs.map((x) =>
                        x === n
                          ? e.target.value === ''
                            ? rest
                            : { ...rest, atMost: Number(e.target.value) as Level }
                          : x,
                      ),
                    });
                  }}
                >
                  <option value="">no highest</option>
                  {[1, 2, 3, 4, 5]
                    .filter((l) => l >= n.atLeast)
                    .map((l) => (
                      <option key={l} value={l}>
                        at most {l}
                      </option>
                    ))}
                </Select>
                <Check
                  disabled={disabled}
                  checked={n.firm ?? false}
                  label="firm"
                  onChange={(e) => setNeed(n, { firm: e.target.checked })}
                />
                {!disabled && (
                  <Button
                    small
                    kind="quiet"
                    className="ml-auto"
                    aria-label={`Remove ${name}`}
                    onClick={() => onChange({ needs: s.needs.filter((x) => x !== n) })}
                  >
                    Remove
                  </Button>
                )}
              </li>
            );
          })}
        </ul>
        {!disabled && unused.length > 0 && (
          <Select
            aria-label="Add a needed skill"
            className="mt-2 !w-56"
            value=""
            onChange={(e) => {
              if (e.target.value) onChange({ needs: [...s.needs, { skillId: e.target.value, atLeast: 3 }] });
            }}
          >
            <option value="">Add a skill…</option>
            {unused.map((k) => (
              <option key={k.id} value={k.id}>
                {k.name}
              </option>
            ))}
          </Select>
        )}
      </div>
    </div>
  );
}

function Order({ settings: s, disabled, onChange }: Part) {
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
            onChange={(e) => {
              const rule = unused.find((r) => r === e.target.value);
              if (rule) onChange({ order: [...s.order, rule] });
            }}
          >
            <option value="">Then by…</option>
            {unused.map((r) => (
              <option key={r} value={r}>
                {RULE_WORDS[r].name}
              </option>
            ))}
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
            onChange={(e) =>
              onChange({
                offering:
                  e.target.value === 'claim'
                    ? { way: 'claim' }
                    : e.target.value === 'ring-all'
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

const WRAPS: readonly { readonly way: WrapUp['way']; readonly name: string }[] = [
  { way: 'person', name: 'the person decides' },
  { way: 'up-to', name: 'up to so many seconds' },
  { way: 'exactly', name: 'exactly so many seconds' },
  { way: 'outcome', name: 'until an outcome is filed' },
];
function After({ settings: s, view, own, disabled, onChange }: Part) {
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
      <div className="grid gap-3 sm:grid-cols-2">
        <WordingField
          label="The agent hears first"
          wording={s.connect.toAgent}
          languages={view.languages}
          disabled={disabled}
          onChange={(toAgent) => onChange({ connect: { ...s.connect, toAgent } })}
        />
        <WordingField
          label="The customer hears first"
          wording={s.connect.toCustomer}
          languages={view.languages}
          disabled={disabled}
          onChange={(toCustomer) => onChange({ connect: { ...s.connect, toCustomer } })}
        />
      </div>
      <div className="flex gap-3">
        <div className="w-60">
          <Field label="Wrap-up">
            {(p) => (
              <Select
                {...p}
                disabled={disabled}
                value={s.wrapUp.way}
                onChange={(e) => {
                  const way = e.target.value as WrapUp['way'];
                  onChange({
                    wrapUp:
                      way === 'up-to' || way === 'exactly'
                        ? { way, seconds: 'seconds' in s.wrapUp ? s.wrapUp.seconds : 60 }
                        : { way },
                  });
                }}
              >
                {WRAPS.map((w) => (
                  <option key={w.way} value={w.way}>
                    {w.name}
                  </option>
                ))}
              </Select>
            )}
          </Field>
        </div>
        {'seconds' in s.wrapUp && (
          <div className="w-28">
            <Field label="Seconds">
              {(p) => (
                <Input
                  {...p}
                  type="number"
                  min={1}
                  max={3600}
                  disabled={disabled}
                  value={'seconds' in s.wrapUp ? s.wrapUp.seconds : 1}
                  onChange={(e) => {
                    if ('seconds' in s.wrapUp)
                      onChange({ wrapUp: { ...s.wrapUp, seconds: number(e.target.valueAsNumber, 1) } });
                  }}
                />
              )}
            </Field>
          </div>
        )}
      </div>
      <fieldset disabled={disabled}>
        <legend className="text-small font-medium text-ink-2">Outcome codes that agents see</legend>
        <div className="mt-1 flex flex-wrap gap-x-4 gap-y-1">
          {view.outcomes.map((o) => (
            <Check
              key={o.code}
              checked={s.outcomes === null || s.outcomes.includes(o.code)}
              label={`${o.code} ${o.label}`}
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
            onChange={(e) => {
              if (e.target.value) onChange({ fields: [...shown, e.target.value] });
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
                onChange={(e) => setCallback({ queueId: e.target.value === '' ? null : e.target.value })}
              >
                <option value="">this queue, place kept</option>
                {view.queues
                  .filter((q) => q.id !== own && q.channels.includes('voice'))
                  .map((q) => (
                    <option key={q.id} value={q.id}>
                      {q.name}
                    </option>
                  ))}
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
            {(
              [
                ['confirm', 'May we call this number?'],
                ['typeNumber', 'Asks for another number'],
                ['readBack', 'Reads a number back'],
                ['when', 'Asks when'],
                ['promised', 'Promises the call'],
              ] as const
            ).map(([id, label]) => (
              <WordingField
                key={id}
                label={label}
                wording={callback.wording[id]}
                languages={view.languages}
                disabled={disabled}
                onChange={(w) => setCallback({ wording: { ...callback.wording, [id]: w } })}
              />
            ))}
          </div>
          <p className="mt-1 text-tiny text-ink-3">
            Where nothing is worded a built-in sentence is said. {'{number}'} and {'{when}'} are filled in.
          </p>
        </details>
      </fieldset>
    </div>
  );
}

const CONDITIONS: readonly { readonly when: EntryCondition['when']; readonly name: string }[] = [
  { when: 'closed', name: 'the queue is closed' },
  { when: 'nobody', name: 'nobody on duty is able at any stage' },
  { when: 'waiting', name: 'so many wait already' },
  { when: 'expected', name: 'the expected wait is so long' },
];
function Rules({ settings: s, view, own, disabled, onChange }: Part) {
  const set = (i: number, rule: EntryRule) =>
    onChange({ entryRules: s.entryRules.map((r, j) => (j === i ? rule : r)) });
  const swap = (i: number, j: number) => {
    const list = [...s.entryRules];
    const [a, b] = [list[i], list[j]];
    if (a && b) {
      list[i] = b;
      list[j] = a;
      onChange({ entryRules: list });
    }
  };
  const begin = (when: string): EntryCondition =>
    when === 'waiting'
      ? { when, atLeast: 20 }
      : when === 'expected'
        ? { when, atLeast: 600 }
        : { when: when === 'nobody' ? 'nobody' : 'closed' };
  const others = { ...view, queues: view.queues.filter((q) => q.id !== own) };
  return (
    <div className="flex flex-col gap-3">
      {s.entryRules.length === 0 && <p className="text-small text-ink-2">No rule: everybody who comes waits here.</p>}
      <ol className="flex flex-col gap-3">
        {s.entryRules.map((rule, i) => (
          <li
            key={i}
            aria-label={`Rule ${i + 1}: ${conditionWords(rule)}`}
            className="rounded-control border border-rule p-3"
          >
            <div className="mb-2 flex items-end gap-2">
              <b className="pb-2">{i + 1}.</b>
              <div className="w-64">
                <Field label="If">
                  {(p) => (
                    <Select
                      {...p}
                      disabled={disabled}
                      value={rule.if.when}
                      onChange={(e) => set(i, { ...rule, if: begin(e.target.value) })}
                    >
                      {CONDITIONS.map((c) => (
                        <option key={c.when} value={c.when}>
                          {c.name}
                        </option>
                      ))}
                    </Select>
                  )}
                </Field>
              </div>
              {'atLeast' in rule.if && (
                <div className="w-28">
                  <Field label={rule.if.when === 'waiting' ? 'at least' : 'seconds or more'}>
                    {(p) => (
                      <Input
                        {...p}
                        type="number"
                        min={1}
                        disabled={disabled}
                        value={'atLeast' in rule.if ? rule.if.atLeast : 1}
                        onChange={(e) => {
                          if ('atLeast' in rule.if)
                            set(i, { ...rule, if: { ...rule.if, atLeast: number(e.target.valueAsNumber, 1) } });
                        }}
                      />
                    )}
                  </Field>
                </div>
              )}
              {!disabled && (
                <span className="ml-auto flex gap-1">
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Rule ${i + 1} earlier`}
                    disabled={i === 0}
                    onClick={() => swap(i, i - 1)}
                  >
                    ↑
                  </Button>
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Rule ${i + 1} later`}
                    disabled={i === s.entryRules.length - 1}
                    onClick={() => swap(i, i + 1)}
                  >
                    ↓
                  </Button>
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Remove rule ${i + 1}`}
                    onClick={() => onChange({ entryRules: s.entryRules.filter((_, j) => j !== i) })}
                  >
                    Remove
                  </Button>
                </span>
              )}
            </div>
            <OnwardFields
              onward={rule.then}
              view={others}
              disabled={disabled}
              onChange={(then) => set(i, { ...rule, then })}
            />
          </li>
        ))}
      </ol>
      {!disabled && (
        <Button
          className="self-start"
          onClick={() =>
            onChange({
              entryRules: [...s.entryRules, { if: { when: 'closed' }, then: { to: 'message', wording: {} } }],
            })
          }
        >
          Add a rule
        </Button>
      )}
    </div>
  );
}
