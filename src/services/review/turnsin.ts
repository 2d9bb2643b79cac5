import { type FactDay, NONE } from '../../core/measures/columns';
import type { OpenTurn } from '../../core/measures/timeused';

/** When each of some people had what open, by the turns that ended on these days. */
export function turnsByPerson(
  days: readonly FactDay[],
  people: ReadonlySet<string>,
): ReadonlyMap<string, readonly OpenTurn[]> {
  const turns = new Map<string, OpenTurn[]>();
  for (const day of days) {
    const part = day.part('legs');
    const [at, held, person, channel] = [
      part.numbers('at'),
      part.numbers('held'),
      part.coded('person'),
      part.coded('channel'),
    ];
    for (let i = 0; i < part.rows; i++) {
      if (held[i] === NONE) continue;
      const to = part.from + (at[i] as number);
      const id = person.entries[person.codes[i] as number]?.[0] ?? '';
      if (!people.has(id)) continue;
      const turn = {
        from: to - (held[i] as number),
        to,
        channel: channel.entries[channel.codes[i] as number]?.[0] as OpenTurn['channel'],
      };
      const of = turns.get(id);
      if (of) of.push(turn);
      else turns.set(id, [turn]);
    }
  }
  return turns;
}
