import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { ScriptPage } from '@/ui/bots/script/scriptpage';
import { services, signedIn } from '../../../services';
import { workspaceZone } from '../../../zone';

export const metadata: Metadata = { title: 'Bot script' };

export default async function Page({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: Promise<{ line?: string }>;
}) {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="Bots" />;
  const { id } = await params;
  const { bots } = services();
  if (!bots.list(actor).bots.some((b) => b.id === id)) notFound();
  return <ScriptPage initial={bots.view(actor, id)} zone={workspaceZone()} line={(await searchParams).line ?? null} />;
}
