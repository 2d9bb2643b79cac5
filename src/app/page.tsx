import { redirect } from 'next/navigation';
import { holds, type Right } from '@/core/people/rights';
import { signedIn } from './services';

/** Where people begin: the first of these that their role opens. */
const BEGINNINGS: readonly (readonly [Right, string])[] = [
  ['floor.view', '/floor'],
  ['desk.work', '/desk'],
  ['review.view', '/review'],
  ['people.view', '/people'],
  ['settings.view', '/doors'],
  ['history.view', '/history'],
];

export default async function Start() {
  const actor = await signedIn();
  redirect(BEGINNINGS.find(([right]) => holds(actor, right))?.[1] ?? '/desk');
}
