import type { RouterEvent } from './acts';
import { floorPerson, rowsOf, type FloorGroup } from './floor';
import { NO_USES } from './limits';
import { refresh, refreshGroup } from './offers';
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
    if (there) Object.assign(there, facts, { rows: rowsOf(facts.profile) });
    const person = there ?? floorPerson(facts, floor.list.length, { duty, reachable, lastContactAt, today });
    if (!there) {
      floor.people.set(person.id, person);
      floor.list.push(person);
      router.snapshot = null;
    }
    refresh(router, person, now);
    touchPerson(router, person);
  }
  for (const id of gone) {
    const person = floor.people.get(id);
    if (!person) continue;
    person.duty = 'off';
    refresh(router, person, now);
    floor.people.delete(id);
  }
  router.peopleVersion++;
  router.dutyVersion++;
  router.delays.clear();
  for (const visit of floor.waiting.values()) {
    joinLine(router, visit, now);
    if (nextMoment(router, visit, now) !== visit.timerAt) router.touched.visits.add(visit);
  }
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
      uses: before.get(facts.id)?.uses ?? NO_USES,
      reached: [],
      changesAt: null,
      timerAt: null,
    };
    floor.groups.set(group.id, group);
    refreshGroup(router, group, now);
  }
  router.peopleVersion++;
  for (const visit of floor.waiting.values()) if (visit.groups.length > 0) router.touched.visits.add(visit);
}
