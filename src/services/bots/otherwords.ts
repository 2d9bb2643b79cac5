import { holds } from '../../core/people/rights';
import { learntFrom } from '../../core/phrases/packed';
import { type Suggested, suggestOtherWords } from '../../core/phrases/suggesting';
import { UNDERSTANDING } from '../../data/meaning';
import { learntOf, newestUnheard, readPhrasebook, readUnheard } from '../../data/phrasebook';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { masked } from '../contacts/privatevalues';

/** Other words that phrases suggest which were not understood; null while the book is not learnt yet. */
export type SuggestedView = { readonly suggested: readonly Suggested[] | null };

/** Phrases looked at, those that came most often first. */
const MOST_PHRASES = 1000;
const NOTHING: SuggestedView = { suggested: [] };

/** What was suggested last in this thread, and by what: it takes seconds. */
let last: { readonly by: string; readonly view: SuggestedView } | null = null;

/** Suggests other words from what was not understood. Reads megabytes and encodes: for a thread of its own. */
export function viewSuggested({ db }: Host, actor: Actor): SuggestedView {
  mustHold(actor, 'settings.view');
  // Customers' own words take the right to read conversations.
  if (!holds(actor, 'conversations.view') || actor.teams !== 'all') return NOTHING;
  const version = readPhrasebook(db)?.version ?? 0;
  const by = `${version} ${newestUnheard(db)}`;
  if (last?.by === by) return last.view;
  const kept = learntOf(db, version);
  const learnt = kept === null ? null : learntFrom(kept);
  if (kept !== null && learnt === null) return { suggested: null };
  const missed = readUnheard(db, MOST_PHRASES).map(({ id, text, language, times }) => ({
    id,
    text: masked(text),
    language,
    times,
  }));
  const suggested =
    learnt === null
      ? []
      : suggestOtherWords(learnt, { encoder: UNDERSTANDING.encoder, glosses: UNDERSTANDING.glosses() }, missed);
  const view = { suggested };
  last = { by, view };
  return view;
}
