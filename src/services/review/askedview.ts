import { localDate } from '../../core/hours/weekly';
import { holds } from '../../core/people/rights';
import { firstContactAt } from '../../data/facts';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import { sightOf } from '../ground/scope';
import type { Asked } from './asking';
import { type KeptView, keptViewsOf } from './keptviews';
import { type Choices, choicesOf } from './names';

/** What every page of Review says of what is asked. */
export type AskedView = {
  readonly today: string;
  readonly from: string;
  readonly to: string;
  /** What it is compared with. */
  readonly before: {
    readonly from: string;
    readonly to: string;
    /** Whether the log has all of it. */ readonly whole: boolean;
  };
  readonly address: Readonly<Record<string, string>>;
  readonly choices: Choices;
  readonly zone: string;
  /** The day on which the log begins; null while it is empty. */
  readonly since: string | null;
  /** Whether the reader sees some teams only, and so the queues that these serve. */
  readonly partly: boolean;
  readonly mayExport: boolean;
  readonly kept: readonly KeptView[];
};

export function askedView(host: Host, actor: Actor, asked: Asked): AskedView {
  const first = firstContactAt(host.db);
  const since = first === null ? null : localDate(first, asked.zone);
  return {
    today: asked.today,
    from: asked.now.from,
    to: asked.now.to,
    before: {
      from: asked.then.from,
      to: asked.then.to,
      whole: since !== null && since <= asked.then.from,
    },
    address: asked.address,
    choices: choicesOf(host, actor),
    zone: asked.zone,
    since,
    partly: sightOf(host, actor).queues !== null,
    mayExport: holds(actor, 'review.export'),
    kept: keptViewsOf(host, actor, asked.today),
  };
}
