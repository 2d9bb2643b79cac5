import { describeError } from '@/core/errors';
import type { ReadingName, ReadingResult } from '@/services/readings';
import type { Actor } from '@/services/ground/actor';
import { Empty, Panel } from '@/ui/kit/panel';
import { ASKED } from '@/ui/review/address';
import { services } from '../../services';

export type Search = Promise<Record<string, string | string[] | undefined>>;

/** A part of a path as it was meant; one that cannot be read stays as it is, and names nothing. */
export function partOfPath(part: string): string {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
}

/**
 * What a page of Review is asked, as its address says it; of what stands there twice the last counts. What others put
 * behind a link is none of ours.
 */
export async function askedOf(search: Search): Promise<Record<string, string>> {
  return Object.fromEntries(
    Object.entries(await search).flatMap(([name, value]) => {
      const one = Array.isArray(value) ? value.at(-1) : value;
      return one === undefined || !ASKED.has(name) ? [] : [[name, one]];
    }),
  );
}

type Read<K extends ReadingName> = { readonly view: ReadingResult<K> } | { readonly refused: string };

/** Reads for a page; what was asked wrongly is told in a sentence. */
export async function readFor<K extends ReadingName>(
  name: K,
  actor: Actor,
  asked: Readonly<Record<string, string>>,
): Promise<Read<K>> {
  try {
    return { view: await services().reading(name, actor, asked) };
  } catch (error) {
    const { status, body } = describeError(error);
    if (status >= 500) throw error;
    return { refused: body.error.message };
  }
}

export const Refused = ({ why }: { why: string }) => (
  <main className="mx-auto mt-16 max-w-md">
    <Panel>
      <Empty title="This cannot be shown">
        {why}{' '}
        <a href="/review" className="text-plum underline">
          Show the last seven days
        </a>
      </Empty>
    </Panel>
  </main>
);
