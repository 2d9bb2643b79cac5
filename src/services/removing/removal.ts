import type { Db } from '../../data/database';
import type { RetiredKind } from '../../core/removing/kinds';
import type { Retired } from '../../data/retired';
import type { LiveFloor } from '../contacts/livefloor';
import type { Host, Tx } from '../ground/host';
import type { Reading } from '../readings';

/** What the functions of this file are given first. */
export type RemovingDeps = {
  readonly host: Host;
  readonly floor: LiveFloor;
  readonly reading: Reading;
};

/** Something that leads to what is removed, and what it will do then. */
export type Touched = { readonly name: string; readonly path: string; readonly becomes: string };
/** The same with what is done about it; `history` is what is noted of it. */
export type Touching = Touched & {
  /** Null where the removed thing itself keeps it. */
  readonly history: {
    readonly kind: string;
    readonly id: string;
    readonly before: unknown;
    readonly after: unknown;
  } | null;
  readonly write: (tx: Tx) => void;
};
/** What keeps a thing from being removed, what leads to it, and what it is, as History keeps it. */
export type Removal = {
  readonly name: string;
  readonly stops: readonly string[];
  readonly touches: readonly Touching[];
  /** What could take its place, where something needs that it has one. */
  readonly insteads: readonly { readonly id: string; readonly name: string }[];
  readonly needsInstead: boolean;
  readonly value: unknown;
  readonly drop: (tx: Tx) => void;
  readonly retire: (tx: Tx) => void;
};
export type RemovalOf = (deps: RemovingDeps, db: Db, thingId: string, instead: string | null) => Removal | null;

export type RemovalView = Pick<Removal, 'name' | 'stops' | 'insteads' | 'needsInstead'> & {
  /** Whether anything has ever happened with it: then it is retired, not deleted. */
  readonly used: boolean;
  readonly touches: readonly Touched[];
};
export type RetiredView = { readonly retired: readonly Retired[]; readonly mayBringBack: readonly RetiredKind[] };
