import type { Metadata } from 'next';
import { describeError } from '@/core/errors';
import { NewPassword } from '@/ui/lane/newpassword';
import { services } from '../../services';

export const metadata: Metadata = { title: 'Another password', referrer: 'no-referrer' };

export default async function Page({ params }: { params: Promise<{ token: string }> }) {
  const { token } = await params;
  let who: { name: string; email: string } | null = null;
  let fault: string | null = null;
  try {
    who = services().newPassword.view(token);
  } catch (error) {
    fault = describeError(error).body.error.message;
  }
  return <NewPassword token={token} who={who} fault={fault} />;
}
