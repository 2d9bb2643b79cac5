import { seeded } from '../../core/chance';
import { describeDifferences } from '../../core/differences';
import { LaneError } from '../../core/errors';
import { seededIds } from '../../core/ids';
import type { Db } from '../../data/database';
import { type Plan, readPlans, writePlan } from '../../data/plans';
import { settingsCopy } from '../../data/settingscopy';
import type { Actor } from '../ground/actor';
import { createHost, type Times } from '../ground/host';
import { createParts, type Parts } from '../parts';
import { readerOf } from '../workspace/historyreader';
import { gatheredNow } from './gathered';
import type { AheadLine } from './plans';

/**
 * Goes through the days of all planned changes over a copy of the settings, by the same services that will carry them
 * out, and says what each comes to. Takes some tenths of a second: for a thread of its own.
 */
export function lookAhead(db: Db, times: Times, actor: Actor, tried: Plan | null): AheadLine[] {
  const copy = settingsCopy(db);
  try {
    if (tried) writePlan(copy, tried);
    let at = times.floor();
    const host = createHost(copy, seededIds(seeded(1)), { real: times.real, floor: () => at });
    const parts = createParts(host, { ahead: () => Promise.resolve([]) });
    const found = new Map<string, AheadLine>();
    for (const { due, which, planId } of turnsOf(readPlans(copy))) {
      at = Math.max(at, due);
      const plan = readPlans(copy).find((p) => p.id === planId);
      if (!plan) continue;
      if (which === 'ends') {
        if (plan.state === 'on') step(parts, plan, which);
        continue;
      }
      const [before, faulty] = [gatheredNow(copy, plan.kind, plan.thingId)?.value ?? null, faultsNow(parts, actor)];
      const refusal = step(parts, plan, which);
      const after = gatheredNow(copy, plan.kind, plan.thingId)?.value ?? null;
      found.set(planId, {
        id: planId,
        refused: refusal?.message ?? null,
        faults: refusal?.faults ?? [],
        changes: describeDifferences(before, after, readerOf(copy, actor).say),
        toFix: [...faultsNow(parts, actor)].flatMap(([id, says]) => (faulty.has(id) ? [] : [says])),
      });
    }
    return [...found.values()];
  } finally {
    copy.close();
  }
}

/** What will happen by itself, in the order in which it will. */
function turnsOf(plans: readonly Plan[]) {
  return plans
    .flatMap((p) => [
      ...(p.state === 'planned' ? [{ due: p.fromAt, which: 'begins' as const, planId: p.id }] : []),
      ...((p.state === 'planned' || p.state === 'on') && p.untilAt !== null
        ? [{ due: p.untilAt, which: 'ends' as const, planId: p.id }]
        : []),
    ])
    .sort((a, b) => a.due - b.due);
}

function step({ host, plans }: Parts, plan: Plan, which: 'begins' | 'ends'): LaneError | null {
  try {
    host.transact((tx) => writePlan(tx.db, plans.carryOut(tx, which, plan)));
    return null;
  } catch (error) {
    if (error instanceof LaneError) return error;
    throw error;
  }
}

/** What is to be fixed in queues, groups, partner desks, doors and bots, by what names it. */
const faultsNow = ({ queueFixes, bots }: Parts, actor: Actor): ReadonlyMap<string, string> =>
  new Map([
    ...queueFixes.findings(actor).map((f) => [f.id, `${f.about}: ${f.says}`] as const),
    ...bots
      .allFaults()
      .map(
        ({ bot, fault }) => [`${bot.id} ${fault.check} ${fault.sentence}`, `${bot.name}: ${fault.sentence}`] as const,
      ),
  ]);
