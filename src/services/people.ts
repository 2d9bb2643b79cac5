import { array, boolean, object, string } from 'yup';
import { CHANNELS, type Channel } from '../core/channels';
import { LaneError } from '../core/errors';
import { effectiveLevel, type EffectiveLevel, type Level } from '../core/people/levels';
import { rolesGivenBy, type Role, ROLES } from '../core/people/rights';
import { heldBy } from '../core/routing/floor';
import { usedLoad } from '../core/people/load';
import {
  ownLevelsOf, readOwnLevels, readPeople, readPerson, readPersonByEmail, readProfile, readProfiles, readSkills, readTeamLevels, readTeams, writeOwnLevel, writePerson, writeProfile,
  type DutyProfileRecord, type Person, type Skill, type Team,
} from '../data/people';
import { readQueues } from '../data/settings';
import { mayChangeTeam, need, type Actor } from './actor';
import { recordChange, sameRevision } from './change';
import type { Host } from './host';
import type { LiveFloor } from './livefloor';
import { channel, exactly, id, oneOf, requiredText, whole } from './schemas';
import { parse } from './validate';

const mostSchema = exactly(object(Object.fromEntries(CHANNELS.map((c) => [c, whole(0, 20, `How many at once by ${c}`).optional()]))));
const personSchema = exactly(object({
  id: string().nullable().defined(), revision: whole(0, 1e9, 'The revision'),
  name: requiredText(80, 'The name'), shownName: requiredText(40, 'The name shown to customers'),
  email: requiredText(200, 'The e-mail address').email('The e-mail address is not one'), teamId: id('The team'), role: oneOf<Role>(ROLES, 'The role'),
  dutyProfileId: id('The duty profile'), most: mostSchema, active: boolean().required('active is missing'),
}));
const levelSchema = exactly(object({
  changes: array(exactly(object({ personId: id('The person'), skillId: id('The skill'), level: whole(0, 5, 'The level') }))).min(1, 'Nothing to change').max(2000, 'At most 2000 levels at once').required('The changes are missing'),
}));
const profileSchema = exactly(object({
  id: string().nullable().defined(), revision: whole(0, 1e9, 'The revision'), name: requiredText(60, 'The name'), acceptSeconds: whole(5, 120, 'The seconds to accept'),
  rows: array(exactly(object({ queueId: id('The queue'), channel, band: whole(1, 9, 'The band'), delaySeconds: whole(0, 3600, 'The delay') }))).max(400, 'At most 400 rows').required('The rows are missing'),
  load: exactly(object(Object.fromEntries(CHANNELS.map((c) => [c, exactly(object({ cost: whole(0, 100, `The load of ${c}`), most: whole(0, 20, `How many at once by ${c}`) }))])))),
}));

export type PersonLine = Pick<Person, 'id' | 'name' | 'shownName' | 'email' | 'teamId' | 'role' | 'active' | 'dutyProfileId' | 'most' | 'revision' | 'duty' | 'dutyReason'> & {
  readonly used: number; readonly open: readonly Channel[]; readonly reachable: boolean; readonly mayChange: boolean; readonly levels: Readonly<Record<string, EffectiveLevel>>;
};
export type PeopleView = {
  readonly people: readonly PersonLine[]; readonly teams: readonly Team[]; readonly skills: readonly Skill[]; readonly profiles: readonly DutyProfileRecord[];
  readonly queues: readonly { id: string; name: string; channels: readonly Channel[] }[]; readonly mayAdd: boolean; readonly rolesToGive: readonly Role[];
};

export function createPeople(host: Host, floor: LiveFloor) {
  const check = (found: boolean, what: string, where: string) => {
    if (!found) throw new LaneError('not-valid', `There is no such ${what}.`, [{ where, what: 'is not known' }]);
  };
  return {
    view(actor: Actor): PeopleView {
      need(actor, 'settings.view');
      const own = new Map<string, Map<string, Level>>();
      for (const l of readOwnLevels(host.db)) own.set(l.personId, (own.get(l.personId) ?? new Map<string, Level>()).set(l.skillId, l.level));
      const team = new Map<string, Map<string, Level>>();
      for (const l of readTeamLevels(host.db)) team.set(l.teamId, (team.get(l.teamId) ?? new Map<string, Level>()).set(l.skillId, l.level));
      const skills = readSkills(host.db);
      const people = readPeople(host.db).map((p): PersonLine => {
        const there = floor.engine.floor.people.get(p.id);
        const levels: Record<string, EffectiveLevel> = {};
        for (const skill of skills) {
          const level = effectiveLevel(own.get(p.id)?.get(skill.id), team.get(p.teamId)?.get(skill.id));
          if (level) levels[skill.id] = level;
        }
        return { ...p, used: there ? usedLoad(heldBy(there)) : 0, open: there ? [...there.open.values()].map((h) => h.channel) : [], reachable: there?.reachable ?? true, mayChange: mayChangeTeam(actor, p.teamId), levels };
      });
      return {
        people, teams: readTeams(host.db), skills, profiles: readProfiles(host.db), queues: readQueues(host.db).map((q) => ({ id: q.id, name: q.name, channels: q.channels })),
        mayAdd: mayChangeTeam(actor, ''), rolesToGive: rolesGivenBy(actor.role),
      };
    },

    /** Adds (`id` null) or changes a person. */
    save(actor: Actor, input: unknown): { id: string } {
      const p = parse(personSchema, input);
      return host.transact((tx) => {
        const before = p.id === null ? undefined : readPerson(tx.db, p.id);
        if (p.id !== null && !before) throw new LaneError('not-found', 'This person is not there any more.');
        for (const teamId of [p.teamId, ...(before ? [before.teamId] : [])]) {
          if (!mayChangeTeam(actor, teamId)) throw new LaneError('not-allowed', 'You may change people of your own teams only.');
        }
        sameRevision(before, p.revision, p.name);
        check(readTeams(tx.db).some((t) => t.id === p.teamId), 'team', 'teamId');
        check(readProfile(tx.db, p.dutyProfileId) !== undefined, 'duty profile', 'dutyProfileId');
        if (p.role !== before?.role && (before?.role === 'owner' || !rolesGivenBy(actor.role).includes(p.role))) throw new LaneError('not-allowed', `You may not make this person ${p.role}.`);
        if (before?.role === 'owner' && !p.active) throw new LaneError('not-valid', 'The owner cannot be switched off.', [{ where: 'active', what: 'the owner stays active' }]);
        const email = p.email.toLowerCase();
        const other = readPersonByEmail(tx.db, email);
        if (other && other.id !== p.id) throw new LaneError('not-valid', `${other.name} already has this address.`, [{ where: 'email', what: `is ${other.name}’s` }]);
        const after = { ...p, id: p.id ?? tx.ids('person'), email, simulated: before?.simulated ?? false };
        writePerson(tx.db, after);
        recordChange(tx, actor, 'person', after.id, before, after);
        if (!p.active && before && before.duty !== 'off') floor.setDuty(tx, after.id, 'off', null);
        floor.refreshPeople(tx, [after.id]);
        return { id: after.id };
      });
    },

    /** Sets own skill levels; 0 clears back to what the team gives. Gives what was there before, for undo. */
    setLevels(actor: Actor, input: unknown): { before: { personId: string; skillId: string; level: number }[] } {
      const { changes } = parse(levelSchema, input);
      return host.transact((tx) => {
        const skills = new Set(readSkills(tx.db).map((s) => s.id));
        const before = changes.map((change) => {
          const person = readPerson(tx.db, change.personId);
          if (!person) throw new LaneError('not-found', 'This person is not there any more.');
          if (!mayChangeTeam(actor, person.teamId)) throw new LaneError('not-allowed', 'You may change people of your own teams only.');
          check(skills.has(change.skillId), 'skill', 'skillId');
          const was = ownLevelsOf(tx.db, person.id).get(change.skillId) ?? 0;
          writeOwnLevel(tx.db, person.id, change.skillId, change.level === 0 ? null : (change.level as Level));
          recordChange(tx, actor, 'level', person.id, { skillId: change.skillId, level: was }, { skillId: change.skillId, level: change.level });
          return { personId: person.id, skillId: change.skillId, level: was };
        });
        floor.refreshPeople(tx, [...new Set(changes.map((c) => c.personId))]);
        return { before: before.reverse() };
      });
    },

    /** Adds or changes a duty profile; applies to the next contact of everybody on it. */
    saveProfile(actor: Actor, input: unknown): { id: string; people: number } {
      need(actor, 'people.change');
      const p = parse(profileSchema, input);
      return host.transact((tx) => {
        const before = p.id === null ? undefined : readProfile(tx.db, p.id);
        sameRevision(before, p.revision, p.name);
        const queues = new Map(readQueues(tx.db).map((q) => [q.id, q]));
        const seen = new Set<string>();
        for (const [i, r] of p.rows.entries()) {
          const queue = queues.get(r.queueId);
          check(queue !== undefined && queue.channels.includes(r.channel), 'queue on this channel', `rows[${i}]`);
          check(!seen.has(`${r.queueId}|${r.channel}`), 'second row for a queue and channel', `rows[${i}]`);
          seen.add(`${r.queueId}|${r.channel}`);
        }
        const load = p.load as DutyProfileRecord['load'];
        const after = { id: p.id ?? tx.ids('profile'), name: p.name, rows: p.rows, load, acceptSeconds: p.acceptSeconds };
        writeProfile(tx.db, after);
        recordChange(tx, actor, 'duty-profile', after.id, before, after);
        const on = readPeople(tx.db).filter((person) => person.dutyProfileId === after.id).map((person) => person.id);
        floor.refreshPeople(tx, on);
        return { id: after.id, people: on.length };
      });
    },
  };
}
