import { type FactDay, NONE } from '../../core/measures/columns';
import { addTurn, noTurns, type OpenTurns } from '../../core/measures/timeused';

/** When each of some people had what open, by the turns that ended on these days. */
export function turnsByPerson(days: readonly FactDay[], people: ReadonlySet<string>): ReadonlyMap<string, OpenTurns> {
  const turns = new Map<string, OpenTurns>();
  for (const day of days) {
    const part = day.part('legs');
    const [at, held, person, channel] = [
      part.numbers('at'),
      part.numbers('held'),
      part.coded('person'),
      part.coded('channel'),
    ];
    // The turns of each of the day's people, null where nobody asks about them.
    const theirs = person.entries.map(([id = '']) => {
      if (!people.has(id)) return null;
      const of = turns.get(id) ?? noTurns();
      turns.set(id, of);
      return of;
    });
    for (let i = 0; i < part.rows; i++) {
      const of = theirs[person.codes[i] as number];
      if (!of || held[i] === NONE) continue;
      const to = part.from + (at[i] as number);
      addTurn(of, channel.entries[channel.codes[i] as number]?.[0] ?? '', to - (held[i] as number), to);
    }
  }
  return turns;
}
