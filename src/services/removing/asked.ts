import { queueWithout, stepsWithoutAsked } from '../../core/removing/without';
import type { Db } from '../../data/database';
import { valueOf } from '../../data/documents';
import { GROUPS, PARTNERS } from '../../data/groups';
import { keepRetired } from '../../data/retired';
import { linesTouched, liveWith, queuesTouched } from './referring';
import type { Removal, RemovalOf } from './removal';

/** What leads to a group or partner desk, and what becomes of it when that goes. */
const askedRemoval =
  (kind: 'group' | 'partner'): RemovalOf =>
  ({ floor }, db: Db, thingId, instead): Removal | null => {
    const store = kind === 'group' ? GROUPS : PARTNERS;
    const thing = kind === 'group' ? GROUPS.one(db, thingId) : PARTNERS.one(db, thingId);
    if (!thing) return null;
    const all: readonly { readonly id: string; readonly name: string }[] = store.all(db);
    const others = all.filter((o) => o.id !== thingId);
    const next = others.find((o) => o.id === instead);
    const gone = { kind, id: thingId, instead: next?.id ?? null };
    const called = kind === 'partner' ? floor.router.floor.partners.get(thingId) : undefined;
    const onTheLine = called?.uses.open ?? 0;
    return {
      name: thing.name,
      stops: [
        ...liveWith(db, (steps) => stepsWithoutAsked(steps, gone)).map(
          (name) => `${name} is live and hands over to it: publish it without first.`,
        ),
        ...(onTheLine > 0 ? [`${onTheLine} ${onTheLine === 1 ? 'call is' : 'calls are'} with it now.`] : []),
      ],
      touches: [
        ...queuesTouched(
          db,
          (q) => queueWithout(q, gone),
          next ? `asks ${next.name} instead` : 'does not ask it any more',
        ),
        ...linesTouched(
          db,
          (steps) => stepsWithoutAsked(steps, gone),
          next ? `hands over to ${next.name}` : 'hands over to the queue alone',
        ),
      ],
      insteads: others.map(({ id, name }) => ({ id, name })),
      needsInstead: false,
      value: valueOf(thing),
      drop: (tx) => store.remove(tx.db, thingId),
      retire: (tx) => {
        keepRetired(tx.db, kind, thingId, thing.name, valueOf(thing), tx.realAt);
        store.remove(tx.db, thingId);
      },
    };
  };
export const groupRemoval = askedRemoval('group');
export const partnerRemoval = askedRemoval('partner');
