import { allSteps } from '../../core/bots/model';
import {
  doorWithout,
  leadsTo,
  needsInstead,
  queueWithout,
  scriptWithout,
  stepsWithout,
} from '../../core/removing/without';
import { readBots, readVersion, SHARED_SCENES, writeDraft } from '../../data/bots';
import { readCallbacks } from '../../data/callbacks';
import type { Db } from '../../data/database';
import { valueOf } from '../../data/documents';
import { readDoors, writeDoor } from '../../data/doors';
import { PERSON_ROWS, readProfiles, writeProfile } from '../../data/dutyprofiles';
import { PARTNERS } from '../../data/groups';
import { dropQueue, readQueue, readQueues, retireQueue, writeQueue } from '../../data/queuesettings';
import { newSettingsVersion } from '../../data/workspace';
import { doorValue } from '../doors/doors';
import { profileBody } from '../people/duty';
import { bare } from '../queues/keepqueue';
import type { Removal, RemovingDeps, Touching } from './removal';

/** Nothing is done about it: the queue is not removed before another is chosen. */
const needing = (name: string, path: string): Touching => ({
  name,
  path,
  becomes: 'needs another queue to lead to',
  history: { kind: 'queue', id: '', before: null, after: null },
  write: () => undefined,
});

/** What leads to a queue, and what becomes of it when the queue goes. */
export function queueRemoval(
  { floor, host }: RemovingDeps,
  db: Db,
  queueId: string,
  instead: string | null,
): Removal | null {
  const queue = readQueue(db, queueId);
  if (!queue) return null;
  const others = readQueues(db).filter((q) => q.id !== queueId);
  const next = others.find((q) => q.id === instead);
  const gone = { kind: 'queue' as const, id: queueId, instead: next?.id ?? null };
  const led = next ? `lead to ${next.name}` : 'are taken out';
  const bots = readBots(db);
  const doors = readDoors(db);
  const needs = (steps: Parameters<typeof leadsTo>[0]) => leadsTo(steps, 'queue', queueId);
  const drafts = bots.filter((b) => b.draft.fallbackQueueId === queueId || needs(allSteps(b.draft)));
  const shared = SHARED_SCENES.all(db).filter((s) => needs(s.steps));
  const strict = doors.filter((d) => needsInstead(d, gone));
  const needed = drafts.length > 0 || shared.length > 0 || strict.length > 0;
  const waiting = [...floor.router.floor.waiting.values()].filter((v) => v.queue.id === queueId).length;
  const promised = readCallbacks(db, host.times.floor() + 1).filter((c) => c.endedAt === null && c.queueId === queueId);
  const live = bots.filter((b) => {
    const version = b.liveVersion === null ? undefined : readVersion(db, b.id, b.liveVersion);
    return (
      version &&
      (version.script.fallbackQueueId === queueId ||
        needs([...allSteps(version.script), ...version.pinned.shared.flatMap((s) => s.steps)]))
    );
  });
  const touches: Touching[] = [
    ...readProfiles(db)
      .filter((p) => p.rows.some((r) => r.queueId === queueId))
      .map((p): Touching => {
        const after = {
          ...profileBody(p),
          rows: p.rows.filter((r) => r.queueId !== queueId),
        };
        return {
          name: p.name,
          path: `/people/duty?profile=${p.id}`,
          becomes: 'does not take it any more',
          history: { kind: 'duty-profile', id: p.id, before: profileBody(p), after },
          write: (tx) => writeProfile(tx.db, after),
        };
      }),
    ...PERSON_ROWS.all(db)
      .filter((p) => p.rows.some((r) => r.queueId === queueId))
      .map((p): Touching => {
        const rows = p.rows.filter((r) => r.queueId !== queueId);
        return {
          name: p.name,
          path: `/people?person=${p.id}`,
          becomes: 'has no row of their own for it any more',
          history: {
            kind: 'own-rows',
            id: p.id,
            before: valueOf(p),
            after: rows.length === 0 ? null : { ...valueOf(p), rows },
          },
          write: (tx) =>
            rows.length === 0 ? PERSON_ROWS.remove(tx.db, p.id) : PERSON_ROWS.write(tx.db, p.id, p.name, { rows }),
        };
      }),
    ...others.flatMap((q): Touching[] => {
      const after = queueWithout(q, gone);
      if (after === q) return [];
      return [
        {
          name: q.name,
          path: `/queues?queue=${q.id}`,
          becomes: `what went on to it from its clock, its entry rules or its calls back: they ${led}`,
          history: { kind: 'queue', id: q.id, before: bare(q), after: bare(after) },
          write: (tx) => writeQueue(tx.db, bare(after), q.place, newSettingsVersion(tx.db, tx.realAt, 'queue', q.id)),
        },
      ];
    }),
    ...doors.flatMap((d): Touching[] => {
      const after = doorWithout(d, gone);
      if (after === d) return [];
      return [
        {
          name: d.name,
          path: `/doors?door=${d.id}`,
          becomes: next ? `leads to ${next.name} instead` : 'ends contacts where it gave them to it while closed',
          history: { kind: 'door', id: d.id, before: doorValue(d), after: doorValue(after) },
          write: (tx) => writeDoor(tx.db, after),
        },
      ];
    }),
    ...(next
      ? [
          ...shared.map((s): Touching => {
            const after = { ...valueOf(s), steps: stepsWithout(s.steps, 'queue', queueId, next.id) };
            return {
              name: s.name,
              path: '/bots/shared',
              becomes: `hands over to ${next.name}`,
              history: { kind: 'shared-scene', id: s.id, before: valueOf(s), after },
              write: (tx) => SHARED_SCENES.restore(tx.db, s.id, after),
            };
          }),
          ...drafts.map((b): Touching => {
            const draft = scriptWithout(b.draft, queueId, next.id);
            return {
              name: b.name,
              path: `/bots/${b.id}`,
              becomes: `its draft hands over to ${next.name}`,
              history: {
                kind: 'bot',
                id: b.id,
                before: { name: b.name, draft: b.draft },
                after: { name: b.name, draft },
              },
              write: (tx) => writeDraft(tx.db, b.id, b.name, draft),
            };
          }),
        ]
      : [
          ...shared.map((s) => needing(s.name, '/bots/shared')),
          ...drafts.map((b) => needing(b.name, `/bots/${b.id}`)),
          ...strict.map((d) => needing(d.name, `/doors?door=${d.id}`)),
        ]),
    ...PARTNERS.all(db)
      .filter((p) => p.numbers.some((n) => n.perQueue[queueId]))
      .map((p): Touching => {
        const after = {
          ...valueOf(p),
          numbers: p.numbers.map((n) => ({
            ...n,
            perQueue: Object.fromEntries(Object.entries(n.perQueue).filter(([of]) => of !== queueId)),
          })),
        };
        return {
          name: p.name,
          path: `/queues/partners?partner=${p.id}`,
          becomes: 'has no rank or weight for it any more',
          history: { kind: 'partner', id: p.id, before: valueOf(p), after },
          write: (tx) => PARTNERS.restore(tx.db, p.id, after),
        };
      }),
  ];
  return {
    name: queue.name,
    stops: [
      ...(waiting > 0 ? [`${waiting} ${waiting === 1 ? 'contact waits' : 'contacts wait'} in it now.`] : []),
      ...(promised.length > 0
        ? [`${promised.length} ${promised.length === 1 ? 'call back is' : 'calls back are'} promised by it.`]
        : []),
      ...live.map((b) => `${b.name} is live and hands over to it: publish it with another queue first.`),
      ...(others.length === 0 ? ['It is the only queue.'] : []),
    ],
    touches,
    insteads: others.map(({ id, name }) => ({ id, name })),
    needsInstead: needed,
    value: bare(queue),
    drop: (tx) => dropQueue(tx.db, queueId),
    retire: (tx) => retireQueue(tx.db, queueId, tx.realAt),
  };
}
