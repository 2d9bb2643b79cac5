import { array, boolean, object, string } from 'yup';
import { CHANNELS } from '../../core/channels';
import { LaneError } from '../../core/errors';
import { nextTime } from '../../core/hours/weekly';
import type { ForNow } from '../../core/people/duty';
import { readProfile } from '../../data/dutyprofiles';
import { openLegsOf } from '../../data/legs';
import {
  type PersonSettings,
  readPerson,
  setActive,
  settingsOfPerson,
  writeForNow,
  writePerson,
} from '../../data/people';
import { type Actor, mustHold, mustSee, mustReach } from '../ground/actor';
import { bind } from '../ground/bind';
import { recordChange, sameRevision } from '../ground/change';
import { exactly, id, oneOf, requiredText, text, whole } from '../ground/schemas';
import { parse } from '../ground/validate';
import { checkPerson, checkSwitchOff, undoablePeople, mustExist, putPerson, switchOff } from './keepperson';
import { zoneOfPerson } from './peoplebook';
import { type PeopleDeps, viewPeople, viewPerson, viewStandings } from './peopleview';

const mostSchema = exactly(
  object(Object.fromEntries(CHANNELS.map((c) => [c, whole(0, 20, `How many at once by ${c}`).optional()]))),
);

const ids = (label: string) =>
  array(id(label)).max(50, `At most 50 of ${label.toLowerCase()}`).required(`${label} are missing`);

const personSchema = exactly(
  object({
    id: string().nullable().defined(),
    revision: whole(0, 1e9, 'The revision'),
    name: requiredText(80, 'The name'),
    shownName: requiredText(40, 'The name shown to customers'),
    email: requiredText(200, 'The e-mail address').email('The e-mail address is not one'),
    teamId: id('The team'),
    alsoTeamIds: ids('Further teams'),
    setIds: ids('Skill sets'),
    siteId: string().nullable().defined(),
    roleId: id('The role'),
    outbound: text(60, 'The outbound identity').defined(),
    dutyProfileId: id('The duty profile'),
    most: mostSchema,
  }),
);

const nowSchema = exactly(
  object({
    personId: id('The person'),
    profileId: string().nullable().defined(),
    until: string()
      .matches(/^([01]\d|2[0-3]):[0-5]\d$/, 'A time is written like 14:00')
      .nullable()
      .optional(),
  }),
);

const switchSchema = exactly(
  object({
    personId: id('The person'),
    active: boolean().required('active is missing'),
    open: oneOf(['finish', 'return', 'end'] as const, 'What happens to open contacts').optional(),
  }),
);

/** Adds (`id` null) or changes a person. */
export function savePerson({ host, floor }: PeopleDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.change');
  const p = parse(personSchema, input);
  return host.transact((tx) => {
    const before = p.id === null ? undefined : mustSee(actor, readPerson(tx.db, p.id));
    const { revision, ...asked } = p;
    const after: PersonSettings = {
      ...asked,
      id: p.id ?? tx.ids('person'),
      email: p.email.toLowerCase(),
      alsoTeamIds: p.alsoTeamIds.filter((t) => t !== p.teamId),
      active: before?.active ?? true,
    };
    checkPerson(tx, actor, after, before);
    sameRevision(before, revision, p.name);
    writePerson(tx.db, after);
    recordChange(tx, actor, 'person', after.id, before && settingsOfPerson(before), after);
    floor.refreshPeople(tx, [after.id]);
    return { id: after.id };
  });
}

/** Puts somebody on another duty profile for now, until the floor's clock shows a time; null ends it. */
export function setForNow({ host, floor }: PeopleDeps, actor: Actor, input: unknown): { until: number | null } {
  mustHold(actor, 'people.change');
  const asked = parse(nowSchema, input);
  return host.transact((tx) => {
    const person = mustSee(actor, readPerson(tx.db, asked.personId));
    mustReach(actor, person.teamId);
    if (asked.profileId !== null)
      mustExist(readProfile(tx.db, asked.profileId) !== undefined, 'duty profile', 'profileId');
    if (asked.profileId !== null && !asked.until)
      throw new LaneError('not-valid', 'Say until when.', [{ where: 'until', what: 'is missing' }]);
    const forNow: ForNow | null =
      asked.profileId === null
        ? null
        : {
            profileId: asked.profileId,
            until: nextTime(tx.floorAt, zoneOfPerson(host, person), asked.until ?? ''),
          };
    writeForNow(tx.db, person.id, forNow);
    recordChange(tx, actor, 'for-now', person.id, person.forNow, forNow, { label: person.name });
    floor.refreshPeople(tx, [person.id]);
    return { until: forNow?.until ?? null };
  });
}

/** Switches an account on or off; with contacts open, `open` says what happens to them. */
export function switchPerson(deps: PeopleDeps, actor: Actor, input: unknown): { id: string } {
  mustHold(actor, 'people.change');
  const asked = parse(switchSchema, input);
  return deps.host.transact((tx) => {
    const before = mustSee(actor, readPerson(tx.db, asked.personId));
    mustReach(actor, before.teamId);
    if (!asked.active && openLegsOf(tx.db, before.id).length > 0 && !asked.open)
      throw new LaneError('not-valid', `${before.name} has contacts open. Choose what happens to them.`, [
        { where: 'open', what: 'is missing' },
      ]);
    if (asked.active) setActive(tx.db, before.id, true);
    else switchOff(deps, tx, actor, before, asked.open ?? 'end');
    const after = readPerson(tx.db, before.id) ?? before;
    recordChange(tx, actor, 'person', before.id, settingsOfPerson(before), settingsOfPerson(after));
    deps.floor.refreshPeople(tx, [before.id]);
    return { id: before.id };
  });
}

export const createPeople = (deps: PeopleDeps) => ({
  undoable: undoablePeople(deps),
  checkPerson,
  checkSwitchOff,
  ...bind(deps, {
    put: putPerson,
    view: viewPeople,
    standings: viewStandings,
    person: viewPerson,
    save: savePerson,
    setForNow,
    switchPerson,
  }),
});

export type People = ReturnType<typeof createPeople>;
