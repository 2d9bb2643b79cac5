import type { RouterEvent } from './acts';
import { floorPerson, type FloorPerson, rowsOf, type FloorGroup } from './floor';
import { NO_USES } from './limits';
import { refresh, refreshGroup } from './offers';
import { everybodyChanged, personChanged } from './peoplechanges';
import { joinLine } from './roster';
import type { Router } from './router';
import { nextMoment } from './stages';
import { touchPerson } from './touched';

/** People are new, otherwise or gone. What they have open is kept; who is gone is asked nothing more. */
export function setPeople(
  router: Router,
  now: number,
  people: Extract<RouterEvent, { type: 'people' }>['people'],
  gone: readonly string[],
): void {
  const { floor } = router;
  for (const { duty, reachable, lastContactAt, today, ...facts } of people) {
    const there = floor.people.get(facts.id);
    if (there) {
      holdRows(router, there.rows, -1);
      Object.assign(there, facts, { rows: rowsOf(facts.profile) });
    }
    const person = there ?? floorPerson(facts, floor.list.length, { duty, reachable, lastContactAt, today });
    if (!there) {
      floor.people.set(person.id, person);
      floor.list.push(person);
      router.snapshot = null;
    }
    holdRows(router, person.rows, 1);
    personChanged(router, person);
    refresh(router, person, now);
    touchPerson(router, person);
  }
  for (const id of gone) {
    const person = floor.people.get(id);
    if (!person) continue;
    person.duty = 'off';
    holdRows(router, person.rows, -1);
    personChanged(router, person);
    refresh(router, person, now);
    floor.people.delete(id);
  }
  router.dutyVersion++;
  for (const visit of floor.waiting.values()) {
    joinLine(router, visit, now);
    if (nextMoment(router, visit, now) !== visit.timerAt) router.touched.visits.add(visit);
  }
}

/** Counts who has these rows; delays are looked at anew when the first has them or the last no longer does. */
function holdRows({ rowsHeld, delays }: Router, rows: FloorPerson['rows'], by: 1 | -1): void {
  const held = (rowsHeld.get(rows) ?? 0) + by;
  if (held === 0) rowsHeld.delete(rows);
  else rowsHeld.set(rows, held);
  if (held === 0 || (held === 1 && by === 1)) delays.clear();
}

/** Somebody comes into a group, leaves it (`weight` null) or counts in it with another weight. */
export function setMembers(router: Router, changes: Extract<RouterEvent, { type: 'members' }>['changes']): void {
  const { floor } = router;
  const otherwise = new Set<string>();
  for (const { groupId, personId, weight } of changes) {
    const group = floor.groups.get(groupId);
    if (!group) continue;
    if (weight === null) group.members.delete(personId);
    else group.members.set(personId, weight);
    otherwise.add(groupId);
    const person = floor.people.get(personId);
    if (!person) continue;
    personChanged(router, person);
    touchPerson(router, person);
  }
  for (const visit of floor.waiting.values())
    if (visit.groups.some((id) => otherwise.has(id))) router.touched.visits.add(visit);
}

/** Groups are as given from now on; what each has used so far is kept. */
export function setGroups(
  router: Router,
  now: number,
  groups: Extract<RouterEvent, { type: 'groups' }>['groups'],
): void {
  const { floor } = router;
  const before = new Map(floor.groups);
  floor.groups.clear();
  for (const facts of groups) {
    const group: FloorGroup = {
      ...facts,
      members: new Map(facts.members),
      uses: before.get(facts.id)?.uses ?? NO_USES,
      reached: [],
      changesAt: null,
      timerAt: null,
    };
    floor.groups.set(group.id, group);
    refreshGroup(router, group, now);
  }
  everybodyChanged(router);
  for (const visit of floor.waiting.values()) if (visit.groups.length > 0) router.touched.visits.add(visit);
}
