import { holds } from '@/core/people/rights';
import { redirect } from 'next/navigation';
import { signedIn } from './services';

export default async function Start() {
  const actor = await signedIn();
  redirect(holds(actor, 'floor.view') ? '/floor' : '/desk');
}
