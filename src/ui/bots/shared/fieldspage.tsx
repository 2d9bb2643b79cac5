'use client';

import { Link } from '../../kit/link';
import { useState } from 'react';
import type { FieldLine, FieldPlace, FieldsView } from '@/services/bots/fields';
import { Button } from '../../kit/button';
import { Dialog } from '../../kit/dialog';
import { Check, Field, Input } from '../../kit/field';
import { useLive } from '../../kit/live';
import { Empty, Panel, PanelHead, Pill } from '../../kit/panel';
import { useSaving } from '../../kit/saving';
import { Select } from '../../kit/select';
import { Table } from '../../kit/table';
import { StopNav } from '../../lane/stopnav';
import { RemoveButton } from '../../removing/removebutton';
import { RetiredList } from '../../removing/retiredlist';

type Draft = {
  id: string | null;
  revision: number;
  name: string;
  label: string;
  private: boolean;
  reported: boolean;
  type: FieldLine['type'];
  filledBy: FieldLine['filledBy'];
};
const TYPES: Readonly<Record<FieldLine['type'], string>> = {
  text: 'text',
  whole: 'whole number',
  money: 'money',
  date: 'date',
  time: 'time',
  'yes-no': 'yes or no',
  telephone: 'telephone number',
  email: 'mail address',
};
const FILLERS = { bot: 'bots', 'look-up': 'look-ups', agent: 'agents' } as const;
const NEW: Draft = {
  id: null,
  revision: 0,
  name: '',
  label: '',
  private: false,
  reported: true,
  type: 'text',
  filledBy: ['bot'],
};

const draftOf = ({ id, revision, name, label, private: isPrivate, reported, type, filledBy }: FieldLine): Draft => ({
  id,
  revision,
  name,
  label,
  private: isPrivate,
  reported,
  type,
  filledBy,
});

const Places = ({ places, none }: { places: readonly FieldPlace[]; none: string }) =>
  places.length === 0 ? (
    <span className="text-clay">{none}</span>
  ) : (
    <ul>
      {places.map((p, i) => (
        <li key={i}>
          <Link href={p.path} className="text-plum hover:underline">
            {p.text}
          </Link>
        </li>
      ))}
    </ul>
  );

/**
 * Each field is defined once; its trail shows where it is set, passed on and shown, and names the link that is
 * broken.
 */
export function FieldsPage({ initial }: { initial: FieldsView }) {
  const { data, refetch } = useLive<FieldsView>('/api/read/fields', ['settings.changed'], initial);
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(null);
  const saving = useSaving<{ id: string }>('save-field', {
    latest: () => refetch().then((v) => v.data?.fields.find((f) => f.id === draft?.id)),
    nameOf: (id) => id,
    onTheirs: () => setDraft(null),
    onSaved: () => setDraft(null),
  });
  const save = async () => {
    if (draft && (await saving.save(draft, `${draft.label} is kept.`))) {
      setDraft(null);
      void refetch();
    }
  };
  const broken = view.fields.filter((f) => f.broken).length;
  // What is to be mended stands first.
  const ordered = view.fields.toSorted((a, b) => Number(b.broken !== null) - Number(a.broken !== null));
  return (
    <>
      <StopNav stop="Bots" />
      <main className="p-4">
        <Panel label="Fields">
          <PanelHead
            title="What we know of a contact"
            marks={
              <>
                <Pill>{view.fields.length} fields</Pill>
                {broken > 0 && <Pill tone="warn">{broken} with a broken link</Pill>}
              </>
            }
          >
            {view.mayChange && (
              <Button kind="primary" onClick={() => setDraft(NEW)}>
                New field
              </Button>
            )}
          </PanelHead>
          {view.fields.length === 0 ? (
            <Empty title="No field yet" />
          ) : (
            <Table
              label="Fields"
              rows={ordered}
              idOf={(f) => f.id}
              rowClass={() => 'align-top text-small'}
              columns={[
                {
                  id: 'field',
                  head: 'Field',
                  className: 'w-44',
                  by: (f) => f.label,
                  cell: (f) => (
                    <>
                      <button
                        type="button"
                        className="text-left font-display text-[15px] font-semibold hover:underline"
                        onClick={() => setDraft(draftOf(f))}
                      >
                        {f.label}
                      </button>
                      <span className="block text-tiny text-ink-2">{f.name}</span>
                    </>
                  ),
                },
                {
                  id: 'kind',
                  head: 'Kind',
                  className: 'w-40',
                  by: (f) => TYPES[f.type],
                  cell: (f) => (
                    <>
                      {TYPES[f.type]}
                      <span className="mt-0.5 flex gap-1">
                        {f.private && <Pill tone="plum">private</Pill>}
                        {!f.reported && <Pill>not reported</Pill>}
                      </span>
                    </>
                  ),
                },
                { id: 'set', head: 'Set at', cell: (f) => <Places places={f.set} none="nowhere" /> },
                {
                  id: 'passed',
                  head: 'Passed on at',
                  cell: (f) => (
                    <Places places={f.passed} none={f.filledBy.includes('agent') ? 'filled at the Desk' : 'nowhere'} />
                  ),
                },
                { id: 'shown', head: 'Shown in', cell: (f) => <Places places={f.shown} none="nowhere" /> },
                {
                  id: 'trail',
                  head: 'Trail',
                  className: 'w-60',
                  cell: (f) =>
                    f.broken ? (
                      <span className="text-clay">{f.broken}</span>
                    ) : (
                      <span className="text-ink-3">whole</span>
                    ),
                },
              ]}
            />
          )}
        </Panel>
        <RetiredList kind="field" onBack={() => void refetch()} />
        <Dialog
          open={draft !== null}
          onClose={() => setDraft(null)}
          title={draft?.id ? draft.label : 'New field'}
          description="Defined once, used by every bot, the Desk and the figures."
        >
          {draft && (
            <form
              className="flex flex-col gap-3"
              onSubmit={(e) => {
                e.preventDefault();
                void save();
              }}
            >
              <fieldset disabled={!view.mayChange} className="flex flex-col gap-3">
                <Field label="Label at the Desk" fault={saving.faults.label}>
                  {(p) => (
                    <Input
                      {...p}
                      required
                      maxLength={60}
                      value={draft.label}
                      onChange={(e) =>
                        setDraft({
                          ...draft,
                          label: e.target.value,
                          ...(draft.id === null ? { name: e.target.value.toLowerCase() } : {}),
                        })
                      }
                    />
                  )}
                </Field>
                <Field
                  label="Name in scripts"
                  hint={draft.id ? 'Lines that use the old name keep it' : 'Bots remember the value under this name'}
                  fault={saving.faults.name}
                >
                  {(p) => (
                    <Input
                      {...p}
                      required
                      maxLength={60}
                      value={draft.name}
                      onChange={(e) => setDraft({ ...draft, name: e.target.value })}
                    />
                  )}
                </Field>
                <Field label="What it holds">
                  {(p) => (
                    <Select
                      {...p}
                      value={draft.type}
                      onChange={(chosen) => setDraft({ ...draft, type: chosen as Draft['type'] })}
                    >
                      {Object.entries(TYPES).map(([k, v]) => (
                        <option key={k} value={k}>
                          {v}
                        </option>
                      ))}
                    </Select>
                  )}
                </Field>
                <fieldset>
                  <legend className="mb-1 text-small font-medium text-ink-2">Filled by</legend>
                  <div className="flex gap-4">
                    {(Object.keys(FILLERS) as (keyof typeof FILLERS)[]).map((by) => (
                      <Check
                        key={by}
                        label={FILLERS[by]}
                        checked={draft.filledBy.includes(by)}
                        onChange={(e) =>
                          setDraft({
                            ...draft,
                            filledBy: e.target.checked
                              ? [...draft.filledBy, by]
                              : draft.filledBy.filter((x) => x !== by),
                          })
                        }
                      />
                    ))}
                  </div>
                </fieldset>
                <div className="flex gap-4">
                  <Check
                    label="private: kept apart, shown only to those who talk"
                    checked={draft.private}
                    disabled={draft.id !== null}
                    onChange={(e) => setDraft({ ...draft, private: e.target.checked })}
                  />
                  <Check
                    label="counted in reports"
                    checked={draft.reported}
                    onChange={(e) => setDraft({ ...draft, reported: e.target.checked })}
                  />
                </div>
              </fieldset>
              {view.mayChange && (
                <div className="flex gap-2">
                  <Button kind="primary" type="submit" disabled={saving.busy || draft.filledBy.length === 0}>
                    Keep the field
                  </Button>
                  {draft.id !== null && (
                    <RemoveButton
                      kind="field"
                      id={draft.id}
                      name={draft.label}
                      onRemoved={() => {
                        setDraft(null);
                        void refetch();
                      }}
                    />
                  )}
                </div>
              )}
            </form>
          )}
        </Dialog>
        {saving.conflict}
      </main>
    </>
  );
}
