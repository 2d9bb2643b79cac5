import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { ReportsPage } from '@/ui/reports/reportspage';
import { signedIn } from '../../../services';
import { readFor, Refused } from '../asked';

export const metadata: Metadata = { title: 'Reports' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'review.view')) return <Forbidden what="Review" />;
  const read = await readFor('reports', actor, {});
  return 'refused' in read ? <Refused why={read.refused} /> : <ReportsPage initial={read.view} />;
}
