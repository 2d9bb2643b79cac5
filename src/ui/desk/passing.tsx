import { Button } from '../kit/button';
import type { PassingOn } from './usepassing';

/** What is about to happen to a contact, and how it is taken back. */
export function Passing({ passing, onUndo, onNow }: { passing: PassingOn; onUndo: () => void; onNow: () => void }) {
  return (
    <div role="status" className="flex items-center gap-3 border-b border-rule bg-brass-wash px-4 py-2 text-brass-ink">
      <span className="flex-1">
        Passing on to {passing.to.name} in {passing.left} s.
      </span>
      <Button small autoFocus onClick={onUndo}>
        Undo
      </Button>
      <Button small kind="quiet" onClick={onNow}>
        Now
      </Button>
    </div>
  );
}
