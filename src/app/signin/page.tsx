import type { Metadata } from 'next';
import { SignIn } from '@/ui/lane/signin';

export const metadata: Metadata = { title: 'Sign in' };

/** Accounts of the demo; shown only where the demo's crowd runs. */
const DEMO = [
  { role: 'Owner', name: 'Nell Ashgrove' },
  { role: 'Lead', name: 'Noor Amsel' },
  { role: 'Supervisor', name: 'Bertil Achterberg' },
  { role: 'Agent', name: 'Tamsin Orrel' },
  { role: 'Agent', name: 'Odile Karrow' },
].map((who) => ({
  ...who,
  email: `${who.name.toLowerCase().replace(' ', '.')}@brindlewood.example`,
  password: 'brindlewood',
}));

export default function SignInPage() {
  return <SignIn demo={process.env.LANE_DEMO === '1' ? DEMO : []} />;
}
