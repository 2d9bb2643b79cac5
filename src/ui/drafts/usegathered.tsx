'use client';

import { type ReactNode, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { DraftKind } from '@/core/drafts/kinds';
import { clashesOf, merged } from '@/core/drafts/merging';
import { partsOf } from '@/core/drafts/parts';
import { Refused, sentence, setting } from '../kit/call';
import { BothVersions } from './bothversions';
import { type Gathering, isGathered, Keeping } from './keeping';
import { PlannedNote } from './plannednote';

/** A thing as its page changes it; `id` is null while it is new. */
export type Drafted = { readonly id: string | null; readonly revision: number };

/** Where in a draft what can be changed stands, and what it is called. */
export type Shape<D extends Drafted> = {
  readonly valueOf: (draft: D) => object;
  readonly draftOf: (id: string | null, revision: number, value: object) => D;
  readonly labelOf: (draft: D) => string;
  /** Two may be called the same. */
  readonly namesake?: boolean;
  /** What its act takes, where that is not the draft itself. */
  readonly bodyOf?: (draft: D) => object;
};
/** Everything beside its id and revision can be changed. */
export const wholeShape = <D extends Drafted & { readonly name: string }>(): Shape<D> => ({
  valueOf: ({ id: _id, revision: _revision, ...value }) => value,
  draftOf: (id, revision, value) => ({ ...value, id, revision }) as D,
  labelOf: (draft) => draft.name,
});

/** Which thing is open at first: the one asked for, '' for one that is new; else the first of all. */
export const firstOpen = (things: readonly { readonly id: string }[], chosen: string | null): string | null =>
  chosen === '' ? null : ((things.find((t) => t.id === chosen) ?? things[0])?.id ?? null);

/** What things are called by their ids; what is none of them is called as it is. */
export const nameIn =
  (...lists: readonly (readonly { readonly id: string; readonly name: string }[])[]) =>
  (id: string): string =>
    lists.flat().find((x) => x.id === id)?.name ?? id;

/** For the list of all things: which one is open, and what is not applied. */
export const listed = <D extends Drafted>(g: GatheredThings<D>) => ({
  openId: g.draft?.id,
  onOpen: ({ id }: { readonly id: string }) => g.open(id),
  isChanged: g.isChanged,
  begun: g.begun && { ...g.begun, open: g.draft !== null && g.draft.id === null, onOpen: () => g.open(null) },
});

export type GatheredThings<D extends Drafted> = {
  /** What is open: as it is being changed. */
  readonly draft: D | null;
  /** The same as it is kept; null while it is new. */
  readonly kept: D | null;
  readonly changed: boolean;
  readonly busy: boolean;
  readonly faults: Readonly<Record<string, string>>;
  /** What is planned for it, and where somebody else set something that was changed here as well; render it once. */
  readonly notes: ReactNode;
  /** Nothing is applied before it is chosen what stands. */
  readonly clashing: boolean;
  /** Opens a thing, or one that is new. */
  readonly open: (id: string | null) => void;
  readonly begin: (fresh: D) => void;
  readonly set: (draft: D) => void;
  /** Forgets what was changed of what is open. */
  readonly undo: () => void;
  /** Applies what is open; gives the answer, or null when it was refused. */
  readonly apply: <A extends { readonly id?: string } = { readonly id: string }>(
    saved: string | ((answer: A) => string),
  ) => Promise<A | null>;
  /** It is kept elsewhere now, or gone: planned, or removed. */
  readonly settled: (id: string | null, next?: string | null) => Promise<void>;
  readonly isChanged: (id: string) => boolean;
  /** A new thing that was begun and not added; null for none. */
  readonly begun: { readonly label: string } | null;
};

/**
 * Changes of things of one kind, gathered before they are applied: kept for whoever makes them over other pages, reloads
 * and starts, and laid over whatever others apply meanwhile.
 */
export function useGathered<D extends Drafted>({
  kind,
  act,
  things,
  shape,
  first,
  refetch,
  nameOf,
}: {
  readonly kind: DraftKind;
  /** What applies one. */
  readonly act: string;
  /** All of them, as they are kept. */
  readonly things: readonly D[];
  readonly shape: Shape<D>;
  readonly first: string | null;
  readonly refetch: () => Promise<unknown>;
  readonly nameOf: (id: string) => string;
}): GatheredThings<D> {
  const [gathered, setGathered] = useState<ReadonlyMap<string, Gathering>>(new Map());
  const [openId, setOpenId] = useState(first);
  const [busy, setBusy] = useState(false);
  const [faults, setFaults] = useState<Readonly<Record<string, string>>>({});
  const keeping = useMemo(
    () =>
      new Keeping(
        kind,
        (error) => toast.error(`Your changes are not kept yet: ${sentence(error)}`, { id: `not kept ${kind}` }),
        (id, sent, both) =>
          setGathered((all) => {
            const here = all.get(id);
            return here ? new Map(all).set(id, { ...here, mine: merged(sent, here.mine, both, () => 'mine') }) : all;
          }),
      ),
    [kind],
  );
  const typed = useRef(new Set<string>());
  useEffect(() => {
    let live = true;
    keeping.read().then(
      (kept) => {
        // What was typed before it was read is newer.
        if (live) setGathered((now) => new Map([...kept, ...[...now].filter(([id]) => typed.current.has(id))]));
      },
      (error: unknown) => toast.error(`Your unfinished changes cannot be read: ${sentence(error)}`),
    );
    const leave = () => keeping.flush();
    window.addEventListener('pagehide', leave);
    return () => {
      live = false;
      window.removeEventListener('pagehide', leave);
      leave();
    };
  }, [keeping]);

  const thing = (id: string | null) => things.find((t) => t.id === id) ?? null;
  const write = (id: string, next: Gathering | null) => {
    typed.current.add(id);
    setGathered((now) => {
      const all = new Map(now);
      if (next) all.set(id, next);
      else all.delete(id);
      return all;
    });
    keeping.later(id, next && isGathered(next) ? next : null);
  };
  const openKey = openId ?? '';
  const own = gathered.get(openKey) ?? null;
  const kept = openId === null ? null : thing(openId);
  const now = kept && shape.valueOf(kept);
  // Others have applied something since: what they did not touch here is laid over theirs.
  const clashes = own && kept && own.revision !== kept.revision && now ? clashesOf(own.base, own.mine, now) : [];
  const mine =
    !own || !now || own.revision === kept?.revision ? own?.mine : merged(own.base, own.mine, now, () => 'mine');
  const draft = mine && own && (kept || openId === null) ? shape.draftOf(openId, kept?.revision ?? 0, mine) : kept;
  const changed = openId === null ? own !== null : mine !== undefined && now !== null && partsOf(now, mine).length > 0;

  /** `over` is what a change of a known thing is based on from now on. */
  const put = (next: D, over: Pick<Gathering, 'base' | 'revision'>) => {
    setFaults({});
    setOpenId(next.id);
    write(next.id ?? '', { ...over, label: shape.labelOf(next), mine: shape.valueOf(next) });
  };
  const set = (next: D) => {
    const before = thing(next.id);
    // As long as something is to be chosen between, it stays so, whatever else is typed.
    const stays = clashes.length > 0 && next.id === openId ? own : null;
    const base = before ? shape.valueOf(before) : (gathered.get('')?.base ?? {});
    put(next, stays ?? { base, revision: before?.revision ?? 0 });
  };
  const drop = (id: string) => {
    typed.current.add(id);
    setGathered((all) => new Map([...all].filter(([of]) => of !== id)));
    keeping.settle(id);
  };
  const settled = async (id: string | null, next: string | null = id) => {
    drop(id ?? '');
    setFaults({});
    await refetch();
    setOpenId(next);
  };
  async function apply<A extends { readonly id?: string }>(saved: string | ((answer: A) => string)): Promise<A | null> {
    if (!draft) return null;
    if (clashes.length > 0) {
      toast.error('Choose first what stands where somebody else set the same.');
      return null;
    }
    setBusy(true);
    setFaults({});
    try {
      const answer = await setting<A>(act, shape.bodyOf?.(draft) ?? draft);
      toast.success(typeof saved === 'string' ? saved : saved(answer));
      await settled(openId, answer.id ?? openId);
      return answer;
    } catch (error) {
      if (error instanceof Refused) {
        setFaults(Object.fromEntries(error.faults.map((f) => [f.where, f.what])));
        // Theirs is read, and both are shown.
        if (error.code === 'changed-meanwhile') await refetch();
      }
      toast.error(sentence(error));
      return null;
    } finally {
      setBusy(false);
    }
  }
  const clashing = clashes.length > 0;
  useEffect(() => {
    if (clashing) toast.message('Somebody else set the same meanwhile. Choose above what stands.');
  }, [clashing]);
  const both =
    own && now && clashing ? (
      <BothVersions
        clashes={clashes}
        nameOf={nameOf}
        onTake={(chosen) => {
          if (kept)
            put(shape.draftOf(openId, kept.revision, merged(own.base, own.mine, now, chosen)), {
              base: now,
              revision: kept.revision,
            });
        }}
      />
    ) : null;
  const fresh = gathered.get('');
  // What is wrong with a name is said where it is typed, before anything is sent.
  const name = draft && own && isGathered(own) ? shape.labelOf(draft).trim() : null;
  const twin =
    name && !shape.namesake
      ? things.find((t) => t.id !== draft?.id && shape.labelOf(t).trim().toLowerCase() === name.toLowerCase())
      : undefined;
  const typedFault =
    name === '' ? 'A name is missing' : twin ? `This name is taken: ${shape.labelOf(twin)} is there already` : null;
  return {
    draft,
    kept,
    changed,
    busy,
    faults: typedFault === null ? faults : { name: typedFault, ...faults },
    notes: (
      <>
        <PlannedNote kind={kind} id={openId} />
        {both}
      </>
    ),
    clashing,
    open: (id) => {
      setFaults({});
      setOpenId(id);
    },
    // It is kept from the first change on.
    begin: (fresh) => put(fresh, { base: shape.valueOf(fresh), revision: 0 }),
    set,
    undo: () => drop(openKey),
    apply,
    settled,
    isChanged: (id) => {
      const of = gathered.get(id);
      return of !== undefined && thing(id) !== null && isGathered(of);
    },
    begun: fresh ? { label: fresh.label } : null,
  };
}
