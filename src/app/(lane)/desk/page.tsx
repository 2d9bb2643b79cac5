import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { DeskPage } from '@/ui/desk/deskpage';
import { services, signedIn } from '../../services';
import { workspaceZone } from '../../zone';

export const metadata: Metadata = { title: 'Desk' };
const SINCE_MS = 12 * 3_600_000;

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'desk.work')) return <Forbidden what="the Desk" />;
  const s = services();
  return <DeskPage initial={s.desk.view(actor, s.host.times.floor() - SINCE_MS)} zone={workspaceZone()} />;
}
