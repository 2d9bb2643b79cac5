import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { FieldsPage } from '@/ui/bots/shared/fieldspage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Fields' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="fields" />;
  return <FieldsPage initial={services().fields.view(actor)} />;
}
