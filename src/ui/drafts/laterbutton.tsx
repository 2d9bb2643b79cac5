'use client';

import { useState } from 'react';
import type { PlanKind } from '@/core/drafts/kinds';
import { Button } from '../kit/button';
import { LaterDialog } from './laterdialog';
import type { Drafted, GatheredThings, Shape } from './usegathered';

/** Plans what is gathered instead of applying it now; there for what is known and changed. */
export function LaterButton<D extends Drafted>({
  kind,
  gathered: { draft, kept, changed, conflict, settled },
  shape,
  small,
}: {
  kind: PlanKind;
  gathered: GatheredThings<D>;
  shape: Shape<D>;
  small?: boolean;
}) {
  const [asking, setAsking] = useState(false);
  if (!draft || draft.id === null || !kept || !changed) return null;
  const { id } = draft;
  return (
    <>
      <Button {...(small ? { small } : {})} disabled={conflict !== null} onClick={() => setAsking(true)}>
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
