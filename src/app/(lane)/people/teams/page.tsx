import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { Forbidden } from '@/ui/kit/panel';
import { TeamsPage } from '@/ui/people/teams/teamspage';
import { services, signedIn } from '../../../services';

export const metadata: Metadata = { title: 'Teams and skills' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'people.view')) return <Forbidden what="teams" />;
  const asked = await searchParams;
  return <TeamsPage initial={services().teams.view(actor)} chosen={chosenOf(asked)} />;
}

/** What a link asked for: `?team=…`, `?skill=…`, `?skill-set=…` or `?site=…`. */
const chosenOf = (asked: Record<string, string | undefined>) => {
  for (const kind of ['team', 'skill', 'skill-set', 'site'] as const) {
    const id = asked[kind];
    if (id) return { kind, id };
  }
  return null;
};
