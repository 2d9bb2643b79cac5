'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import type { RetiredKind } from '@/core/removing/kinds';
import type { RemovalView } from '@/services/removing/removal';
import { Button } from '../kit/button';
import { sentence, setting } from '../kit/call';
import { Dialog } from '../kit/dialog';
import { Field } from '../kit/field';
import { Link } from '../kit/link';
import { useLive } from '../kit/live';
import { Looking } from '../kit/looking';
import { options, Select } from '../kit/select';

/** Takes a thing away, once it was shown what leads to it and what becomes of that. */
export function RemoveButton({
  kind,
  id,
  name,
  small,
  onRemoved,
}: {
  kind: RetiredKind;
  id: string;
  name: string;
  small?: boolean;
  onRemoved: () => void;
}) {
  const [asking, setAsking] = useState(false);
  return (
    <>
      <Button kind="quiet" {...(small ? { small } : {})} onClick={() => setAsking(true)}>
        Remove…
      </Button>
      {asking && (
        <RemoveDialog kind={kind} id={id} name={name} onClose={() => setAsking(false)} onRemoved={onRemoved} />
      )}
    </>
  );
}

function RemoveDialog({
  kind,
  id,
  name,
  onClose,
  onRemoved,
}: {
  kind: RetiredKind;
  id: string;
  name: string;
  onClose: () => void;
  onRemoved: () => void;
}) {
  const [instead, setInstead] = useState('');
  const [busy, setBusy] = useState(false);
  const { data, error, refetch } = useLive<RemovalView>(
    `/api/read/removal?${new URLSearchParams({ kind, id, instead }).toString()}`,
    ['settings.changed', 'visit.ended', 'contact.ended'],
  );
  const remove = async () => {
    setBusy(true);
    try {
      const { retired } = await setting<{ retired: boolean }>('remove-whole', { kind, id, instead: instead || null });
      toast.success(
        retired
          ? `${name} is retired: out of every list, its figures stay. It can be brought back.`
          : `${name} is gone; History can bring it back.`,
      );
      onClose();
      onRemoved();
    } catch (e) {
      toast.error(sentence(e));
    } finally {
      setBusy(false);
    }
  };
  const missing = data?.needsInstead && instead === '';
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Remove ${name}`}
      description={
        data
          ? data.used
            ? 'It has been in use, so it is retired: out of every list and check, while History and figures keep its name.'
            : 'Nothing ever happened with it, so it is deleted.'
          : 'Looking at what leads to it.'
      }
    >
      {!data ? (
        <Looking error={error} onAgain={refetch} />
      ) : (
        <div className="flex flex-col gap-3">
          {data.stops.length > 0 && (
            <ul role="alert" className="rounded-control bg-clay-wash px-3 py-2 text-small text-clay">
              {data.stops.map((says) => (
                <li key={says}>{says}</li>
              ))}
            </ul>
          )}
          {(data.needsInstead || data.touches.length > 0) && data.insteads.length > 0 && (
            <Field
              label="In its place"
              hint={
                data.needsInstead ? 'Something leads to it that cannot do without' : 'Or none: what leads to it goes'
              }
            >
              {(p) => (
                <Select {...p} value={instead} onChange={setInstead}>
                  <option value="">{data.needsInstead ? 'Choose…' : 'none'}</option>
                  {options(data.insteads)}
                </Select>
              )}
            </Field>
          )}
          {data.touches.length === 0 ? (
            <p className="text-small text-ink-2">Nothing else leads to it.</p>
          ) : (
            <section aria-label="What leads to it">
              <h3 className="text-small font-medium text-ink-2">What leads to it, and what becomes of that</h3>
              <ul className="mt-1 max-h-60 overflow-y-auto text-small">
                {data.touches.map((t, i) => (
                  <li key={i} className="border-t border-rule py-1 first:border-t-0">
                    <Link className="font-medium text-plum underline" href={t.path}>
                      {t.name}
                    </Link>{' '}
                    {t.becomes}
                  </li>
                ))}
              </ul>
            </section>
          )}
          <div className="flex gap-2">
            <Button kind="danger" disabled={busy || missing || data.stops.length > 0} onClick={() => void remove()}>
              {data.used ? 'Retire it' : 'Delete it'}
            </Button>
            <Button onClick={onClose}>Cancel</Button>
          </div>
        </div>
      )}
    </Dialog>
  );
}
