'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { CATEGORY_NAMES, OUTCOME_CATEGORIES, OUTCOME_DEFAULTS, type OutcomeCategory } from '@/core/outcomes';
import type { OutcomeLine, OutcomesView } from '@/services/queues/outcomes';
import { Button } from '../kit/button';
import { call } from '../kit/call';
import { doing } from '../kit/doing';
import { Field, Input } from '../kit/field';
import { useLive } from '../kit/live';
import { Panel, PanelHead, Pill } from '../kit/panel';
import { useSaving } from '../kit/saving';
import { options, Select } from '../kit/select';
import { StopNav } from '../lane/stopnav';
import { OutcomeRuler } from './outcomeruler';

type Draft = Omit<OutcomeLine, 'uses' | 'queues' | 'place' | 'code'> & { readonly code: string | null };
const draftOf = ({ code, label, who, shortest, longest, category, retired, revision }: OutcomeLine): Draft => ({
  revision,
  code,
  label,
  who,
  shortest,
  longest,
  category,
  retired,
});
/** Stands for the one that is not added yet. */
const NEW = ' new';

/** The queues that offer an outcome; `all` of them offer every one there is. */
const offeredIn = ({ who, queues }: OutcomeLine, all: number): string =>
  who === 'system'
    ? 'The system files it, so that no queue offers it.'
    : `Offered in ${[...queues, ...(all > 0 ? [`${all} ${all === 1 ? 'queue' : 'queues'} with all outcomes`] : [])].join(', ') || 'no queue'}.`;

/** What contacts come to: short phrases on a ruler of how long contacts last, by what they count as. */
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
  const inUse = view.outcomes.filter((o) => !o.retired);
  const retired = view.outcomes.filter((o) => o.retired);
  // What is being changed is drawn as it will be.
  const drawn = [
    ...inUse.map((o) => ({ ...o, ...(o.code === draft?.code ? draft : {}), key: o.code })),
    ...(draft?.code === null ? [{ ...draft, key: NEW, uses: 0 }] : []),
  ];
  const submit = async () => {
    if (!draft) return;
    const saved = await save(draft, `“${draft.label}” is kept.`);
    if (saved) await reread(saved.id);
  };
  const retire = async ({ code, label }: OutcomeLine) => {
    if (await doing('retire-outcome', { code }, `“${label}” is offered no more; it can be undone in History.`))
      await reread(code);
  };
  const seconds = (value: number): number | null => (Number.isNaN(value) ? null : Math.max(0, Math.round(value)));
  return (
    <>
      <StopNav stop="Queues" />
      <main className={clsx('grid gap-3 p-4 pt-2.5', draft && 'lg:grid-cols-[minmax(0,1fr)_340px]')}>
        {conflict}
        <Panel label="Outcomes" className="min-w-0">
          <PanelHead title="Outcomes" marks={<Pill>{inUse.length} in use</Pill>}>
            {!off && (
              <Button
                kind="primary"
                onClick={() => setDraft({ ...OUTCOME_DEFAULTS, revision: 0, code: null, label: '' })}
              >
                Add an outcome
              </Button>
            )}
          </PanelHead>
          <OutcomeRuler
            outcomes={drawn}
            openKey={draft && (draft.code ?? NEW)}
            onOpen={(key) => {
              const o = view.outcomes.find((x) => x.code === key);
              if (o) setDraft(draftOf(o));
            }}
          />
          {retired.length > 0 && (
            <div className="border-t border-rule px-4 py-2 text-small text-ink-2">
              Retired:{' '}
              {retired.map((o) => (
                <button
                  key={o.code}
                  type="button"
                  className="mr-3 text-plum hover:underline"
                  onClick={() => setDraft(draftOf(o))}
                >
                  {o.label}
                </button>
              ))}
            </div>
          )}
        </Panel>
        {draft && (
          <Panel className="self-start p-4" label={draft.code === null ? 'New outcome' : 'Outcome'}>
            <form
              className="flex flex-col gap-3"
              onSubmit={(e) => {
                e.preventDefault();
                void submit();
              }}
            >
              <h2 className="text-panel">{draft.code === null ? 'New outcome' : kept?.label}</h2>
              {kept && (
                <p className="-mt-2 text-tiny text-ink-2">
                  {offeredIn(kept, view.all.length)} In files it is {kept.code}.
                </p>
              )}
              <Field label="In a few words" fault={faults.label}>
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
              {!off && (
                <div className="flex gap-2">
                  <Button
                    kind="primary"
                    type="submit"
                    disabled={
                      busy ||
                      draft.label.trim() === '' ||
                      (kept !== undefined && JSON.stringify(draftOf(kept)) === JSON.stringify(draft))
                    }
                  >
                    {draft.code === null ? 'Add it' : 'Apply'}
                  </Button>
                  {kept &&
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
                      <Button kind="danger" onClick={() => void retire(kept)}>
                        {kept.uses > 0 ? 'Retire' : 'Delete'}
                      </Button>
                    ))}
                </div>
              )}
              <p className="text-tiny text-ink-3">
                Every length of a contact must leave an agent at least one of them.
              </p>
            </form>
          </Panel>
        )}
      </main>
    </>
  );
}
