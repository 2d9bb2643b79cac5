import { plusDays } from '../../hours/dates';
import { type DatedDay, instantAt, localTime, type Stretch } from '../../hours/weekly';

const MINUTE = 60_000;
/** To whole minutes; what ends at 23:59:59 goes on to midnight. */
export const minutely = (at: number): number => Math.round(at / MINUTE) * MINUTE;

export type Interval = DatedDay['intervals'][number];
/** Stretches as intervals of the local days on which they begin. */
export function* asIntervals(zone: string, { start, end }: Stretch): Generator<Interval & { readonly date: string }> {
  for (let at = start; at < end;) {
    const [date = '', from = ''] = localTime(at, zone).split('T');
    const next = plusDays(date, 1);
    // Up to a day goes past midnight as one; what is longer is cut there, and says of each day that it is open.
    const whole = localTime(end, zone) <= `${next}T${from}`;
    const until = whole ? end : Math.min(end, instantAt(zone, next, '00:00'));
    yield { date, from, to: localTime(until, zone).slice(11) };
    at = until;
  }
}
