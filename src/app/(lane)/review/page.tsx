import type { Metadata } from 'next';
import { holds } from '@/core/people/rights';
import { describeError } from '@/core/errors';
import { Empty, Forbidden, Panel } from '@/ui/kit/panel';
import { ReviewPage } from '@/ui/review/reviewpage';
import type { ReviewView } from '@/services/review/review';
import { services, signedIn } from '../../services';

export const metadata: Metadata = { title: 'Review' };

export default async function Page({ searchParams }: { searchParams: Promise<Record<string, string | undefined>> }) {
  const actor = await signedIn();
  if (!holds(actor, 'review.view')) return <Forbidden what="Review" />;
  const { from, to, queue, channel } = await searchParams;
  const asked = Object.fromEntries(
    Object.entries({ from, to, queue, channel }).filter((e): e is [string, string] => e[1] !== undefined),
  );
  let view: ReviewView;
  try {
    view = await services().reading('review', actor, asked);
  } catch (error) {
    return (
      <main className="mx-auto mt-16 max-w-md">
        <Panel>
          <Empty title="This range cannot be shown">
            {describeError(error).body.error.message}{' '}
            <a href="/review" className="text-plum underline">
              Show the last seven days
            </a>
          </Empty>
        </Panel>
      </main>
    );
  }
  return <ReviewPage key={JSON.stringify(asked)} view={view} />;
}
