import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { ArticlesPage } from '@/ui/bots/shared/articlespage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Articles' };

export default async function Page({ searchParams }: { searchParams: Promise<{ article?: string | string[] }> }) {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="articles" />;
  const { article } = await searchParams;
  const open = typeof article === 'string' ? article : null;
  return <ArticlesPage initial={services().botParts.articles(actor)} open={open} />;
}
