import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { ArticlesPage } from '@/ui/bots/shared/articlespage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Articles' };

export default async function Page() {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="articles" />;
  return <ArticlesPage initial={services().botParts.articles(actor)} />;
}
