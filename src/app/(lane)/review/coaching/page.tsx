import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { CoachingPage } from '@/ui/coaching/coachingpage';
import { signedIn } from '../../../services';
import { workspaceZone } from '../../../zone';
import { readFor, Refused } from '../asked';

export const metadata: Metadata = { title: 'Coaching' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'people.coach')) return <Forbidden what="coaching" />;
  const read = await readFor('coaching', actor, {});
  return 'refused' in read ? (
    <Refused why={read.refused} />
  ) : (
    <CoachingPage initial={read.view} zone={workspaceZone()} />
  );
}
