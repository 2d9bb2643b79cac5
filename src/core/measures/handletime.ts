import { isText, type Channel } from '../channels';

/** The longest gap between two signs of activity that counts whole, seconds. */
export const ACTIVITY_CAP_SECONDS = 300;

/**
 * Handle time of one leg in seconds. Voice: from acceptance to the end, wrap-up included. Text: every gap between signs
 * of activity counts min(gap, 5 minutes), plus wrap-up whole. Instants are floor ms; `signs` need not be in order.
 *
 * @example handleSeconds('chat', { acceptedAt: 0, talkEndedAt: 600_000, endedAt: 630_000, signs: [] }) // 330
 */
export function handleSeconds(
  channel: Channel,
  leg: {
    readonly acceptedAt: number;
    readonly talkEndedAt: number;
    readonly endedAt: number;
    readonly signs: readonly number[];
  },
): number {
  const wrapUp = (leg.endedAt - leg.talkEndedAt) / 1000;
  if (!isText(channel)) return (leg.talkEndedAt - leg.acceptedAt) / 1000 + wrapUp;
  const marks = [
    leg.acceptedAt,
    ...leg.signs.filter((s) => s > leg.acceptedAt && s < leg.talkEndedAt).sort((a, b) => a - b),
    leg.talkEndedAt,
  ];
  let talk = 0;
  for (let i = 1; i < marks.length; i++)
    talk += Math.min(((marks[i] ?? 0) - (marks[i - 1] ?? 0)) / 1000, ACTIVITY_CAP_SECONDS);
  return talk + wrapUp;
}
