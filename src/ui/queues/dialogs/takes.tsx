'use client';

import { CHANNEL_NAMES, CHANNELS } from '@/core/channels';
import type { Level } from '@/core/people/levels';
import type { Need } from '@/core/routing/needs';
import { goalOf, USUAL_GOAL, USUAL_MESSAGE_GOAL } from '@/core/routing/queue';
import { Button } from '../../kit/button';
import { ChannelMark } from '../../kit/channelmark';
import { Check, Field, Input } from '../../kit/field';
import { options, Select } from '../../kit/select';
import { number, type Part } from './part';

export function Takes({ settings: s, view, disabled, nameFault, onChange }: Part) {
  const left = s.messageGoal ?? USUAL_MESSAGE_GOAL;
  const setLeft = (change: Partial<typeof left>) => onChange({ messageGoal: { ...left, ...change } });
  const unused = view.skills.filter((k) => !s.needs.some((n) => n.skillId === k.id));
  const setNeed = (need: Need, change: Partial<Need>) =>
    onChange({ needs: s.needs.map((n) => (n === need ? { ...n, ...change } : n)) });
  return (
    <div className="flex flex-col gap-4">
      <div className="grid grid-cols-2 gap-3">
        <Field label="Name" fault={nameFault}>
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
              onChange={(chosen) => onChange({ hoursId: chosen === '' ? null : chosen })}
            >
              <option value="">whenever a door is open</option>
              {options(view.hours)}
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
          <tr>
            <td className="py-0.5 pl-6">messages left here</td>
            <td>
              <Input
                aria-label="Messages: percent taken up"
                type="number"
                min={1}
                max={100}
                className="!w-20 !py-0.5"
                disabled={disabled}
                value={left.percent}
                onChange={(e) => setLeft({ percent: number(e.target.valueAsNumber, 1) })}
              />
            </td>
            <td>
              <Input
                aria-label="Messages: within seconds"
                type="number"
                min={1}
                className="!w-24 !py-0.5"
                disabled={disabled}
                value={left.seconds}
                onChange={(e) => setLeft({ seconds: number(e.target.valueAsNumber, 1) })}
              />
            </td>
          </tr>
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
                  onChange={(chosen) => {
                    const atLeast = Number(chosen) as Level;
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
                  onChange={(chosen) => {
                    const { atMost: _old, ...rest } = n;
                    onChange({
                      needs: s.needs.map((x) =>
                        x === n ? (chosen === '' ? rest : { ...rest, atMost: Number(chosen) as Level }) : x,
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
            onChange={(chosen) => {
              if (chosen) onChange({ needs: [...s.needs, { skillId: chosen, atLeast: 3 }] });
            }}
          >
            <option value="">Add a skill…</option>
            {options(unused)}
          </Select>
        )}
      </div>
    </div>
  );
}
