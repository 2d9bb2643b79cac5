import type { FloorPerson } from './floor';
import type { Router } from './router';

/** Rises whenever anybody changes. */
export const peopleVersion = ({ changes }: Pick<Router, 'changes'>): number => changes.from + changes.people.length;

/** Somebody's skills, profile or groups are otherwise. */
export function personChanged(router: Router, person: FloorPerson): void {
  // Longer than everybody it would help nobody: making a roster anew costs the same.
  if (router.changes.people.length > router.floor.list.length) everybodyChanged(router);
  router.changes.people.push(person);
}

/** Something that everybody stands on is otherwise: all rosters are made anew. */
export function everybodyChanged({ changes }: Router): void {
  changes.from += changes.people.length + 1;
  changes.people = [];
}

/** Who changed since a version, each once; null when that is everybody. */
export const changedSince = ({ changes }: Router, version: number): ReadonlySet<FloorPerson> | null =>
  version < changes.from ? null : new Set(changes.people.slice(version - changes.from));
