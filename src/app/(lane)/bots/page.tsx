import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { BotsPage } from '@/ui/bots/botspage';
import { services, signedIn } from '../../services';

export const metadata: Metadata = { title: 'Bots' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="Bots" />;
  return (
    <BotsPage
      initial={services().bots.list(actor)}
      endings={services().bots.endings(actor)}
      queues={services()
        .queues.view(actor)
        .queues.map((q) => ({ id: q.id, name: q.name }))}
    />
  );
}
