import { redirect } from 'next/navigation';
import { signedIn } from './services';

export default async function Start() {
  const actor = await signedIn();
  redirect(actor.role === 'agent' ? '/desk' : '/floor');
}
