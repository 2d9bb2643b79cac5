import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { RolesPage } from '@/ui/people/roles/rolespage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Roles' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'people.view')) return <Forbidden what="roles" />;
  const asked = await searchParams;
  return <RolesPage initial={services().roles.view(actor)} role={asked.role ?? null} person={asked.person ?? null} />;
}
