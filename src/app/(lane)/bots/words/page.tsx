import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { WordsPage } from '@/ui/bots/words/wordspage';
import { Forbidden } from '@/ui/kit/panel';
import { signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Words' };

export default async function Page({ searchParams }: { searchParams: Promise<{ find?: string | string[] }> }) {
  const actor = await signedIn();
  if (!holds(actor, 'settings.view')) return <Forbidden what="words" />;
  const { find } = await searchParams;
  const typed = typeof find === 'string' ? find.slice(0, 200) : '';
  return <WordsPage key={typed} find={typed} />;
}
