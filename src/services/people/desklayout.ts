import type { Localised } from '../../core/localised';
import {
  type DeskProfile,
  type DeskRule,
  deskRuleFor,
  type DeskView,
  type Helper,
  helperBar,
  PLAIN_DESK,
} from '../../core/people/deskprofile';
import type { Db } from '../../data/database';
import { DESK_PROFILES, DESK_RULES, STOCK_SETS, THE_RULES } from '../../data/duty';
import { type Person, readPeople } from '../../data/people';
import { readFields } from '../../data/fields';
import { replyUses } from '../../data/replyuses';
import { readRoles } from '../../data/roles';
import { readSkills } from '../../data/skills';
import { readTeams } from '../../data/teams';
import { type Actor, mustHold, sees } from '../ground/actor';
import type { Host } from '../ground/host';
import { levelsNow, teamIdsOf } from './peoplebook';

export type DeskProfilesView = {
  readonly profiles: readonly (DeskProfile & { revision: number; people: readonly string[] })[];
  readonly rules: readonly DeskRule[];
  readonly rulesRevision: number;
  readonly helpers: readonly Helper[];
  readonly sets: readonly StockSet[];
  /** How often each stock reply was sent, by its id. */ readonly uses: Readonly<Record<string, number>>;
  /** The fields that a reply may be filled with. */ readonly fields: readonly string[];
  readonly teams: readonly { id: string; name: string }[];
  readonly roles: readonly { id: string; name: string }[];
  readonly skills: readonly { id: string; name: string }[];
  /** Who got which profile by which rule; null is no rule, so the plain Desk. */
  readonly people: readonly { id: string; name: string; rule: number | null; profile: string }[];
  readonly mayChange: boolean;
};

export type StockSet = {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly replies: readonly { id: string; title: string; text: Localised }[];
};

/** What one Desk shows. `helpers` are only those that can work; `barred` says why the others do not. */
export type DeskLayout = {
  readonly name: string;
  readonly panels: DeskProfile['panels'];
  readonly helpers: readonly Helper[];
  readonly views: readonly DeskView[];
  readonly replies: readonly { id: string; set: string; title: string; text: Localised }[];
};

/** What the functions of this file are given first. */
export type DeskProfilesDeps = { readonly host: Host };

export const rulesNow = (db: Db) => DESK_RULES.one(db, THE_RULES) ?? { rules: [], helpers: [], revision: 0 };

export const bareProfile = (p: DeskProfile): DeskProfile => ({
  id: p.id,
  name: p.name,
  panels: p.panels,
  helpers: p.helpers,
  stockSetIds: p.stockSetIds,
  views: p.views,
});

export const bareSet = (s: StockSet) => ({ id: s.id, name: s.name, replies: s.replies });

const ruleFor = ({ host }: DeskProfilesDeps, p: Person, rules: readonly DeskRule[]) =>
  deskRuleFor(
    {
      id: p.id,
      teamIds: teamIdsOf(p),
      roleId: p.roleId,
      levels: new Map([...levelsNow(host, p, host.times.floor())].map(([s, l]) => [s, l.level])),
    },
    rules,
  );

export function viewDesks(deps: DeskProfilesDeps, actor: Actor): DeskProfilesView {
  mustHold(actor, 'people.view');
  const { rules, helpers, revision } = rulesNow(deps.host.db);
  const profiles = DESK_PROFILES.all(deps.host.db);
  const names = new Map(profiles.map((p) => [p.id, p.name]));
  const people = readPeople(deps.host.db)
    .filter((p) => p.active && sees(actor, p))
    .map((p) => {
      const rule = ruleFor(deps, p, rules);
      return { id: p.id, name: p.name, rule, profileId: rule === null ? null : (rules[rule]?.profileId ?? null) };
    });
  return {
    profiles: profiles.map((p) => ({
      ...bareProfile(p),
      revision: p.revision,
      people: people.filter((x) => x.profileId === p.id).map((x) => x.name),
    })),
    rules,
    rulesRevision: revision,
    helpers,
    sets: STOCK_SETS.all(deps.host.db),
    uses: Object.fromEntries(replyUses(deps.host.db)),
    fields: readFields(deps.host.db).map((f) => f.name),
    teams: readTeams(deps.host.db).map((t) => ({ id: t.id, name: t.name })),
    roles: readRoles(deps.host.db).map((r) => ({ id: r.id, name: r.name })),
    skills: readSkills(deps.host.db).map((s) => ({ id: s.id, name: s.name })),
    people: people.map(({ profileId, ...p }) => ({
      ...p,
      profile: profileId === null ? PLAIN_DESK.name : (names.get(profileId) ?? ''),
    })),
    mayChange: actor.rights.includes('people.change') && actor.teams === 'all',
  };
}

/** What somebody's own Desk shows. */
export function layoutFor(deps: DeskProfilesDeps, person: Person): DeskLayout {
  const { rules, helpers } = rulesNow(deps.host.db);
  const rule = ruleFor(deps, person, rules);
  const profile =
    (rule === null ? undefined : DESK_PROFILES.one(deps.host.db, rules[rule]?.profileId ?? '')) ?? PLAIN_DESK;
  const on = new Set(helpers);
  return {
    name: profile.name,
    panels: profile.panels,
    helpers: profile.helpers.filter((h) => helperBar(h, profile, on) === null),
    views: profile.views,
    replies: STOCK_SETS.all(deps.host.db)
      .filter((s) => profile.stockSetIds.includes(s.id))
      .flatMap((s) => s.replies.map((r) => ({ id: r.id, set: s.name, title: r.title, text: r.text }))),
  };
}
