'use client';

import { useState } from 'react';
import type { PlanKind } from '@/core/drafts/kinds';
import { Button } from '../kit/button';
import { LaterDialog } from './laterdialog';
import type { Drafted, GatheredThings, Shape } from './usegathered';

/** Plans what is gathered instead of applying it now; there for what is known and changed. */
export function LaterButton<D extends Drafted>({
  kind,
  gathered: { draft, kept, changed, clashing, settled },
  shape,
  small,
}: {
  kind: PlanKind;
  gathered: GatheredThings<D>;
  shape: Shape<D>;
  small?: boolean;
}) {
  const [asking, setAsking] = useState(false);
  // What is asked for stays, whatever becomes of it behind the dialog.
  if (!draft || draft.id === null || !kept || (!changed && !asking)) return null;
  const { id } = draft;
  return (
    <>
      <Button {...(small ? { small } : {})} disabled={clashing} onClick={() => setAsking(true)}>
        Later…
      </Button>
      {asking && (
        <LaterDialog
          planned={{ kind, id, name: shape.labelOf(kept), revision: kept.revision, value: shape.valueOf(draft) }}
          onClose={() => setAsking(false)}
          onDone={() => {
            setAsking(false);
            void settled(id);
          }}
        />
      )}
    </>
  );
}
