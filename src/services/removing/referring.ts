import { allSteps, type BotScript, type Step } from '../../core/bots/model';
import type { Who } from '../../core/people/membership';
import { readBots, readVersion, SHARED_SCENES, writeDraft } from '../../data/bots';
import type { Db } from '../../data/database';
import { valueOf } from '../../data/documents';
import { DESK_RULES, THE_RULES } from '../../data/duty';
import { GROUPS } from '../../data/groups';
import { readQueues, writeQueue } from '../../data/queuesettings';
import { newSettingsVersion } from '../../data/workspace';
import { bare } from '../queues/keepqueue';
import type { Touching } from './removal';

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

/** Queues that are otherwise without a thing. */
export const queuesTouched = (
  db: Db,
  without: (queue: ReturnType<typeof readQueues>[number]) => ReturnType<typeof readQueues>[number],
  becomes: string,
): Touching[] =>
  readQueues(db).flatMap((q): Touching[] => {
    const after = without(q);
    if (same(after, q)) return [];
    return [
      {
        name: q.name,
        path: `/queues?queue=${q.id}`,
        becomes,
        history: { kind: 'queue', id: q.id, before: bare(q), after: bare(after) },
        write: (tx) => writeQueue(tx.db, bare(after), q.place, newSettingsVersion(tx.db, tx.realAt, 'queue', q.id)),
      },
    ];
  });

/** Drafts of bots and shared scenes whose lines are otherwise without a thing. */
export function linesTouched(db: Db, without: (steps: readonly Step[]) => Step[], becomes: string): Touching[] {
  return [
    ...SHARED_SCENES.all(db).flatMap((s): Touching[] => {
      const after = { ...valueOf(s), steps: without(s.steps) };
      if (same(after.steps, s.steps)) return [];
      return [
        {
          name: s.name,
          path: `/bots/shared?scene=${s.id}`,
          becomes,
          history: { kind: 'shared-scene', id: s.id, before: valueOf(s), after },
          write: (tx) => SHARED_SCENES.restore(tx.db, s.id, after),
        },
      ];
    }),
    ...readBots(db).flatMap((b): Touching[] => {
      const draft: BotScript = {
        ...b.draft,
        scenes: b.draft.scenes.map((scene) => ({ ...scene, steps: without(scene.steps) })),
      };
      if (same(draft, b.draft)) return [];
      return [
        {
          name: b.name,
          path: `/bots/${b.id}`,
          becomes: `its draft ${becomes}`,
          history: { kind: 'bot', id: b.id, before: { name: b.name, draft: b.draft }, after: { name: b.name, draft } },
          write: (tx) => writeDraft(tx.db, b.id, b.name, draft),
        },
      ];
    }),
  ];
}

/** Names of bots whose live version has lines that would be otherwise without a thing. */
export const liveWith = (db: Db, without: (steps: readonly Step[]) => Step[]): string[] =>
  readBots(db).flatMap((b) => {
    const live = b.liveVersion === null ? undefined : readVersion(db, b.id, b.liveVersion);
    const steps = live ? [...allSteps(live.script), ...live.pinned.shared.flatMap((s) => s.steps)] : [];
    return same(without(steps), steps) ? [] : [b.name];
  });

/** Rules that say who belongs to a group or gets a desk profile by a team or skill that goes. */
export function rulesTouched(db: Db, goes: (who: Who) => boolean): Touching[] {
  const desks = DESK_RULES.one(db, THE_RULES);
  const left = desks?.rules.filter((rule) => !goes(rule.who)) ?? [];
  return [
    ...GROUPS.all(db).flatMap((g): Touching[] => {
      const after = { ...valueOf(g), who: g.who.filter((who) => !goes(who)) };
      if (after.who.length === g.who.length) return [];
      return [
        {
          name: g.name,
          path: `/queues/groups?group=${g.id}`,
          becomes: 'has no rule by it any more',
          history: { kind: 'group', id: g.id, before: valueOf(g), after },
          write: (tx) => GROUPS.restore(tx.db, g.id, after),
        },
      ];
    }),
    ...(desks && left.length < desks.rules.length
      ? [
          {
            name: 'Who gets which desk profile',
            path: '/people/desks',
            becomes: 'has no rule by it any more',
            history: {
              kind: 'desk-rules',
              id: THE_RULES,
              before: { rules: desks.rules, helpers: desks.helpers },
              after: { rules: left, helpers: desks.helpers },
            },
            write: (tx) => DESK_RULES.write(tx.db, THE_RULES, desks.name, { rules: left, helpers: desks.helpers }),
          } satisfies Touching,
        ]
      : []),
  ];
}
