'use client';

import type { DraftKind } from '@/core/drafts/kinds';
import type { PlansView } from '@/services/drafts/plans';
import { asDayTime } from '../kit/figures';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';

/** What is planned for a thing, in a line each: whoever changes it knows what comes by itself. */
export function PlannedNote({ kind, id }: { kind: DraftKind; id: string | null }) {
  const { data } = useLive<PlansView>('/api/read/plans', ['settings.changed']);
  const plans = data?.plans.filter(
    (p) => p.kind === kind && p.thingId === id && (p.state === 'planned' || p.state === 'on'),
  );
  if (!data || !plans || plans.length === 0) return null;
  return (
    <ul aria-label="Planned for it" className="rounded-control bg-tide-wash px-3 py-1.5 text-small">
      {plans.map((p) => (
        <li key={p.id}>
          <Link className="font-medium underline" href="/plans">
            {p.state === 'on' ? 'Changed for now' : `Changes ${asDayTime(p.from, data.zone)}`}
          </Link>
          {p.until !== null && `, until ${asDayTime(p.until, data.zone)}`}
          {p.note && `: ${p.note}`}
          <span className="text-ink-2"> ({p.changes.map((c) => `${c.what} ${c.to}`).join('; ')})</span>
        </li>
      ))}
    </ul>
  );
}
