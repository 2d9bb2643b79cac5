'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { CATEGORY_NAMES, OUTCOME_CATEGORIES, OUTCOME_DEFAULTS, type OutcomeCategory } from '@/core/outcomes';
import type { OutcomeLine, OutcomesView } from '@/services/queues/outcomes';
import { Button } from '../kit/button';
import { call } from '../kit/call';
import { doing } from '../kit/doing';
import { Check, Field, Input } from '../kit/field';
import { asCount } from '../kit/figures';
import { useLive } from '../kit/live';
import { Panel, PanelHead, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { options, Select } from '../kit/select';
import { Table } from '../kit/table';
import { StopNav } from '../lane/stopnav';

type Draft = Omit<OutcomeLine, 'uses' | 'queues' | 'place'> & { readonly isNew: boolean };
const draftOf = ({
  code,
  label,
  who,
  shortest,
  longest,
  category,
  reached,
  retired,
  revision,
}: OutcomeLine): Draft => ({ isNew: false, revision, code, label, who, shortest, longest, category, reached, retired });
const lengthWords = (o: OutcomeLine) =>
  o.shortest === null && o.longest === null
    ? 'any length'
    : o.longest === null
      ? `from ${o.shortest} s`
      : `${o.shortest ?? 0}–${o.longest} s`;

/** The queues that offer a code; `all` of them offer every code there is. */
const offeredIn = ({ who, queues }: OutcomeLine, all: number): string =>
  who === 'system'
    ? '–'
    : queues.length === 0 && all > 0
      ? `${all} queues with all codes`
      : [...queues, ...(all > 0 ? [`${all} with all`] : [])].join(', ');

/** What contacts come to: codes with who files them, when, and what they count as. */
export function OutcomesPage({ initial }: { initial: OutcomesView }) {
  const { data, refetch } = useLive<OutcomesView>('/api/read/outcomes', ['settings.changed', 'leg.ended'], initial);
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(null);
  const latest = async () => {
    const o = (await call<OutcomesView>('/api/read/outcomes')).outcomes.find((x) => x.code === draft?.code);
    return o && draftOf(o);
  };
  const reread = async (code: string) => {
    const o = (await refetch()).data?.outcomes.find((x) => x.code === code);
    setDraft(o ? draftOf(o) : null);
  };
  const { busy, faults, save, conflict } = useSaving('save-outcome', {
    latest,
    nameOf: (id) => id,
    onTheirs: () => void reread(draft?.code ?? ''),
    onSaved: ({ id }) => void reread(id),
  });
  const set = (change: Partial<Draft>) => {
    if (draft) setDraft({ ...draft, ...change });
  };
  const off = !view.mayChange;
  const kept = view.outcomes.find((o) => o.code === draft?.code);
  const submit = async () => {
    if (!draft) return;
    const saved = await save(draft, `${draft.code} kept.`);
    if (saved) await reread(saved.id);
  };
  const retire = async (code: string) => {
    if (await doing('retire-outcome', { code }, `${code} is offered no more; it can be undone in History.`))
      await reread(code);
  };
  const seconds = (value: number): number | null => (Number.isNaN(value) ? null : Math.max(0, Math.round(value)));
  return (
    <>
      <StopNav stop="Queues" />
      <main className="grid gap-3 p-4 pt-2.5 lg:grid-cols-[minmax(0,1fr)_340px]">
        {conflict}
        <Panel label="Outcome codes">
          <PanelHead title="Outcome codes" marks={<Pill>{view.outcomes.filter((o) => !o.retired).length} in use</Pill>}>
            {!off && (
              <Button
                kind="primary"
                onClick={() => setDraft({ ...OUTCOME_DEFAULTS, isNew: true, revision: 0, code: '', label: '' })}
              >
                Add a code
              </Button>
            )}
          </PanelHead>
          <Table
            label="Outcome codes"
            rows={view.outcomes}
            idOf={(o) => o.code}
            rowClass={(o) => clsx(draft?.code === o.code ? 'bg-chosen' : 'hover:bg-sunk/50', o.retired && 'text-ink-3')}
            columns={[
              {
                id: 'code',
                head: 'Code',
                by: (o) => o.code,
                cell: (o) => (
                  <button
                    type="button"
                    aria-pressed={draft?.code === o.code}
                    className="font-semibold"
                    onClick={() => setDraft(draftOf(o))}
                  >
                    {o.code}
                  </button>
                ),
              },
              {
                id: 'label',
                head: 'Label',
                by: (o) => o.label,
                cell: (o) => (
                  <>
                    {o.label} {o.retired && <Pill>retired</Pill>}
                  </>
                ),
              },
              {
                id: 'category',
                head: 'Counts as',
                by: (o) => CATEGORY_NAMES[o.category],
                className: 'text-small',
                cell: (o) =>
                  CATEGORY_NAMES[o.category] + (o.reached || o.category === 'no-contact' ? '' : ', nobody reached'),
              },
              {
                id: 'who',
                head: 'Filed by',
                className: 'text-small',
                cell: (o) => (o.who === 'system' ? 'the system' : 'agents'),
              },
              { id: 'length', head: 'Length', className: 'text-small', cell: lengthWords },
              {
                id: 'queues',
                head: 'Offered in',
                className: 'max-w-48 truncate text-small text-ink-2',
                cell: (o) => <span title={o.queues.join(', ')}>{offeredIn(o, view.all.length)}</span>,
              },
              { id: 'uses', head: 'Filed', figure: true, by: (o) => o.uses, cell: (o) => asCount(o.uses) },
            ]}
          />
        </Panel>
        {draft && (
          <Panel className="self-start p-4" label={draft.isNew ? 'New code' : `Code ${draft.code}`}>
            <form
              className="flex flex-col gap-3"
              onSubmit={(e) => {
                e.preventDefault();
                void submit();
              }}
            >
              <h2 className="text-panel">{draft.isNew ? 'New code' : draft.code}</h2>
              {draft.isNew && (
                <Field label="Code" fault={faults.code} hint="2 to 8 characters A–Z and 0–9">
                  {(p) => (
                    <Input
                      {...p}
                      value={draft.code}
                      maxLength={8}
                      onChange={(e) => set({ code: e.target.value.toUpperCase() })}
                    />
                  )}
                </Field>
              )}
              <Field label="Label" fault={faults.label}>
                {(p) => (
                  <Input
                    {...p}
                    disabled={off}
                    maxLength={40}
                    value={draft.label}
                    onChange={(e) => set({ label: e.target.value })}
                  />
                )}
              </Field>
              <Field label="Who files it">
                {(p) => (
                  <Select
                    {...p}
                    disabled={off}
                    value={draft.who}
                    onChange={(chosen) => set({ who: chosen === 'system' ? 'system' : 'agents' })}
                  >
                    <option value="agents">agents</option>
                    <option value="system">the system</option>
                  </Select>
                )}
              </Field>
              <div className="grid grid-cols-2 gap-3">
                <Field label="Shortest contact, s" fault={faults.shortest}>
                  {(p) => (
                    <Input
                      {...p}
                      type="number"
                      min={0}
                      disabled={off}
                      value={draft.shortest ?? ''}
                      onChange={(e) => set({ shortest: seconds(e.target.valueAsNumber) })}
                    />
                  )}
                </Field>
                <Field label="Longest contact, s" fault={faults.longest}>
                  {(p) => (
                    <Input
                      {...p}
                      type="number"
                      min={0}
                      disabled={off}
                      value={draft.longest ?? ''}
                      onChange={(e) => set({ longest: seconds(e.target.valueAsNumber) })}
                    />
                  )}
                </Field>
              </div>
              <Field label="Counts as">
                {(p) => (
                  <Select
                    {...p}
                    disabled={off}
                    value={draft.category}
                    onChange={(chosen) => set({ category: chosen as OutcomeCategory })}
                  >
                    {options(OUTCOME_CATEGORIES, (c) => CATEGORY_NAMES[c])}
                  </Select>
                )}
              </Field>
              <Check
                disabled={off}
                checked={draft.reached}
                label="Reached a person"
                onChange={(e) => set({ reached: e.target.checked })}
              />
              {!off && (
                <div className="flex gap-2">
                  <Button
                    kind="primary"
                    type="submit"
                    disabled={
                      busy ||
                      (kept !== undefined && !draft.isNew && JSON.stringify(draftOf(kept)) === JSON.stringify(draft))
                    }
                  >
                    {draft.isNew ? 'Add the code' : 'Apply'}
                  </Button>
                  {kept &&
                    !draft.isNew &&
                    (kept.retired ? (
                      <Button
                        onClick={() => {
                          set({ retired: false });
                        }}
                        disabled={!draft.retired}
                      >
                        Offer it again
                      </Button>
                    ) : (
                      <Button kind="danger" onClick={() => void retire(kept.code)}>
                        {kept.uses > 0 ? 'Retire' : 'Delete'}
                      </Button>
                    ))}
                </div>
              )}
              <p className="text-tiny text-ink-3">Every length of a contact must leave an agent at least one code.</p>
            </form>
          </Panel>
        )}
      </main>
    </>
  );
}
