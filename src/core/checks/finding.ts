import type { Channel } from '../channels';
import type { Limits } from '../routing/limits';

/** A fault of the configuration. `fix` names the one-press mending, where there is one. */
export type Finding = {
  readonly id: string;
  readonly kind: 'queue' | 'hours' | 'group' | 'partner' | 'door' | 'shift' | 'outcome';
  readonly thingId: string;
  readonly about: string;
  readonly weight: 'stops' | 'advice';
  readonly says: string;
  readonly fix: QueueFix | null;
};
export type QueueFix =
  | { readonly does: 'drop-stage'; readonly queueId: string; readonly channel: Channel; readonly atSeconds: number }
  | {
      readonly does: 'lift-limit';
      readonly kind: 'group' | 'partner';
      readonly thingId: string;
      readonly numberId: string | null;
      readonly limit: keyof Limits;
    }
  | { readonly does: 'shorten-wrap-up'; readonly queueId: string; readonly seconds: number }
  | { readonly does: 'drop-rule'; readonly queueId: string; readonly index: number }
  | { readonly does: 'drop-channel'; readonly queueId: string; readonly channel: Channel };

/** Notes what a check has found about a thing. */
export type Add = (
  kind: Finding['kind'],
  thing: { readonly id: string; readonly name: string },
  check: string,
  weight: Finding['weight'],
  says: string,
  fix?: QueueFix | null,
) => void;

/** Gathers what checks find. */
export function gathering(): { readonly found: Finding[]; readonly add: Add } {
  const found: Finding[] = [];
  return {
    found,
    add: (kind, thing, check, weight, says, fix = null) =>
      found.push({ id: `${kind}|${thing.id}|${check}`, kind, thingId: thing.id, about: thing.name, weight, says, fix }),
  };
}
