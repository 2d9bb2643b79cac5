'use client';

import { useState } from 'react';
import { languageName } from '@/core/localised';
import { PLACEHOLDERS, unknownPlaceholders } from '@/core/messages/stockreplies';
import type { DeskProfilesView, StockSet } from '@/services/people/desklayout';
import { Button } from '../../kit/button';
import { call } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { doing } from '../../kit/doing';
import { FormFoot } from '../../kit/editform';
import { Area, Field, Input } from '../../kit/field';
import { useSaving } from '../../kit/saving';

export function StockDialog({
  set,
  languages,
  fields,
  uses,
  mayChange,
  onClose,
  onSaved,
}: {
  set: StockSet | null;
  languages: readonly string[];
  /** The fields that a reply may be filled with. */ fields: readonly string[];
  /** How often each reply was sent, by its id. */ uses: Readonly<Record<string, number>>;
  mayChange: boolean;
  onClose: () => void;
  onSaved: () => void;
}) {
  const [name, setName] = useState(set?.name ?? '');
  const [replies, setReplies] = useState<
    readonly { id: string | null; title: string; text: Readonly<Record<string, string>> }[]
  >(set?.replies ?? [{ id: null, title: '', text: {} }]);
  const { busy, save, conflict } = useSaving('save-stock-set', {
    latest: async () => (await call<DeskProfilesView>('/api/read/desks')).sets.find((s) => s.id === set?.id),
    nameOf: (x) => x,
    onTheirs: onSaved,
    onSaved,
  });
  const put = (i: number, change: Partial<(typeof replies)[number]>) =>
    setReplies(replies.map((r, j) => (j === i ? { ...r, ...change } : r)));
  const submit = async () => {
    if (
      await save(
        {
          id: set?.id ?? null,
          revision: set?.revision ?? 0,
          name: name.trim(),
          replies: replies.map((r) => ({
            id: r.id,
            title: r.title.trim(),
            text: Object.fromEntries(Object.entries(r.text).filter(([, t]) => t.trim() !== '')),
          })),
        },
        `${name} saved.`,
      )
    )
      onSaved();
  };
  const remove = async () => {
    const gone = { kind: 'stock-set', id: set?.id };
    if (await doing('remove-desk-thing', gone, 'Removed. History can bring it back.')) onSaved();
  };
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={set?.name ?? 'New set of stock replies'}
      description={`Filled when used: ${Object.entries(PLACEHOLDERS)
        .map(([k, v]) => `{${k}} is ${v}`)
        .join(', ')}, and any field by its name, such as {${fields[0] ?? 'order number'}}.`}
    >
      {conflict}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <div className="max-w-xs">
          <Field label="Name">
            {(p) => (
              <Input {...p} required disabled={!mayChange} value={name} onChange={(e) => setName(e.target.value)} />
            )}
          </Field>
        </div>
        <ul className="mt-3 flex flex-col gap-3">
          {replies.map((r, i) => (
            <li key={i} className="rounded-control border border-rule p-2.5">
              <div className="flex gap-2">
                <Input
                  aria-label="Title"
                  placeholder="Title"
                  required
                  disabled={!mayChange}
                  value={r.title}
                  onChange={(e) => put(i, { title: e.target.value })}
                />
                {r.id !== null && (
                  <span className="self-center text-tiny whitespace-nowrap text-ink-2">sent {uses[r.id] ?? 0}×</span>
                )}
                {mayChange && (
                  <Button
                    small
                    kind="quiet"
                    aria-label={`Remove ${r.title}`}
                    onClick={() => setReplies(replies.filter((_, j) => j !== i))}
                  >
                    ×
                  </Button>
                )}
              </div>
              <div className="mt-1.5 grid grid-cols-2 gap-2">
                {languages.map((l) => {
                  const odd = unknownPlaceholders(r.text[l] ?? '', fields);
                  return (
                    <div key={l}>
                      <Area
                        aria-label={`${r.title} in ${languageName(l)}`}
                        rows={2}
                        placeholder={languageName(l)}
                        disabled={!mayChange}
                        value={r.text[l] ?? ''}
                        onChange={(e) => put(i, { text: { ...r.text, [l]: e.target.value } })}
                      />
                      {odd.length > 0 && (
                        <p role="alert" className="text-tiny text-clay">
                          Nothing fills {odd.map((o) => `{${o}}`).join(', ')}.
                        </p>
                      )}
                    </div>
                  );
                })}
              </div>
            </li>
          ))}
        </ul>
        <FormFoot
          mayChange={mayChange}
          isNew={!set}
          busy={busy}
          onRemove={() => void remove()}
          removing="Remove the set"
        >
          <Button onClick={() => setReplies([...replies, { id: null, title: '', text: {} }])}>Add a reply</Button>
        </FormFoot>
      </form>
    </Dialog>
  );
}
