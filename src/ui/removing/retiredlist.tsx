'use client';

import type { RetiredKind } from '@/core/removing/kinds';
import type { RetiredView } from '@/services/removing/removal';
import { Button } from '../kit/button';
import { doing } from '../kit/doing';
import { asDayTime } from '../kit/figures';
import { useLive } from '../kit/live';

/** What is retired of a kind, folded under its list, each brought back by one press. */
export function RetiredList({ kind, onBack }: { kind: RetiredKind; onBack: (id: string) => void }) {
  const { data } = useLive<RetiredView>('/api/read/retired', ['settings.changed']);
  const retired = data?.retired.filter((r) => r.kind === kind) ?? [];
  if (!data || retired.length === 0) return null;
  return (
    <details className="px-2 pb-1 text-small">
      <summary className="cursor-pointer py-1 text-ink-2">Retired ({retired.length})</summary>
      <ul>
        {retired.map((r) => (
          <li key={r.id} className="flex items-center gap-2 py-1">
            <span className="min-w-0 flex-1">
              <span className="block truncate">{r.name}</span>
              <span className="text-tiny text-ink-2">{asDayTime(r.realAt)}</span>
            </span>
            {data.mayBringBack.includes(kind) && (
              <Button
                small
                aria-label={`Bring ${r.name} back`}
                onClick={() =>
                  void doing('bring-back', { kind, id: r.id }, `${r.name} is back as it was.`).then((done) => {
                    if (done) onBack(r.id);
                  })
                }
              >
                Bring back
              </Button>
            )}
          </li>
        ))}
      </ul>
    </details>
  );
}
