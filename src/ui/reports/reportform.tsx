'use client';

import { type FormEvent, useState } from 'react';
import type { ReportLine, ReportsView } from '@/services/review/reportviews';
import { Button } from '../kit/button';
import { Dialog } from '../kit/dialog';
import { Area, Check, Field, Input } from '../kit/field';
import { Select } from '../kit/select';

export type ReportForm = {
  readonly id: string | null;
  readonly name: string;
  readonly forAll: boolean;
  readonly months: number;
  readonly parts: readonly { readonly viewId: string; readonly said: string }[];
};
const MONTHS = Array.from({ length: 13 }, (_, i) => i + 1);

/** Writes a report: kept views in an order, each with one's own sentences. */
export function WriteReport({
  report,
  views,
  onKeep,
  onClose,
}: {
  report: ReportLine | null;
  views: ReportsView['views'];
  onKeep: (form: ReportForm) => void;
  onClose: () => void;
}) {
  const [form, setForm] = useState<ReportForm>({
    id: report?.id ?? null,
    name: report?.name ?? '',
    forAll: report?.forAll ?? false,
    months: report?.months ?? 3,
    parts: report?.parts ?? [],
  });
  const [adding, setAdding] = useState('');
  const change = (some: Partial<ReportForm>) => setForm((before) => ({ ...before, ...some }));
  const put = (parts: ReportForm['parts']) => change({ parts });
  const nameOf = (viewId: string) => views.find((view) => view.id === viewId)?.name ?? 'A view that is gone';
  const move = (from: number, to: number) => {
    const parts = [...form.parts];
    parts.splice(to, 0, ...parts.splice(from, 1));
    put(parts);
  };
  const keep = (event: FormEvent) => {
    event.preventDefault();
    onKeep({
      ...form,
      name: form.name.trim(),
      parts: form.parts.map((part) => ({ viewId: part.viewId, said: part.said.trim() })),
    });
  };
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={report ? `Change ${report.name}` : 'New report'}
      description="Kept views, one after the other, over whole months. Each reader finds in them what they may see."
    >
      <form onSubmit={keep} className="flex flex-col gap-3">
        <div className="flex flex-wrap items-end gap-3">
          <Field label="Name">
            {(p) => (
              <Input
                {...p}
                autoFocus
                required
                maxLength={60}
                value={form.name}
                onChange={(e) => change({ name: e.target.value })}
              />
            )}
          </Field>
          <Field label="Months">
            {(p) => (
              <Select {...p} value={String(form.months)} onChange={(value) => change({ months: Number(value) })}>
                {MONTHS.map((n) => (
                  <option key={n} value={n}>
                    {n === 1 ? 'the last one' : `the last ${n}`}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <Check
            label="Everybody who may open Review can read it"
            checked={form.forAll}
            onChange={(e) => change({ forAll: e.target.checked })}
          />
        </div>
        {form.parts.length === 0 && (
          <p className="text-small text-ink-2">
            {views.length === 0
              ? 'No view is kept yet: keep one on a page of Review, and it can stand here.'
              : 'Add the views that it is made of.'}
          </p>
        )}
        <ol className="flex flex-col gap-2">
          {form.parts.map((part, i) => (
            <li key={`${i} ${part.viewId}`} className="rounded-control border border-rule p-2.5">
              <div className="flex items-center gap-1.5">
                <span className="flex-1 font-medium">
                  {i + 1}. {nameOf(part.viewId)}
                </span>
                <Button
                  small
                  aria-label={`${nameOf(part.viewId)} up`}
                  disabled={i === 0}
                  onClick={() => move(i, i - 1)}
                >
                  ↑
                </Button>
                <Button
                  small
                  aria-label={`${nameOf(part.viewId)} down`}
                  disabled={i === form.parts.length - 1}
                  onClick={() => move(i, i + 1)}
                >
                  ↓
                </Button>
                <Button small onClick={() => put(form.parts.filter((_, at) => at !== i))}>
                  Take out
                </Button>
              </div>
              <Area
                aria-label={`What you say of ${nameOf(part.viewId)}`}
                className="mt-1.5 w-full"
                rows={2}
                maxLength={2000}
                placeholder="What you say of it"
                value={part.said}
                onChange={(e) => put(form.parts.map((one, at) => (at === i ? { ...one, said: e.target.value } : one)))}
              />
            </li>
          ))}
        </ol>
        {form.parts.length < 12 && views.length > 0 && (
          <div className="flex items-end gap-2">
            <Field label="Add a view">
              {(p) => (
                <Select {...p} value={adding} onChange={setAdding}>
                  <option value="">choose a kept view</option>
                  {views.map((view) => (
                    <option key={view.id} value={view.id}>
                      {view.name}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
            <Button
              disabled={adding === ''}
              onClick={() => {
                put([...form.parts, { viewId: adding, said: '' }]);
                setAdding('');
              }}
            >
              Add
            </Button>
          </div>
        )}
        <div className="flex gap-2">
          <Button kind="primary" type="submit" disabled={form.name.trim() === '' || form.parts.length === 0}>
            Keep report
          </Button>
          <Button onClick={onClose}>Cancel</Button>
        </div>
      </form>
    </Dialog>
  );
}
