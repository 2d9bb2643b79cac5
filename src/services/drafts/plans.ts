import { mixed, number, object } from 'yup';
import { type ChangeLine, describeDifferences } from '../../core/differences';
import { partsOf } from '../../core/drafts/parts';
import { begun, ended, goesOver } from '../../core/drafts/planned';
import { DRAFTED, PLAN_KINDS, type PlanKind } from '../../core/drafts/kinds';
import { type FieldFault, LaneError } from '../../core/errors';
import { holds, RIGHTS } from '../../core/people/rights';
import { dropDraftOf } from '../../data/drafts';
import { readPerson } from '../../data/people';
import { dropPlan, type Plan, type PlanState, readPlan, readPlans, writePlan } from '../../data/plans';
import { clearTimer, setTimer } from '../../data/timers';
import { readWorkspace } from '../../data/workspace';
import { type Actor, actorOf, mustHold, mustHoldEverywhere, mustHoldOne } from '../ground/actor';
import { bind } from '../ground/bind';
import { announce, noteChange, sameRevision } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, oneOf, text, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { readerOf } from '../workspace/historyreader';
import { type Applying, applyGathered, gatheredNow, RIGHT_TO_CHANGE } from './gathered';

/** The furthest day that is planned for, and how many plans there are at most. */
const FURTHEST_MS = 2 * 366 * 86_400_000;
const MOST = 500;

const instant = (label: string) =>
  number()
    .label(label)
    .integer(`${label} must be an instant in ms`)
    .min(0, `${label} must be an instant in ms`)
    .max(9e14, `${label} is too far away`);
const planSchema = exactly(
  object({
    kind: oneOf<PlanKind>(PLAN_KINDS, 'The kind'),
    id: id('What is changed'),
    revision: whole(0, 1e9, 'The revision'),
    value: mixed<object>()
      .required('What it is to be is missing')
      .test(
        'plain',
        'What it is to be must be an object',
        (v) => typeof v === 'object' && v !== null && !Array.isArray(v),
      ),
    from: instant('When it begins').required('When it begins is missing'),
    until: instant('When it ends').nullable().defined(),
    note: text(200, 'The note').defined(),
  }),
);
const oneSchema = exactly(object({ id: id('The planned change') }));

/** What is planned for one thing. `goesOver`: places that somebody has set otherwise since, while it has not begun. */
export type PlanLine = {
  readonly id: string;
  readonly kind: PlanKind;
  readonly kindName: string;
  readonly thingId: string;
  readonly thing: string;
  readonly path: string;
  readonly note: string;
  readonly by: string;
  readonly from: number;
  readonly until: number | null;
  readonly state: PlanState;
  readonly reason: string | null;
  readonly changes: readonly ChangeLine[];
  readonly goesOver: number;
  readonly mayChange: boolean;
};
export type PlansView = { readonly plans: readonly PlanLine[]; readonly now: number; readonly zone: string };

/** What a planned change comes to on its day. */
export type AheadLine = {
  readonly id: string;
  /** Why it would be refused then; null where it would not. */
  readonly refused: string | null;
  readonly faults: readonly FieldFault[];
  /** What it changes of that day's settings. */
  readonly changes: readonly ChangeLine[];
  /** What is to be fixed then that was not before it. */
  readonly toFix: readonly string[];
};

/** `tried` is one that is not kept yet. */
export type Ahead = (actor: Actor, tried: Plan | null) => Promise<readonly AheadLine[]>;

export type AheadView = { readonly plans: readonly AheadLine[] };

/** What the functions of this file are given first. */
export type PlansDeps = { readonly host: Host; readonly by: Applying; readonly ahead: Ahead };

const RIGHTS_TO_PLAN = PLAN_KINDS.map((kind) => RIGHT_TO_CHANGE[kind]);
function mustChange(actor: Actor, kind: PlanKind): void {
  if (kind === 'role') mustHold(actor, RIGHT_TO_CHANGE[kind]);
  else mustHoldEverywhere(actor, RIGHT_TO_CHANGE[kind]);
}
const mayChange = (actor: Actor, kind: PlanKind): boolean =>
  holds(actor, RIGHT_TO_CHANGE[kind]) && (kind === 'role' || actor.teams === 'all');

/** All planned changes that the reader may know of, by when they begin; those that are over come last. */
export function viewPlans({ host }: PlansDeps, actor: Actor): PlansView {
  mustHold(actor, 'settings.view');
  const { say } = readerOf(host.db, actor);
  const open = (p: Plan) => Number(p.state !== 'planned' && p.state !== 'on');
  return {
    now: host.times.floor(),
    zone: readWorkspace(host.db)?.zone ?? 'UTC',
    plans: readPlans(host.db)
      .filter((p) => p.kind !== 'role' || holds(actor, 'people.view'))
      .toSorted((a, b) => open(a) - open(b) || (open(a) ? b.fromAt - a.fromAt : a.fromAt - b.fromAt))
      .map((p): PlanLine => {
        const now = gatheredNow(host.db, p.kind, p.thingId);
        return {
          id: p.id,
          kind: p.kind,
          kindName: DRAFTED[p.kind].name,
          thingId: p.thingId,
          thing: now?.name ?? p.label,
          path: DRAFTED[p.kind].path(p.thingId),
          note: p.note,
          by: readPerson(host.db, p.personId)?.name ?? 'Somebody',
          from: p.fromAt,
          until: p.untilAt,
          state: p.state,
          reason: p.reason,
          changes: describeDifferences(p.base, p.mine, say),
          goesOver: p.state === 'planned' && now ? goesOver(p.base, p.mine, now.value) : 0,
          mayChange: mayChange(actor, p.kind),
        };
      }),
  };
}

/**
 * Plans a gathered change for an instant, and until another where it is to end. It is checked against that day's settings
 * first: with all that is planned before it. Throws what it would be refused with then.
 */
export async function planChange(deps: PlansDeps, actor: Actor, input: unknown): Promise<{ id: string }> {
  const { host, ahead } = deps;
  mustHoldOne(actor, RIGHTS_TO_PLAN);
  const asked = parse(planSchema, input);
  mustChange(actor, asked.kind);
  const plan = (tx: Tx, planId: string): Plan => {
    const now = gatheredNow(tx.db, asked.kind, asked.id);
    if (!now) throw new LaneError('not-found', `This ${DRAFTED[asked.kind].name} is not there any more.`);
    sameRevision(now, asked.revision, now.name);
    if (partsOf(now.value, asked.value).length === 0) throw new LaneError('not-valid', 'Nothing is changed yet.');
    const until = asked.until ?? null;
    if (asked.from <= tx.floorAt) throw refused('from', 'A planned change begins later than now');
    if (asked.from > tx.floorAt + FURTHEST_MS) throw refused('from', 'Plan for the next two years');
    if (until !== null && until <= asked.from) throw refused('until', 'It must end after it begins');
    if (readPlans(tx.db).length >= MOST) throw new LaneError('not-now', `There are ${MOST} planned changes already.`);
    return {
      id: planId,
      personId: actor.personId,
      kind: asked.kind,
      thingId: asked.id,
      label: now.name,
      note: asked.note,
      base: now.value,
      mine: asked.value,
      fromAt: asked.from,
      untilAt: until,
      state: 'planned',
      reason: null,
      before: null,
      after: null,
      realAt: tx.realAt,
    };
  };
  const tried = host.transact((tx) => plan(tx, 'plan_tried'));
  const would = (await ahead(actor, tried)).find((p) => p.id === tried.id);
  if (would?.refused) throw new LaneError('not-valid', would.refused, would.faults);
  return host.transact((tx) => {
    // Made over what is there now: somebody may have changed it while it was tried.
    const made = plan(tx, tx.ids('plan'));
    writePlan(tx.db, made);
    setTimer(tx.db, 'plan-begins', made.id, 'floor', made.fromAt);
    // Set at once, so that a stop over both instants has all that is due in its order.
    if (made.untilAt !== null) setTimer(tx.db, 'plan-ends', made.id, 'floor', made.untilAt);
    dropDraftOf(tx.db, actor.personId, made.kind, made.thingId);
    note(tx, actor, null, made);
    return { id: made.id };
  });
}
const refused = (where: string, what: string) => new LaneError('not-valid', `${what}.`, [{ where, what }]);

/** As History has it: what is planned, and for when. */
const told = (p: Plan) => ({ name: p.label, from: p.fromAt, until: p.untilAt, note: p.note });
function note(tx: Tx, actor: Pick<Actor, 'personId'>, before: Plan | null, after: Plan | null): void {
  const planId = (after ?? before)?.id ?? '';
  const label = (after ?? before)?.label ?? '';
  noteChange(tx, actor, 'plan', planId, before && told(before), after && told(after), { label });
  announce(tx, 'plan', planId);
}

/** Nothing will happen by itself any more. */
export function dropPlanned(tx: Tx, planId: string): void {
  clearTimer(tx.db, 'plan-begins', planId);
  clearTimer(tx.db, 'plan-ends', planId);
  dropPlan(tx.db, planId);
}

/** Calls a change off that has not begun, forgets one that is over, or ends one that is on. */
export function callOffPlan(deps: PlansDeps, actor: Actor, input: unknown): { id: string } {
  mustHoldOne(actor, RIGHTS_TO_PLAN);
  const asked = parse(oneSchema, input);
  return deps.host.transact((tx) => {
    const plan = readPlan(tx.db, asked.id);
    if (!plan) throw new LaneError('not-found', 'This planned change is not there any more.');
    mustChange(actor, plan.kind);
    if (plan.state === 'on') {
      clearTimer(tx.db, 'plan-ends', plan.id);
      goBack(deps, tx, plan, actor);
      writePlan(tx.db, { ...plan, untilAt: tx.floorAt, state: 'done' });
      announce(tx, 'plan', plan.id);
      return { id: plan.id };
    }
    dropPlanned(tx, plan.id);
    if (plan.state === 'planned') note(tx, actor, plan, null);
    else announce(tx, 'plan', plan.id);
    return { id: plan.id };
  });
}

/** Lays the planned change on what is there, as a press of whoever planned it would. */
function goForth({ by }: PlansDeps, tx: Tx, plan: Plan): Plan {
  const now = there(tx, plan);
  const actor = actorOf(tx.db, plan.personId);
  if (!actor) throw new LaneError('not-allowed', 'Whoever planned it is not there any more.');
  const after = begun(plan.base, plan.mine, now.value) as typeof now.value;
  if (partsOf(now.value, after).length > 0) applyGathered(by, actor, plan.kind, plan.thingId, now.revision, after);
  return { ...plan, before: now.value, after, state: plan.untilAt === null ? 'done' : 'on', reason: null };
}
function goBack({ by }: PlansDeps, tx: Tx, plan: Plan, actor: Pick<Actor, 'personId'>): void {
  const now = there(tx, plan);
  const back = ended(plan.before, plan.after, now.value) as typeof now.value;
  // Its end was part of the plan when it was made, whatever whoever made it may do by now.
  const whoever: Actor = {
    name: '',
    roleId: '',
    roleName: '',
    ...actorOf(tx.db, actor.personId),
    personId: actor.personId,
    rights: RIGHTS,
    teams: 'all',
  };
  if (partsOf(now.value, back).length > 0) applyGathered(by, whoever, plan.kind, plan.thingId, now.revision, back);
}
function there(tx: Tx, { kind, thingId }: Plan) {
  const now = gatheredNow(tx.db, kind, thingId);
  if (!now) throw new LaneError('not-found', `This ${DRAFTED[kind].name} is not there any more.`);
  return now;
}

type Turn = 'begins' | 'ends';

/** Begins a planned change, or ends it; gives it as it is then. Throws what a press would be refused with. */
export function carryOutPlan(deps: PlansDeps, tx: Tx, which: Turn, plan: Plan): Plan {
  if (which === 'begins') return goForth(deps, tx, plan);
  goBack(deps, tx, plan, plan);
  return { ...plan, state: 'done' };
}

/** A planned change begins, or one that is on ends. What refuses it is kept with it and told; nothing of it is done then. */
export function planDue(deps: PlansDeps, tx: Tx, which: Turn, planId: string): void {
  const plan = readPlan(tx.db, planId);
  if (!plan || plan.state !== (which === 'begins' ? 'planned' : 'on')) return;
  let next: Plan;
  try {
    next = deps.host.transact((inner) => carryOutPlan(deps, inner, which, plan));
  } catch (error) {
    if (!isRefusal(error)) throw error;
    next = { ...plan, state: 'failed', reason: error.message };
  }
  writePlan(tx.db, next);
  if (next.state !== 'on') clearTimer(tx.db, 'plan-ends', plan.id);
  announce(tx, 'plan', plan.id);
}
/** What is wrong with the house, not with the change, is tried again. */
const isRefusal = (error: unknown): error is LaneError =>
  error instanceof LaneError && error.code !== 'not-kept' && error.code !== 'broken-inside';

/** What each planned change comes to on its day, with all that is planned before it. */
export async function aheadOf({ ahead }: PlansDeps, actor: Actor): Promise<AheadView> {
  mustHold(actor, 'settings.view');
  return { plans: await ahead(actor, null) };
}

/** Changes that come and go by themselves. */
export const createPlans = (deps: PlansDeps) =>
  bind(deps, {
    view: viewPlans,
    plan: planChange,
    callOff: callOffPlan,
    carryOut: carryOutPlan,
    due: planDue,
    ahead: aheadOf,
  });
