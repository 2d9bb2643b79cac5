import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { ReportPage } from '@/ui/reports/reportpage';
import { signedIn } from '../../../../services';
import { partOfPath, readFor, Refused } from '../../asked';

export const metadata: Metadata = { title: 'Report' };

export default async function Page({ params }: { params: Promise<{ id: string }> }) {
  const actor = await signedIn();
  if (!holds(actor, 'review.view')) return <Forbidden what="Review" />;
  const id = partOfPath((await params).id);
  const [report, all] = [await readFor('report', actor, { id }), await readFor('reports', actor, {})];
  if ('refused' in report) return <Refused why={report.refused} />;
  if ('refused' in all) return <Refused why={all.refused} />;
  return <ReportPage report={report.view} all={all.view} />;
}
