'use client';

import Link from 'next/link';
import { useState } from 'react';
import { toast } from 'sonner';
import type { FieldLine, FieldPlace, FieldsView } from '@/services/bots/fields';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { Check, Field, Input } from '../../kit/field';
import { useLive } from '../../kit/live';
import { Empty, Panel, Pill } from '../../kit/panel';
import { useSaving } from '../../kit/saving';
import { Select } from '../../kit/select';
import { StopNav } from '../../lane/stopnav';

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
  const remove = async (id: string) => {
    try {
      await setting('remove-field', { id });
      toast.success('The field is gone.');
      setDraft(null);
      void refetch();
    } catch (error) {
      toast.error(sentence(error));
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
          <div className="flex items-center gap-3 border-b border-rule px-4 py-3">
            <h1 className="text-title">What we know of a contact</h1>
            <Pill>{view.fields.length} fields</Pill>
            {broken > 0 && <Pill tone="warn">{broken} with a broken link</Pill>}
            {view.mayChange && (
              <Button kind="primary" className="ml-auto" onClick={() => setDraft(NEW)}>
                New field
              </Button>
            )}
          </div>
          {view.fields.length === 0 ? (
            <Empty title="No field yet" />
          ) : (
            <table className="w-full text-left text-small">
              <thead className="text-tiny text-ink-2">
                <tr>
                  <th className="w-44 px-4 py-2 font-medium">Field</th>
                  <th className="w-40 font-medium">Kind</th>
                  <th className="font-medium">Set at</th>
                  <th className="font-medium">Passed on at</th>
                  <th className="font-medium">Shown in</th>
                  <th className="w-60 pr-4 font-medium">Trail</th>
                </tr>
              </thead>
              <tbody>
                {ordered.map((f) => (
                  <tr key={f.id} className="border-t border-rule align-top">
                    <td className="px-4 py-2">
                      <button
                        type="button"
                        className="text-left font-display text-[15px] font-semibold hover:underline"
                        onClick={() =>
                          setDraft({
                            id: f.id,
                            revision: f.revision,
                            name: f.name,
                            label: f.label,
                            private: f.private,
                            reported: f.reported,
                            type: f.type,
                            filledBy: f.filledBy,
                          })
                        }
                      >
                        {f.label}
                      </button>
                      <span className="block text-tiny text-ink-2">{f.name}</span>
                    </td>
                    <td className="py-2">
                      {TYPES[f.type]}
                      <span className="mt-0.5 flex gap-1">
                        {f.private && <Pill tone="plum">private</Pill>}
                        {!f.reported && <Pill>not reported</Pill>}
                      </span>
                    </td>
                    <td className="py-2 pr-3">
                      <Places places={f.set} none="nowhere" />
                    </td>
                    <td className="py-2 pr-3">
                      <Places
                        places={f.passed}
                        none={f.filledBy.includes('agent') ? 'filled at the Desk' : 'nowhere'}
                      />
                    </td>
                    <td className="py-2 pr-3">
                      <Places places={f.shown} none="nowhere" />
                    </td>
                    <td className="py-2 pr-4">
                      {f.broken ? (
                        <span className="text-clay">{f.broken}</span>
                      ) : (
                        <span className="text-ink-3">whole</span>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
        </Panel>
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
                    <Button kind="danger" onClick={() => void remove(draft.id ?? '')}>
                      Remove
                    </Button>
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
