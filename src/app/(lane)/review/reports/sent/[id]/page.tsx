import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { SentReportPage } from '@/ui/reports/sentreportpage';
import { signedIn } from '../../../../../services';
import { partOfPath, readFor, Refused } from '../../../asked';

export const metadata: Metadata = { title: 'Report' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const actor = await signedIn();
  if (!holds(actor, 'review.view')) return <Forbidden what="Review" />;
  const read = await readFor('sent-report', actor, { id: partOfPath((await params).id) });
  return 'refused' in read ? <Refused why={read.refused} /> : <SentReportPage sent={read.view} />;
}
