import { Button } from '../../kit/button';
import type { Editing } from './usescript';

/** What can be done with several chosen lines at once; `many` is the first of them. */
export const ChosenBar = ({ edit, many }: { edit: Editing; many: string }) => (
  <div
    role="toolbar"
    aria-label="Chosen lines"
    className="sticky top-0 z-10 flex items-center gap-1.5 border-b border-rule bg-chosen px-4 py-1 text-small"
  >
    <b>{edit.chosen.size} lines</b>
    <Button small onClick={() => edit.copy(many, false)}>
      Copy
    </Button>
    {edit.mayChange && (
      <>
        <Button small onClick={() => edit.copy(many, true)}>
          Cut
        </Button>
        <Button small onClick={() => edit.duplicate(many)}>
          Duplicate
        </Button>
        <Button small onClick={() => edit.move(many, -1)}>
          Move up
        </Button>
        <Button small onClick={() => edit.move(many, 1)}>
          Move down
        </Button>
        <Button small kind="danger" onClick={() => edit.remove(many)}>
          Remove
        </Button>
      </>
    )}
    <Button small kind="quiet" className="ml-auto" onClick={() => edit.onChosen(new Set())}>
      Leave them
    </Button>
  </div>
);
