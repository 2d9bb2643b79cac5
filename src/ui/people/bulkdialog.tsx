'use client';

import { useEffect, useState } from 'react';
import { toast } from 'sonner';
import type { BulkResult } from '@/services/people/bulk';
import type { PeopleView } from '@/services/people/peopleview';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { options, Select } from '../kit/select';

type What = 'teamId' | 'dutyProfileId' | 'siteId' | 'roleId' | 'level' | 'active';
const WHATS: readonly [What, string][] = [
  ['teamId', 'Team'],
  ['dutyProfileId', 'Duty profile'],
  ['level', 'Skill level'],
  ['siteId', 'Site'],
  ['roleId', 'Role'],
  ['active', 'Account'],
];

/** One thing set for the picked people: what would change is counted and listed before it is done. */
export function BulkDialog({
  view,
  personIds,
  onClose,
  onDone,
}: {
  view: PeopleView;
  personIds: readonly string[];
  onClose: () => void;
  onDone: () => void;
}) {
  const [what, setWhat] = useState<What>('teamId');
  const [value, setValue] = useState('');
  const [skill, setSkill] = useState(view.skills[0]?.id ?? '');
  const [preview, setPreview] = useState<BulkResult | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const set =
    value === ''
      ? null
      : what === 'active'
        ? { active: value === 'on' }
        : what === 'level'
          ? { level: { skillId: skill, level: value === 'never' ? 'never' : Number(value) } }
          : { [what]: value === 'none' ? '' : value };
  const asked = set && JSON.stringify({ personIds, set });
  useEffect(() => {
    setPreview(null);
    setFault(null);
    if (!asked) return;
    let live = true;
    setting<BulkResult>('bulk-people', { ...(JSON.parse(asked) as object), apply: false }).then(
      (r) => {
        if (live) setPreview(r);
      },
      (error: unknown) => {
        if (live) setFault(sentence(error));
      },
    );
    return () => {
      live = false;
    };
  }, [asked]);
  const changed = new Set(preview?.changes.map((c) => c.personId)).size;
  const apply = async () => {
    if (!asked) return;
    setBusy(true);
    try {
      await setting('bulk-people', { ...(JSON.parse(asked) as object), apply: true });
      toast.success(`${changed} people changed. One undo in History takes it back.`);
      onDone();
    } catch (error) {
      setFault(sentence(error));
    } finally {
      setBusy(false);
    }
  };
  const targets: readonly (readonly [string, string])[] =
    what === 'teamId'
      ? view.teams.filter((t) => t.mayChange).map((t) => [t.id, t.name] as const)
      : what === 'dutyProfileId'
        ? view.profiles.map((p) => [p.id, p.name] as const)
        : what === 'siteId'
          ? [...view.sites.map((s) => [s.id, s.name] as const), ['none', 'no site'] as const]
          : what === 'roleId'
            ? view.roles.filter((r) => r.mayGive).map((r) => [r.id, r.name] as const)
            : what === 'active'
              ? [
                  ['on', 'switched on'],
                  ['off', 'switched off'],
                ]
              : [
                  ['1', '1'],
                  ['2', '2'],
                  ['3', '3'],
                  ['4', '4'],
                  ['5', '5'],
                  ['never', 'never'],
                  ['0', 'cleared'],
                ];
  return (
    <Dialog
      open
      wide
      onClose={onClose}
      title={`Change ${personIds.length} people`}
      description="See what would change, then do it in one press."
    >
      <div className="flex flex-wrap items-center gap-2">
        <span className="text-small">Set</span>
        <Select
          aria-label="What to set"
          className="!w-40"
          value={what}
          onChange={(chosen) => {
            const w = WHATS.find(([id]) => id === chosen);
            if (w) {
              setWhat(w[0]);
              setValue('');
            }
          }}
        >
          {WHATS.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Select>
        {what === 'level' && (
          <Select aria-label="Which skill" className="!w-44" value={skill} onChange={(chosen) => setSkill(chosen)}>
            {options(view.skills)}
          </Select>
        )}
        <span className="text-small">to</span>
        <Select aria-label="To what" className="!w-48" value={value} onChange={(chosen) => setValue(chosen)}>
          <option value="">Choose…</option>
          {targets.map(([id, name]) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </Select>
      </div>
      {fault && (
        <p role="alert" className="mt-3 text-small text-clay">
          {fault}
        </p>
      )}
      {preview && (
        <div className="mt-3">
          <p className="text-small" role="status">
            {changed} would change{preview.unchanged > 0 && `, ${preview.unchanged} have it already`}
            {preview.refused.length > 0 && `, ${preview.refused.length} cannot`}.
          </p>
          <div
            className="mt-2 max-h-72 overflow-y-auto rounded-control border border-rule"
            tabIndex={0}
            role="region"
            aria-label="What would change"
          >
            <table className="w-full text-small">
              <tbody>
                {preview.refused.map((r) => (
                  <tr key={r.name} className="border-b border-rule">
                    <th scope="row" className="px-2 py-1 text-left font-medium">
                      {r.name}
                    </th>
                    <td colSpan={2} className="text-clay">
                      {r.why}
                    </td>
                  </tr>
                ))}
                {preview.changes.slice(0, 300).map((c, i) => (
                  <tr key={i} className="border-b border-rule">
                    <th scope="row" className="px-2 py-1 text-left font-medium">
                      {c.name}
                    </th>
                    <td className="text-ink-2">{c.what}</td>
                    <td>
                      {c.from} → {c.to}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </div>
      )}
      <div className="mt-4 flex gap-2">
        <Button kind="primary" disabled={busy || changed === 0} onClick={() => void apply()}>
          Change {changed} people
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
