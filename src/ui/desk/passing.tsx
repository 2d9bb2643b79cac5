'use client';

import { useEffect, useState } from 'react';
import { Button } from '../kit/button';
import type { PassedTo } from './passdialog';

/** How long passing on can be taken back, seconds. */
const UNDO_SECONDS = 5;

/** A contact that is about to be passed on: taken back, or done when the time is over. */
export function Passing({ to, onDone, onUndo }: { to: PassedTo; onDone: () => void; onUndo: () => void }) {
  const [left, setLeft] = useState(UNDO_SECONDS);
  useEffect(() => {
    if (left === 0) return onDone();
    const timer = setTimeout(() => setLeft(left - 1), 1000);
    return () => clearTimeout(timer);
    // It is done once, when nothing is left.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [left]);
  return (
    <div role="status" className="flex items-center gap-3 border-b border-rule bg-brass-wash px-4 py-2 text-brass-ink">
      <span className="flex-1">
        Passing on to {to.name} in {left} s.
      </span>
      <Button small autoFocus onClick={onUndo}>
        Undo
      </Button>
      <Button small kind="quiet" onClick={() => setLeft(0)}>
        Now
      </Button>
    </div>
  );
}
