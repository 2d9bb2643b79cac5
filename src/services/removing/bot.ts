import type { BotScript } from '../../core/bots/model';
import { LaneError } from '../../core/errors';
import { doorWithout, needsInstead, queueWithout } from '../../core/removing/without';
import { BOT_TESTS, dropBot, readBot, readBots, retireBot, writeDraft } from '../../data/bots';
import type { Db } from '../../data/database';
import { valueOf } from '../../data/documents';
import { readDoors, writeDoor } from '../../data/doors';
import { readQueues, writeQueue } from '../../data/queuesettings';
import { newSettingsVersion } from '../../data/workspace';
import { doorValue } from '../doors/doors';
import { mustHoldEverywhere } from '../ground/actor';
import type { Undoable } from '../ground/change';
import { bare } from '../queues/keepqueue';
import type { Removal, RemovingDeps, Touching } from './removal';

/** A bot that was removed comes back as a draft; one that was in use with all its versions. */
export const undoableBots: Readonly<Record<'bot-removal', Undoable>> = {
  'bot-removal': {
    name: 'removed bot',
    path: (botId) => `/bots/${botId}`,
    read: (db, botId) => {
      const bot = readBot(db, botId);
      return bot ? { name: bot.name, draft: bot.draft } : null;
    },
    restore: (tx, actor, botId, value) => {
      mustHoldEverywhere(actor, 'bots.change');
      if (value === null) throw new LaneError('not-now', 'A bot is removed on its own page, with what leads to it.');
      const { name, draft } = value as { readonly name: string; readonly draft: BotScript };
      writeDraft(tx.db, botId, name, draft);
    },
  },
};

/** What leads to a bot: doors, and queues that send contacts back to one of its scenes. */
export function botRemoval(_deps: RemovingDeps, db: Db, botId: string, instead: string | null): Removal | null {
  const bot = readBot(db, botId);
  if (!bot) return null;
  const others = readBots(db).filter((b) => b.id !== botId);
  const next = others.find((b) => b.id === instead);
  const gone = { kind: 'bot' as const, id: botId, instead: next?.id ?? null };
  const doors = readDoors(db);
  return {
    name: bot.name,
    stops: others.length === 0 ? ['It is the only bot.'] : [],
    touches: [
      ...doors.flatMap((d): Touching[] => {
        const after = { ...doorWithout(d, gone), ...(d.botId === botId ? { trial: null } : {}) };
        if (after.botId === d.botId && JSON.stringify(after) === JSON.stringify(d)) return [];
        return [
          {
            name: d.name,
            path: `/doors?door=${d.id}`,
            becomes:
              d.botId !== botId
                ? 'does not lead to it any more'
                : next
                  ? `${next.name} meets whoever comes`
                  : 'needs another bot to meet whoever comes',
            history: { kind: 'door', id: d.id, before: doorValue(d), after: doorValue(after) },
            write: (tx) => writeDoor(tx.db, after),
          },
        ];
      }),
      ...readQueues(db).flatMap((q): Touching[] => {
        const after = queueWithout(q, gone);
        if (after === q) return [];
        return [
          {
            name: q.name,
            path: `/queues?queue=${q.id}`,
            becomes: 'what sent contacts back to its scenes is taken out',
            history: { kind: 'queue', id: q.id, before: bare(q), after: bare(after) },
            write: (tx) => writeQueue(tx.db, bare(after), q.place, newSettingsVersion(tx.db, tx.realAt, 'queue', q.id)),
          },
        ];
      }),
      ...BOT_TESTS.all(db)
        .filter((t) => t.botId === botId)
        .map((t): Touching => ({
          name: t.name,
          path: `/bots/${botId}`,
          becomes: 'goes with it',
          history: { kind: 'bot-test', id: t.id, before: valueOf(t), after: null },
          write: (tx) => BOT_TESTS.remove(tx.db, t.id),
        })),
    ],
    insteads: others.map(({ id, name }) => ({ id, name })),
    needsInstead: doors.some((d) => needsInstead(d, gone)),
    value: { name: bot.name, draft: bot.draft },
    drop: (tx) => dropBot(tx.db, botId),
    retire: (tx) => retireBot(tx.db, botId, tx.realAt),
  };
}
