'use client';

import type { ReactNode } from 'react';
import { Button } from './button';

/**
 * The form of one thing beside its list: its name and how it stands, what was changed is undone, applied or the thing
 * removed from the same place everywhere. Nothing of that is offered to a reader.
 */
export function EditForm({
  kind,
  name,
  marks,
  tools,
  keptName,
  changed,
  busy,
  mayChange,
  notes,
  onUndo,
  onRemove,
  onApply,
  later,
  children,
}: {
  /** As in "New group", "Add the group". */
  kind: string;
  name: string;
  marks?: ReactNode;
  /** What can be done with it besides; readers may too. */
  tools?: ReactNode;
  /** As it is kept; null while it is new. */
  keptName: string | null;
  changed: boolean;
  busy: boolean;
  mayChange: boolean;
  /** What stands above its fields. */
  notes?: ReactNode;
  onUndo: () => void;
  onRemove?: (() => void) | undefined;
  onApply: () => void;
  /** Applying it at another time. */
  later?: ReactNode;
  children: ReactNode;
}) {
  const isNew = keptName === null;
  return (
    <form
      className="flex flex-col gap-3"
      aria-label={keptName ?? `New ${kind}`}
      onSubmit={(e) => {
        e.preventDefault();
        onApply();
      }}
    >
      {notes}
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="text-title">{name || `New ${kind}`}</h2>
        {marks}
        <span className="ml-auto flex gap-2">
          {tools}
          {mayChange && (
            <>
              {changed && <Button onClick={onUndo}>{isNew ? 'Forget it' : 'Undo changes'}</Button>}
              {!isNew && onRemove && (
                <Button kind="danger" onClick={onRemove}>
                  Remove
                </Button>
              )}
              {later}
              <Button kind="primary" type="submit" disabled={!changed || busy}>
                {isNew ? `Add the ${kind}` : 'Apply'}
              </Button>
            </>
          )}
        </span>
      </div>
      {children}
    </form>
  );
}

/** What ends a short form: save or add, and remove where there is something to remove. */
export const FormFoot = ({
  mayChange = true,
  isNew,
  busy,
  onRemove,
  removing = 'Remove',
  children,
}: {
  mayChange?: boolean;
  isNew: boolean;
  busy: boolean;
  onRemove?: (() => void) | undefined;
  removing?: string;
  children?: ReactNode;
}) =>
  mayChange && (
    <div className="mt-4 flex gap-2">
      <Button kind="primary" type="submit" disabled={busy}>
        {isNew ? 'Add' : 'Save'}
      </Button>
      {children}
      {!isNew && onRemove && (
        <Button kind="quiet" onClick={onRemove}>
          {removing}
        </Button>
      )}
    </div>
  );
