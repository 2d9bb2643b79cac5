import type { Heavy } from '../../core/heavy';
import type { Judged } from '../../core/phrases/judging';
import { type Quality, qualityOf } from '../../core/phrases/quality';
import { learntFrom } from '../../core/phrases/packed';
import { judgeAside } from '../../core/phrases/model';
import { UNDERSTANDING } from '../../data/meaning';
import { learntOf, readPhrasebook } from '../../data/phrasebook';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';

/** How well the phrasebook is understood; null while it is not learnt yet. */
export type QualityView = { readonly revision: number; readonly quality: Quality | null };

/** Judges the phrasebook as it is kept. Reads megabytes and encodes what is kept aside: for a thread of its own. */
export function viewQuality({ db }: Host, actor: Actor): QualityView {
  mustHold(actor, 'settings.view');
  const version = readPhrasebook(db)?.version ?? 0;
  const kept = learntOf(db, version);
  const learnt = kept === null ? null : learntFrom(kept);
  if (!learnt) return { revision: version, quality: null };
  const aside = judgeAside(learnt, { encoder: UNDERSTANDING.encoder, glosses: UNDERSTANDING.glosses() });
  return {
    revision: version,
    quality: qualityOf(learnt.book, learnt.whole.judged, learnt.whole.thresholds, aside),
  };
}

/** How those kept aside fare with what is learnt now and what would be. */
export async function asideAfter(
  { host, heavy }: { readonly host: Host; readonly heavy: Heavy },
  after: string,
): Promise<{ of: number; before: number; after: number; moved: readonly Judged[] }> {
  const now = learntOf(host.db, readPhrasebook(host.db)?.version ?? 0);
  const [was, will] = await Promise.all([now === null ? [] : heavy('aside', now), heavy('aside', after)]);
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
