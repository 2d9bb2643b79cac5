import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { LanguagesPage } from '@/ui/bots/words/languagespage';
import { Forbidden } from '@/ui/kit/panel';
import { services, signedIn } from '../../../services';
import type { LanguagesView } from '@/services/words/languages';

export const metadata: Metadata = { title: 'Languages' };

export default async function Page({ searchParams }: { searchParams: Promise<{ language?: string | string[] }> }) {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="languages" />;
  const { language } = await searchParams;
  const asked: Record<string, string> = typeof language === 'string' ? { language: language.slice(0, 20) } : {};
  const view = (await services().read('languages', actor, asked)) as LanguagesView;
  return <LanguagesPage key={view.language} initial={view} />;
}
