import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { RecordingsPage } from '@/ui/bots/shared/recordingspage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Recordings' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="recordings" />;
  return <RecordingsPage initial={services().recordings.view(actor)} />;
}
