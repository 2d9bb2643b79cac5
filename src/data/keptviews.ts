import { documents } from './documents';

/** A page of Review, kept by name by one person for themselves or for everybody who may open Review. */
export const KEPT_VIEWS = documents<{
  readonly ownerId: string;
  readonly forAll: boolean;
  /** The page: `/review`, `/review/queues`, `/review/queues/ID`. */
  readonly path: string;
  /** What narrows it, as in its address, without the days. */
  readonly address: Readonly<Record<string, string>>;
  /** Its days: so many up to the day it is opened, or always the same. */
  readonly days: { readonly last: number } | { readonly from: string; readonly to: string };
}>('review-view');
