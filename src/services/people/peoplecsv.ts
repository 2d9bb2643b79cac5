import { object, string } from 'yup';
import { writeRows, writeTable } from '../../core/formats/csv';
import { IMPORT_FIELD_IDS, IMPORT_FIELDS } from '../../core/people/importplan';
import { readProfiles } from '../../data/dutyprofiles';
import { type Person, readPeopleAfter } from '../../data/people';
import { readRoles } from '../../data/roles';
import { ownLevelsOf, readSkills } from '../../data/skills';
import { readTeams, SITES } from '../../data/teams';
import { type Actor, mustHold, sees } from '../ground/actor';
import type { Host } from '../ground/host';
import { exactly } from '../ground/schemas';
import { parse } from '../ground/validate';

/** A part of a long file: its text, and how the next part is asked for; `next` null ends it. */
export type FilePart = { readonly text: string; readonly next: string | null };

const askSchema = exactly(object({ team: string().optional(), after: string().max(400).optional() }));
/** A part is handed over once it has so many characters, so that a reader takes what it can. */
const PART = 60_000;
const PAGE = 100;

/**
 * Everybody the actor may see, in the columns that can be brought in again: a part of the file, from `after` on, which is
 * what the part before gave as `next`.
 */
export function peopleCsvPart(host: Host, actor: Actor, input: unknown): FilePart {
  mustHold(actor, 'people.view');
  mustHold(actor, 'review.export');
  const asked = parse(askSchema, input);
  const skills = readSkills(host.db);
  const names = new Map(
    [...readTeams(host.db), ...SITES.all(host.db), ...readRoles(host.db), ...readProfiles(host.db)].map((n) => [
      n.id,
      n.name,
    ]),
  );
  const lineOf = (p: Person): string[] => {
    const own = ownLevelsOf(host.db, p.id);
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
    return [...IMPORT_FIELD_IDS.map((f) => cells[f]), ...skills.map((s) => String(own.get(s.id)?.level ?? ''))];
  };
  const header = [...IMPORT_FIELD_IDS.map((f) => IMPORT_FIELDS[f].label), ...skills.map((s) => s.name)];
  let after = asked.after ? placeFrom(asked.after) : null;
  let text = '';
  for (;;) {
    const page = readPeopleAfter(host.db, after, PAGE);
    const lines = page.filter((p) => sees(actor, p) && (!asked.team || p.teamId === asked.team)).map(lineOf);
    if (after === null) text += writeTable(header, lines);
    else if (lines.length > 0) text += `\r\n${writeRows(lines)}`;
    const last = page.at(-1);
    if (page.length < PAGE || !last) return { text, next: null };
    after = { id: last.id, name: last.name };
    if (text.length >= PART) return { text, next: JSON.stringify([after.name, after.id]) };
  }
}

/** Where a part begins. Whoever sends something else begins at the first. */
function placeFrom(text: string): { name: string; id: string } | null {
  try {
    const place: unknown = JSON.parse(text);
    return Array.isArray(place) && typeof place[0] === 'string' && typeof place[1] === 'string'
      ? { name: place[0], id: place[1] }
      : null;
  } catch {
    return null;
  }
}

/** The whole file at once, for whoever is not waited for. */
export function peopleCsv(
  { host }: { readonly host: Host },
  actor: Actor,
  team: string,
): { name: string; text: string } {
  let text = '';
  for (let next: string | null = ''; next !== null;) {
    const part = peopleCsvPart(host, actor, { team, after: next });
    text += part.text;
    next = part.next;
  }
  return { name: 'people.csv', text };
}
