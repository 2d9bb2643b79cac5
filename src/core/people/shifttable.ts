import type { Table } from '../formats/csv';
import type { DatedDay, WeeklyInterval } from '../hours/weekly';
import type { Shift } from './coverage';

const DAYS = ['monday', 'tuesday', 'wednesday', 'thursday', 'friday', 'saturday', 'sunday'];
const TIME = /^([01]?\d|2[0-3])[:.]([0-5]\d)$/;
const DATE = /^\d{4}-\d{2}-\d{2}$/;
const clock = (text: string): string | null => {
  const found = TIME.exec(text);
  return found ? `${(found[1] ?? '').padStart(2, '0')}:${found[2]}` : null;
};

/**
 * Shifts from a table with the columns who, day, from, to: `who` is an e-mail address or a team's name, `day` a weekday
 * (monday, Mon, 1) or a date (2026-12-24); a date with empty times is a day off. Faults name their rows; a row with a
 * fault is left out.
 */
export function readShiftTable(table: Table): { shifts: Map<string, Shift>; faults: { row: number; what: string }[] } {
  const at = (...names: string[]) => table.header.findIndex((h) => names.includes(h.toLowerCase().trim()));
  const [who, day, from, to] = [
    at('who', 'email', 'e-mail', 'team', 'person'),
    at('day', 'date', 'weekday'),
    at('from', 'start', 'begins'),
    at('to', 'end', 'until', 'ends'),
  ];
  const missing = [
    [who, 'who'],
    [day, 'day'],
    [from, 'from'],
    [to, 'to'],
  ]
    .filter(([column]) => column === -1)
    .map(([, name]) => String(name));
  if (missing.length > 0)
    return { shifts: new Map(), faults: [{ row: 1, what: `there is no column ${missing.join(', ')}` }] };
  const found = new Map<string, { weekly: WeeklyInterval[]; days: Map<string, DatedDay> }>();
  const faults: { row: number; what: string }[] = [];
  for (const { row, cells } of table.rows) {
    const [name, when, begins, ends] = [who, day, from, to].map((c) => (cells[c] ?? '').trim());
    const fault = (what: string) => faults.push({ row, what });
    if (!name) {
      fault('who it is for is missing');
      continue;
    }
    const mine = found.get(name.toLowerCase()) ?? { weekly: [], days: new Map<string, DatedDay>() };
    found.set(name.toLowerCase(), mine);
    const interval = { from: clock(begins ?? '') ?? '', to: clock(ends ?? '') ?? '' };
    const empty = !begins && !ends;
    if (!empty && (interval.from === '' || interval.to === '')) {
      fault(`“${begins}–${ends}” are not times such as 08:30`);
      continue;
    }
    const weekday = DAYS.findIndex(
      (d, i) => when && (d === when.toLowerCase() || d.slice(0, 3) === when.toLowerCase() || String(i + 1) === when),
    );
    if (DATE.test(when ?? '')) {
      const date = when ?? '';
      const there = mine.days.get(date) ?? { date, intervals: [], note: '' };
      mine.days.set(date, { ...there, intervals: empty ? [] : [...there.intervals, interval] });
    } else if (weekday < 0) fault(`“${when}” is neither a weekday nor a date such as 2026-12-24`);
    else if (empty) fault('a weekday needs times');
    else mine.weekly.push({ day: weekday + 1, ...interval });
  }
  return {
    shifts: new Map(
      [...found].map(([name, { weekly, days }]) => [
        name,
        { weekly, exceptions: [...days.values()].sort((a, b) => (a.date < b.date ? -1 : 1)) },
      ]),
    ),
    faults,
  };
}
