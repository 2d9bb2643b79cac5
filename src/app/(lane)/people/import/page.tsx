import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { ImportPage } from '@/ui/people/import/importpage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Bring in' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'people.change')) return <Forbidden what="the import" />;
  return (
    <ImportPage
      skills={services()
        .teams.view(actor)
        .skills.map((s) => ({ id: s.id, name: s.name }))}
      mayExport={holds(actor, 'review.export')}
    />
  );
}
