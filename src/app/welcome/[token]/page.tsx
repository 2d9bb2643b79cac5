import type { Metadata } from 'next';
import { describeError } from '@/core/errors';
import type { FirstStartView } from '@/services/workspace/firststart';
import { FirstStart } from '@/ui/lane/firststart';
import { services } from '../../services';

export const metadata: Metadata = { title: 'Begin', referrer: 'no-referrer' };

export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  let view: FirstStartView | null = null;
  let fault: string | null = null;
  try {
    view = services().firstStart.view(token);
  } catch (error) {
    fault = describeError(error).body.error.message;
  }
  return <FirstStart token={token} view={view} fault={fault} />;
}
