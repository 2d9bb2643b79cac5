'use client';

import { useState, type ReactNode } from 'react';
import { toast } from 'sonner';
import { describeDifferences, type ChangeLine } from '@/core/differences';
import { Button } from './button';
import { Refused, sentence, setting } from './call';
import { Dialog } from './dialog';
import { asDayTime } from './figures';

type Revised = { readonly revision: number };
type Clash = { readonly changes: readonly ChangeLine[]; readonly overwrite: () => void };
type Saving<A> = {
  readonly busy: boolean;
  /** What was refused, by place. */
  readonly faults: Readonly<Record<string, string>>;
  /** Saves; gives the answer, or null when it was refused or both versions are being shown. */
  readonly save: <B extends Revised | object>(body: B, saved: string | ((answer: A) => string)) => Promise<A | null>;
  /** The two versions, while somebody else's change is in the way; render it once. */
  readonly conflict: ReactNode;
};

/**
 * Saving one thing by a settings act. When somebody changed it meanwhile, `latest` reads their version and both are shown
 * side by side: theirs is kept (`onTheirs`), or ours is saved over it.
 */
export function useSaving<A = { id: string }>(
  act: string,
  versions?: {
    readonly latest: () => Promise<Revised | undefined>;
    readonly nameOf: (id: string) => string;
    readonly onTheirs: () => void;
    readonly onSaved: (answer: A) => void;
  },
): Saving<A> {
  const [busy, setBusy] = useState(false);
  const [faults, setFaults] = useState<Readonly<Record<string, string>>>({});
  const [clash, setClash] = useState<Clash | null>(null);
  async function save<B extends object>(body: B, saved: string | ((answer: A) => string)): Promise<A | null> {
    setBusy(true);
    setFaults({});
    try {
      const answer = await setting<A>(act, body);
      toast.success(typeof saved === 'string' ? saved : saved(answer));
      return answer;
    } catch (error) {
      if (error instanceof Refused && error.code === 'changed-meanwhile' && versions) {
        const theirs = await versions.latest().catch(() => undefined);
        if (theirs) {
          const same = Object.fromEntries(Object.entries(theirs).filter(([key]) => key in body));
          setClash({
            changes: describeDifferences(same, body, {
              name: versions.nameOf,
              time: asDayTime,
            }),
            overwrite: () => {
              setClash(null);
              void save({ ...body, revision: theirs.revision }, saved).then((answer) => {
                if (answer) versions.onSaved(answer);
              });
            },
          });
          return null;
        }
      }
      if (error instanceof Refused) setFaults(Object.fromEntries(error.faults.map((f) => [f.where, f.what])));
      toast.error(sentence(error));
      return null;
    } finally {
      setBusy(false);
    }
  }
  const conflict =
    clash && versions ? (
      <Dialog
        open
        onClose={() => setClash(null)}
        title="Somebody else changed this"
        description="Both versions are here; nothing is lost until you choose."
        wide
      >
        <table className="w-full text-small">
          <thead>
            <tr className="text-left text-tiny text-ink-2">
              <th className="py-1 font-medium">What differs</th>
              <th className="font-medium">Theirs, kept now</th>
              <th className="font-medium">Yours</th>
            </tr>
          </thead>
          <tbody>
            {clash.changes.map((c) => (
              <tr key={c.what} className="border-t border-rule align-top">
                <th scope="row" className="py-1.5 pr-3 text-left font-medium">
                  {c.what}
                </th>
                <td className="py-1.5 pr-3">{c.from}</td>
                <td className="py-1.5">{c.to}</td>
              </tr>
            ))}
            {clash.changes.length === 0 && (
              <tr>
                <td colSpan={3} className="py-2 text-ink-2">
                  Both versions say the same.
                </td>
              </tr>
            )}
          </tbody>
        </table>
        <div className="mt-4 flex gap-2">
          <Button
            kind="primary"
            onClick={() => {
              setClash(null);
              versions.onTheirs();
            }}
          >
            Keep theirs
          </Button>
          <Button kind="danger" onClick={clash.overwrite}>
            Save mine over it
          </Button>
          <Button kind="quiet" onClick={() => setClash(null)}>
            Back to my form
          </Button>
        </div>
      </Dialog>
    ) : null;
  return { busy, faults, save, conflict };
}
