import { localDate } from '../../core/hours/weekly';
import { holds } from '../../core/people/rights';
import { ARTICLES } from '../../data/articles';
import { blocksAskedFor, customersAsOne, nameAmong } from '../../data/customers';
import { readPeople } from '../../data/people';
import { readPlans } from '../../data/plans';
import { readOwnLevels, readSkills } from '../../data/skills';
import { readWorkspace } from '../../data/workspace';
import { isDue } from '../bots/articles';
import type { Bots } from '../bots/bots';
import { mayDealWith } from '../customers/access';
import { type Actor, mustHold, sees } from '../ground/actor';
import { bind } from '../ground/bind';
import type { Host } from '../ground/host';
import { todayOf } from '../people/peoplebook';
import type { ReadinessService } from '../people/readiness';
import type { Reading } from '../readings';
import type { QueueFixes } from '../queues/queuefixes';
import { mayTryAgain, type SetAside } from './setaside';

/** One configuration fault: what is wrong, and where it is mended. */
export type Finding = {
  readonly id: string;
  readonly weight: 'stops' | 'advice';
  readonly about: string;
  readonly says: string;
  readonly fix: string;
  readonly path: string;
  /** Words of the one press that mends it, when there is one. */ readonly press: string | null;
  /** The act that the press carries out, with what it needs. */ readonly act: {
    readonly name: 'mend' | 'mend-bot' | 'try-again';
    readonly input: Readonly<Record<string, string | number | null>>;
  };
};
export type ToFixView = { readonly findings: readonly Finding[]; readonly stops: number; readonly advice: number };

const NO_ACT: Finding['act'] = { name: 'mend', input: {} };

/** How long before its last day a skill is named. */
const AHEAD_DAYS = 30;

/** What the functions of this file are given first. */
export type ToFixDeps = {
  readonly host: Host;
  readonly readiness: ReadinessService;
  readonly queueFixes: QueueFixes;
  readonly bots: Bots;
  readonly setAside: SetAside;
  readonly reading: Reading;
};

function ending({ host }: ToFixDeps, actor: Actor): Finding[] {
  const skills = new Map(readSkills(host.db).map((s) => [s.id, s.name]));
  const own = readOwnLevels(host.db);
  const now = host.times.floor();
  return readPeople(host.db)
    .filter((p) => p.active && sees(actor, p))
    .flatMap((p) => {
      const [today, ahead] = [todayOf(host, p, now), todayOf(host, p, now + AHEAD_DAYS * 86_400_000)];
      return [...(own.get(p.id) ?? [])].flatMap(([skillId, level]): Finding[] =>
        level.until !== null && level.level !== 'never' && level.until >= today && level.until <= ahead
          ? [
              {
                id: `ends|${p.id}|${skillId}`,
                weight: 'advice',
                about: p.name,
                says: `${skills.get(skillId) ?? 'A skill'} ${level.level} ends after ${level.until}.`,
                fix: 'Set a later end',
                path: `/people?person=${p.id}`,
                press: null,
                act: NO_ACT,
              },
            ]
          : [],
      );
    });
}

/** What went wrong while it ran, and is tried again. */
const ofRunning = ({ setAside }: ToFixDeps, actor: Actor): Finding[] =>
  actor.teams !== 'all'
    ? []
    : setAside.asides().map(({ id, about, says, path, timer }): Finding => ({
        id,
        weight: 'stops',
        about,
        says,
        fix: 'Look at it',
        path,
        press: timer !== null && mayTryAgain(actor) ? 'Try it now' : null,
        act: { name: 'try-again', input: { timer } },
      }));

/** Planned changes that could not begin or end. */
const ofPlans = ({ host }: ToFixDeps, actor: Actor): Finding[] =>
  !holds(actor, 'settings.view')
    ? []
    : readPlans(host.db)
        .filter((p) => p.state === 'failed' && (p.kind !== 'role' || holds(actor, 'people.view')))
        .map((p): Finding => ({
          id: `plan|${p.id}`,
          weight: 'stops',
          about: p.label,
          says: `A planned change could not ${p.before === null ? 'begin' : 'end'}: ${p.reason ?? ''}`,
          fix: 'Look at it',
          path: '/plans',
          press: null,
          act: NO_ACT,
        }));

/** Articles that somebody should look at again by now. */
function ofArticles({ host }: ToFixDeps, actor: Actor): Finding[] {
  if (!holds(actor, 'settings.view')) return [];
  const today = localDate(host.times.floor(), readWorkspace(host.db)?.zone ?? 'UTC');
  return ARTICLES.all(host.db)
    .filter((a) => isDue(a, today))
    .map((a): Finding => ({
      id: `article|${a.id}`,
      weight: 'advice',
      about: a.name,
      says: `This article was to be looked at again on ${a.lookAgain ?? today}.`,
      fix: 'Look at it',
      path: `/bots/articles?article=${a.id}`,
      press: null,
      act: NO_ACT,
    }));
}

/** Customers of whom somebody asks that they be blocked, for whoever may decide it. */
function ofBlocks({ host }: ToFixDeps, actor: Actor): Finding[] {
  if (!holds(actor, 'customers.change')) return [];
  const names = new Map(readPeople(host.db).map((p) => [p.id, p.name]));
  return blocksAskedFor(host.db)
    .filter((b) => mayDealWith(host, actor, b.customerId))
    .map((b): Finding => {
      const all = customersAsOne(host.db, b.customerId);
      return {
        id: `block|${b.customerId}`,
        weight: 'advice',
        about: nameAmong(all) ?? all[0]?.address ?? 'A customer',
        says: `${names.get(b.askedBy) ?? 'Somebody'} asks that they be blocked: “${b.why}”.`,
        fix: 'Decide',
        path: `/customers/${encodeURIComponent(b.customerId)}`,
        press: null,
        act: NO_ACT,
      };
    });
}

/** Faults of drafts, which are what can be mended; scripts are everybody's to read. */
const ofBots = ({ bots }: ToFixDeps, actor: Actor): Finding[] =>
  !actor.rights.includes('settings.view')
    ? []
    : bots.allFaults().map(({ bot, fault }): Finding => ({
        id: `bot|${bot.id}|${fault.check}|${fault.lineId ?? ''}|${fault.sentence}`,
        weight: fault.weight,
        about: bot.name,
        says: fault.sentence,
        fix: 'Look at it',
        path: `/bots/${bot.id}${fault.lineId === null ? '' : `?line=${fault.lineId}`}`,
        press: fault.fix && actor.rights.includes('bots.change') && actor.teams === 'all' ? fault.fix.label : null,
        act: { name: 'mend-bot', input: { botId: bot.id, check: fault.check, lineId: fault.lineId } },
      }));

export function viewToFix(deps: ToFixDeps, actor: Actor): ToFixView {
  mustHold(actor, 'people.view');
  const stops = deps.readiness.notReady(actor).flatMap((p) =>
    p.stops.map((c): Finding => ({
      id: `ready|${p.personId}|${c.id}`,
      weight: 'stops',
      about: p.name,
      says: `${c.says}.`,
      fix: c.fix?.words ?? 'Look at it',
      path: `/people?person=${p.personId}`,
      press: null,
      act: NO_ACT,
    })),
  );
  const settings = deps.queueFixes.findings(actor).map((f): Finding => ({
    id: f.id,
    weight: f.weight,
    about: f.about,
    says: f.says,
    fix: 'Look at it',
    path: f.path,
    press: f.press,
    act: { name: 'mend', input: { id: f.id } },
  }));
  const scripts = ofBots(deps, actor);
  const findings = [
    ...ofRunning(deps, actor),
    ...ofPlans(deps, actor),
    ...settings,
    ...scripts,
    ...ofArticles(deps, actor),
    ...ofBlocks(deps, actor),
    ...stops,
    ...ending(deps, actor),
  ];
  return {
    findings,
    stops: findings.filter((f) => f.weight === 'stops').length,
    advice: findings.filter((f) => f.weight === 'advice').length,
  };
}

/** The same with what takes long to find, which is read where it holds nobody up. */
export async function wholeToFix(deps: ToFixDeps, actor: Actor, signal?: AbortSignal): Promise<ToFixView> {
  const view = viewToFix(deps, actor);
  const shifts = (await deps.reading('slow-findings', actor, {}, signal)).map((f): Finding => ({
    id: f.id,
    weight: f.weight,
    about: f.about,
    says: f.says,
    fix: 'Look at it',
    path:
      f.kind === 'shift'
        ? '/people/shifts'
        : `/bots/languages?language=${f.id.slice(f.id.lastIndexOf('|language-') + 10)}`,
    press: null,
    act: NO_ACT,
  }));
  return { ...view, findings: [...view.findings, ...shifts], advice: view.advice + shifts.length };
}

/** People whom no contact can reach, and what keeps contacts away: what the strip counts. */
export const countToFix = (deps: ToFixDeps, actor: Actor): number =>
  (actor.rights.includes('people.view') ? deps.readiness.countNotReady(actor) : 0) +
  deps.queueFixes.findings(actor).filter((f) => f.weight === 'stops').length +
  ofBots(deps, actor).filter((f) => f.weight === 'stops').length +
  ofRunning(deps, actor).length +
  ofPlans(deps, actor).length;

/** Every configuration fault in one list: those that keep contacts away first. */
export const createToFix = (deps: ToFixDeps) => bind(deps, { view: viewToFix, whole: wholeToFix, count: countToFix });
