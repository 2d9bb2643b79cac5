'use client';

import { NO_LIMITS } from '@/core/routing/limits';
import type { GroupsView, PartnerLine } from '@/services/queues/groupsview';
import { Button } from '../kit/button';
import { EditForm } from '../kit/editform';
import { Input } from '../kit/field';
import { LimitsFields } from '../kit/limitsfields';
import { NumberIn } from '../kit/numberin';
import { ShareBar } from '../kit/sharebar';
import { Panel, Pill } from '../kit/panel';
import { LaterButton } from '../drafts/laterbutton';
import { RemoveButton } from '../removing/removebutton';
import { type GatheredThings, nameIn, wholeShape } from '../drafts/usegathered';
import { options, Select } from '../kit/select';
import { HoursIn, NameIn, usedOf, ZoneIn } from './agreement';
import { WeekStrip } from './weekstrip';

type NumberDraft = Omit<PartnerLine['numbers'][number], 'id' | 'use'> & { readonly id: string | null };

export type Draft = Omit<PartnerLine, 'id' | 'numbers' | 'usedBy' | 'use' | 'took'> & {
  readonly id: string | null;
  readonly numbers: readonly NumberDraft[];
};

export const draftOf = ({
  id,
  revision,
  name,
  zone,
  hoursId,
  limits,
  way,
  ringSeconds,
  countsFromSeconds,
  numbers,
}: PartnerLine): Draft => ({
  id,
  revision,
  name,
  zone,
  hoursId,
  limits,
  way,
  ringSeconds,
  countsFromSeconds,
  numbers: numbers.map(({ use: _use, ...n }) => n),
});

export const PARTNER_SHAPE = wholeShape<Draft>();

export const NEW_NUMBER: NumberDraft = {
  id: null,
  name: '',
  address: '',
  hoursId: null,
  limits: { ...NO_LIMITS, atOnce: 1 },
  perQueue: {},
};

/** Which numbers a queue rings first, and how those of one rank share its calls. */
function SharesOf({
  queueId,
  draft,
  nameOf,
  off,
  onNumbers,
}: {
  queueId: string;
  draft: Draft;
  nameOf: (id: string) => string;
  off: boolean;
  onNumbers: (numbers: readonly NumberDraft[]) => void;
}) {
  const placed = draft.numbers.map((n, i) => ({
    i,
    name: n.name || `number ${i + 1}`,
    ...(n.perQueue[queueId] ?? USUAL_PLACE),
  }));
  const ranks = [...new Set(placed.map((p) => p.rank))].sort((x, y) => x - y);
  const put = (places: ReadonlyMap<number, { rank: number; weight: number }>) =>
    onNumbers(
      draft.numbers.map((n, i) => {
        const place = places.get(i);
        return place ? { ...n, perQueue: { ...n.perQueue, [queueId]: place } } : n;
      }),
    );
  return (
    <li className="border-t border-rule py-2 first:border-t-0">
      <p className="mb-1 flex items-center text-small">
        <span>
          <b className="font-semibold">{nameOf(queueId)}</b> rings{' '}
          {ranks.length === 1 ? 'them alike, by these shares' : 'them in this order'}
        </span>
        {!off && (
          <Button
            small
            kind="quiet"
            className="ml-auto"
            aria-label={`Ring all alike for ${nameOf(queueId)}`}
            onClick={() =>
              onNumbers(
                draft.numbers.map((n) => {
                  const { [queueId]: _gone, ...rest } = n.perQueue;
                  return { ...n, perQueue: rest };
                }),
              )
            }
          >
            All alike
          </Button>
        )}
      </p>
      {ranks.map((rank, r) => {
        const mine = placed.filter((p) => p.rank === rank);
        return (
          <div key={rank} className="mb-1 flex items-center gap-2">
            <span className="w-14 shrink-0 text-tiny text-ink-2">{r === 0 ? 'first' : 'then'}</span>
            <div className="min-w-0 flex-1">
              <ShareBar
                label={`Shares for ${nameOf(queueId)}, ${r + 1}`}
                shares={mine.map((p) => ({ id: String(p.i), name: p.name, weight: p.weight }))}
                disabled={off}
                onChange={(shares) => put(new Map(shares.map((s) => [Number(s.id), { rank, weight: s.weight }])))}
              />
            </div>
            {!off && placed.length > 1 && (
              <span className="flex w-40 shrink-0 justify-end gap-1">
                {mine.map((p) => (
                  <Button
                    key={p.i}
                    small
                    kind="quiet"
                    aria-label={`Ring ${p.name} ${r === 0 ? 'later' : 'sooner'} for ${nameOf(queueId)}`}
                    title={p.name}
                    disabled={r === 0 && mine.length === 1 && ranks.length === 1}
                    onClick={() =>
                      put(
                        new Map([
                          [p.i, { rank: r === 0 ? (ranks[1] ?? rank + 1) : (ranks[r - 1] ?? 1), weight: p.weight }],
                        ]),
                      )
                    }
                  >
                    {r === 0 ? 'later' : 'sooner'}
                  </Button>
                ))}
              </span>
            )}
          </div>
        );
      })}
    </li>
  );
}
const USUAL_PLACE = { rank: 1, weight: 1 };

export function PartnerForm({
  gathered,
  draft,
  kept,
  view,
}: {
  gathered: GatheredThings<Draft>;
  draft: Draft;
  kept: PartnerLine | undefined;
  view: GroupsView;
}) {
  const nameOf = nameIn(view.queues, view.hours);
  const { busy, faults, changed, notes } = gathered;
  const set = (change: Partial<Draft>) => gathered.set({ ...draft, ...change });
  const setNumber = (i: number, change: Partial<NumberDraft>) =>
    set({ numbers: draft.numbers.map((n, j) => (j === i ? { ...n, ...change } : n)) });
  const off = !view.mayChange;
  return (
    <EditForm
      kind="partner desk"
      name={draft.name}
      marks={
        kept && <Pill>{kept.usedBy.length === 0 ? 'no queue rings it' : `rung by ${kept.usedBy.join(', ')}`}</Pill>
      }
      tools={
        kept &&
        view.mayChange && (
          <RemoveButton
            kind="partner"
            id={kept.id}
            name={kept.name}
            onRemoved={() => void gathered.settled(kept.id, null)}
          />
        )
      }
      keptName={kept?.name ?? null}
      changed={changed}
      busy={busy}
      mayChange={view.mayChange}
      notes={notes}
      onUndo={gathered.undo}
      onApply={() => void gathered.apply(`${draft.name} applied; it counts from the next call on.`)}
      later={<LaterButton kind="partner" gathered={gathered} shape={PARTNER_SHAPE} />}
    >
      <Panel className="p-4" label="The agreement">
        <NameIn
          name={draft.name}
          hint="Who they are"
          disabled={off}
          fault={faults.name}
          onChange={(name) => set({ name })}
        />
        <div className="leading-9">
          Ring {draft.numbers.length === 1 ? 'their number' : `their ${draft.numbers.length} numbers`}{' '}
          {draft.numbers.length > 1 && (
            <Select
              compact
              aria-label="How their numbers are rung"
              disabled={off}
              value={draft.way}
              onChange={(chosen) => set({ way: chosen === 'all-at-once' ? 'all-at-once' : 'one-by-one' })}
            >
              <option value="one-by-one">one after another</option>
              <option value="all-at-once">together</option>
            </Select>
          )}{' '}
          until one answers, each for{' '}
          <NumberIn
            label="Each rings, s"
            value={draft.ringSeconds}
            least={5}
            most={120}
            disabled={off}
            onChange={(ringSeconds) => set({ ringSeconds })}
          />{' '}
          s, and{' '}
          <LimitsFields
            label="Contacts at most, by all its numbers"
            limits={draft.limits}
            used={kept && usedOf(kept.use)}
            disabled={off}
            onChange={(limits) => set({ limits })}
          />
          . A call counts once it has lasted{' '}
          <NumberIn
            label="Counts from, s"
            value={draft.countsFromSeconds}
            least={0}
            most={3600}
            disabled={off}
            onChange={(countsFromSeconds) => set({ countsFromSeconds })}
          />{' '}
          s. They are there{' '}
          <HoursIn
            label="Hours of the desk"
            hoursId={draft.hoursId}
            view={view}
            onChange={(hoursId) => set({ hoursId })}
          />
          , and <ZoneIn zone={draft.zone} disabled={off} fault={faults.zone} onChange={(zone) => set({ zone })} />
        </div>
        {draft.numbers.length > 0 && (
          <p className="text-small text-ink-2">
            Whichever is reached first holds them back: the limits of all together, or those of a number itself.
          </p>
        )}
        {kept && (
          <div className="mt-3">
            <WeekStrip
              weekly={draft.hoursId === null ? null : (view.hours.find((h) => h.id === draft.hoursId)?.weekly ?? [])}
              took={kept.took}
              perHour={draft.limits.perHour}
            />
          </div>
        )}
      </Panel>
      <Panel className="p-4" label="Their numbers">
        <h3 className="text-panel">Their numbers</h3>
        {faults.numbers && <p className="text-small text-clay">{faults.numbers}</p>}
        <ul>
          {draft.numbers.map((n, i) => {
            const live = kept?.numbers.find((x) => x.id === n.id);
            const called = n.name || `Number ${i + 1}`;
            return (
              <li
                key={n.id ?? `new${i}`}
                aria-label={called}
                className="flex items-start gap-2 border-t border-rule py-2 leading-9 first:border-t-0"
              >
                <div className="min-w-0 flex-1">
                  <Input
                    aria-label="Number’s name"
                    placeholder="What it is"
                    className="!inline-block !w-40 !px-1.5 !py-0.5 font-medium"
                    disabled={off}
                    value={n.name}
                    maxLength={60}
                    onChange={(e) => setNumber(i, { name: e.target.value })}
                  />{' '}
                  is{' '}
                  <Input
                    aria-label="Number"
                    placeholder="+ country code …"
                    className="!inline-block !w-44 !px-1.5 !py-0.5"
                    disabled={off}
                    value={n.address}
                    onChange={(e) => setNumber(i, { address: e.target.value })}
                  />
                  , there{' '}
                  <HoursIn
                    label="Hours of this number"
                    hoursId={n.hoursId}
                    view={view}
                    onChange={(hoursId) => setNumber(i, { hoursId })}
                  />{' '}
                  for{' '}
                  <LimitsFields
                    label="Calls at most"
                    limits={n.limits}
                    used={live && usedOf(live.use)}
                    disabled={off}
                    onChange={(limits) => setNumber(i, { limits })}
                  />
                  .
                </div>
                {!off && draft.numbers.length > 1 && (
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Remove ${called}`}
                    onClick={() => set({ numbers: draft.numbers.filter((_, j) => j !== i) })}
                  >
                    Remove
                  </Button>
                )}
              </li>
            );
          })}
        </ul>
        {draft.numbers.length > 1 && (
          <>
            <h3 className="mt-2 text-small font-semibold">Who rings which</h3>
            <p className="text-small text-ink-2">Every queue rings them alike, but for these.</p>
            <ul>
              {[...new Set(draft.numbers.flatMap((n) => Object.keys(n.perQueue)))].map((queueId) => (
                <SharesOf
                  key={queueId}
                  queueId={queueId}
                  draft={draft}
                  nameOf={nameOf}
                  off={off}
                  onNumbers={(numbers) => set({ numbers })}
                />
              ))}
            </ul>
            {!off && (
              <Select
                aria-label="Ring them otherwise for a queue"
                className="mt-1 !w-72"
                value=""
                onChange={(chosen) => {
                  if (chosen)
                    set({
                      numbers: draft.numbers.map((n) => ({ ...n, perQueue: { ...n.perQueue, [chosen]: USUAL_PLACE } })),
                    });
                }}
              >
                <option value="">Otherwise for a queue…</option>
                {options(view.queues.filter((q) => !draft.numbers.some((n) => q.id in n.perQueue)))}
              </Select>
            )}
          </>
        )}
      </Panel>
      {!off && (
        <Button className="self-start" onClick={() => set({ numbers: [...draft.numbers, NEW_NUMBER] })}>
          Add a number
        </Button>
      )}
    </EditForm>
  );
}
