import type { Metadata } from 'next';
import { SignIn } from '@/ui/lane/signin';
import { guest, reached, services } from '../services';

export const metadata: Metadata = { title: 'Sign in' };
// Accounts and whether anybody has begun are known to the running server alone.
export const dynamic = 'force-dynamic';

export default function SignInPage() {
  return <SignIn demo={guest().accounts} begun={!services().firstStart.isEmpty()} handset={reached().standIns} />;
}
