import type { Heavy } from '../../core/heavy';
import type { Judged } from '../../core/phrases/judging';
import { type Quality, qualityOf } from '../../core/phrases/quality';
import { learntFrom } from '../../core/phrases/packed';
import { judgeAside } from '../../core/phrases/matching';
import { UNDERSTANDING } from '../../data/meaning';
import { learntOf, readPhrasebook } from '../../data/phrasebook';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';

/** How well the phrasebook is understood; null while it is not learnt yet. */
export type QualityView = { readonly revision: number; readonly quality: Quality | null };

/** What was judged last in this thread, by the learnt text that it follows from: judging takes seconds. */
let last: { readonly kept: string; readonly quality: Quality | null } | null = null;
function qualityFrom(kept: string): Quality | null {
  if (last?.kept === kept) return last.quality;
  const learnt = learntFrom(kept);
  const quality =
    learnt &&
    qualityOf(
      learnt.book,
      learnt.whole.judged,
      learnt.whole.thresholds,
      judgeAside(learnt, { encoder: UNDERSTANDING.encoder, glosses: UNDERSTANDING.glosses() }),
    );
  last = { kept, quality };
  return quality;
}

/** Judges the phrasebook as it is kept. Reads megabytes and encodes what is kept aside: for a thread of its own. */
export function viewQuality({ db }: Host, actor: Actor): QualityView {
  mustHold(actor, 'settings.view');
  const revision = readPhrasebook(db)?.version ?? 0;
  const kept = learntOf(db, revision);
  return { revision, quality: kept === null ? null : qualityFrom(kept) };
}

type Aside = { readonly learnt: string; readonly judged: Promise<readonly Judged[]> };
/** How those kept aside fared last: what would be learnt is often what is learnt when the next phrase is looked at. */
const asideLast = new WeakMap<Host, readonly Aside[]>();
function judgedAside(host: Host, heavy: Heavy, learnt: string): Promise<readonly Judged[]> {
  const known = asideLast.get(host) ?? [];
  const there = known.find((one) => one.learnt === learnt);
  if (there) return there.judged;
  const judged = heavy('aside', learnt);
  const made: Aside = { learnt, judged };
  asideLast.set(host, [...known.slice(-1), made]);
  // What could not be judged is tried again.
  judged.catch(() =>
    asideLast.set(
      host,
      (asideLast.get(host) ?? []).filter((one) => one !== made),
    ),
  );
  return judged;
}

/** How those kept aside fare with what is learnt now and what would be. */
export async function asideAfter(
  { host, heavy }: { readonly host: Host; readonly heavy: Heavy },
  after: string,
): Promise<{ of: number; before: number; after: number; moved: readonly Judged[] }> {
  const now = learntOf(host.db, readPhrasebook(host.db)?.version ?? 0);
  const [was, will] = await Promise.all([
    now === null ? [] : judgedAside(host, heavy, now),
    judgedAside(host, heavy, after),
  ]);
  const right = (all: readonly Judged[]): number =>
    all.filter((j) => j.intentId !== null && j.first === j.intentId).length;
  const before = new Map(was.map((j) => [`${j.language} ${j.text}`, j.first]));
  return {
    of: will.filter((j) => j.intentId !== null).length,
    before: right(was),
    after: right(will),
    moved: will.filter((j) => {
      const first = before.get(`${j.language} ${j.text}`);
      return first !== undefined && first !== j.first;
    }),
  };
}
