'use client';

import type { EntryCondition, EntryRule } from '@/core/routing/queue';
import { conditionWords } from '@/core/routing/queuesentence';
import { Button } from '../../kit/button';
import { Field, Input } from '../../kit/field';
import { Select } from '../../kit/select';
import { OnwardFields } from '../clock/onward';
import { number, type Part } from './part';

const CONDITIONS: readonly { readonly when: EntryCondition['when']; readonly name: string }[] = [
  { when: 'closed', name: 'the queue is closed' },
  { when: 'nobody', name: 'nobody on duty is able at any stage' },
  { when: 'waiting', name: 'so many wait already' },
  { when: 'expected', name: 'the expected wait is so long' },
];

export function Rules({ settings: s, view, own, disabled, onChange }: Part) {
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
                      onChange={(chosen) => set(i, { ...rule, if: begin(chosen) })}
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
