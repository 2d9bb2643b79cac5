import { writeTable } from '../../core/formats/csv';
import { IMPORT_FIELD_IDS, IMPORT_FIELDS } from '../../core/people/importplan';
import { readProfiles } from '../../data/dutyprofiles';
import { readPeople } from '../../data/people';
import { readRoles } from '../../data/roles';
import { readOwnLevels, readSkills } from '../../data/skills';
import { readTeams, SITES } from '../../data/teams';
import { type Actor, mustHold, sees } from '../ground/actor';
import type { PeopleImportDeps } from './importjobs';

/** Everybody the actor may see, in the columns that can be brought in again. */
export function peopleCsv({ host }: PeopleImportDeps, actor: Actor, teamId: string): { name: string; text: string } {
  mustHold(actor, 'people.view');
  mustHold(actor, 'review.export');
  const skills = readSkills(host.db);
  const own = readOwnLevels(host.db);
  const names = new Map(
    [...readTeams(host.db), ...SITES.all(host.db), ...readRoles(host.db), ...readProfiles(host.db)].map((n) => [
      n.id,
      n.name,
    ]),
  );
  const lines = readPeople(host.db)
    .filter((p) => sees(actor, p) && (teamId === '' || p.teamId === teamId))
    .map((p) => {
      const cells = {
        name: p.name,
        shownName: p.shownName,
        email: p.email,
        team: names.get(p.teamId) ?? '',
        site: names.get(p.siteId ?? '') ?? '',
        role: names.get(p.roleId) ?? '',
        profile: names.get(p.dutyProfileId) ?? '',
        outbound: p.outbound,
        active: p.active ? 'yes' : 'no',
      };
      return [
        ...IMPORT_FIELD_IDS.map((f) => cells[f]),
        ...skills.map((s) => String(own.get(p.id)?.get(s.id)?.level ?? '')),
      ];
    });
  return {
    name: 'people.csv',
    text: writeTable([...IMPORT_FIELD_IDS.map((f) => IMPORT_FIELDS[f].label), ...skills.map((s) => s.name)], lines),
  };
}
