import type { Table } from '../formats/csv';
import { RefusedLine } from './pastlines';

/**
 * Rows of a table as lines of the past: of contacts, by the columns under which contacts are taken out, or of states
 * (`Person`, `At`, `State`, `Reason`). A row has room for one queue and one person.
 */
export function pastRow(header: readonly string[], cells: readonly string[]): unknown {
  const cell = (name: string): string | undefined => {
    const place = header.findIndex((one) => one.trim().toLowerCase() === name.toLowerCase());
    return place < 0 || !cells[place] ? undefined : cells[place];
  };
  if (cell('State') !== undefined)
    return { person: cell('Person'), at: cell('At'), state: cell('State'), reason: cell('Reason') };
  const one = (name: string): string | undefined => {
    const value = cell(name);
    if (value?.includes(', '))
      throw new RefusedLine(`${name}: a table has room for one. Bring in contacts with several as NDJSON.`);
    return value;
  };
  const [startedAt, endedAt] = [cell('Started'), cell('Ended')];
  const [queue, person, waited] = [one('Queues'), one('People'), cell('Waited (s)')];
  const ended = cell('How it ended');
  const acceptedAt = cell('Accepted') ?? after(startedAt, waited ?? '0');
  return {
    id: cell('Contact'),
    channel: cell('Channel'),
    door: cell('Door'),
    language: cell('Language'),
    customer: cell('Customer'),
    bot: cell('Bot'),
    startedAt,
    endedAt,
    ended,
    visits:
      queue === undefined
        ? []
        : [
            {
              queue,
              enteredAt: startedAt,
              waitedSeconds: waited ?? '0',
              goalSeconds: cell('Goal (s)'),
              ended: person === undefined ? (ended === 'gave-up' ? 'gave-up' : 'moved-on') : 'accepted',
            },
          ],
    messages: said(cell('Said')),
    turns:
      person === undefined
        ? []
        : [{ person, acceptedAt, endedAt, handleSeconds: cell('Handle time (s)'), outcome: one('Outcomes') }],
  };
}

/**
 * What was said, a line each: an instant, who (`customer`, `bot`, or `person` with their name), a colon, the words. A line
 * that does not begin so goes on with the words of the one before.
 */
function said(text: string | undefined): readonly unknown[] {
  const found: { readonly at: string; readonly from: string; readonly person: string | undefined; text: string }[] = [];
  for (const line of (text ?? '').split(/\r?\n/)) {
    const [, at, from, person, words] =
      /^\s*(\d\S*)\s+(customer|bot|person)(?:\s+([^:]+?))?\s*:\s?(.*)$/.exec(line) ?? [];
    const last = found.at(-1);
    if (at !== undefined && from !== undefined) found.push({ at, from, person, text: words ?? '' });
    else if (last) last.text += `\n${line}`;
    else if (line.trim() !== '')
      throw new RefusedLine(
        'Said: each line is an instant, who, a colon and the words: 2026-01-05T09:00:05Z customer: Hello.',
      );
  }
  return found;
}

/** So many seconds after an instant; as it is where either cannot be read. */
function after(instant: string | undefined, seconds: string): string | undefined {
  const at = Date.parse(instant ?? '');
  const ms = Number(seconds) * 1000;
  return Number.isNaN(at + ms) ? instant : new Date(at + ms).toISOString();
}

/** What a table brings in: contacts or states; null where its columns say neither. */
export function pastTable({ header }: Pick<Table, 'header'>): 'contacts' | 'states' | null {
  const has = (name: string) => header.some((one) => one.trim().toLowerCase() === name.toLowerCase());
  if (has('Person') && has('At') && has('State')) return 'states';
  return ['Contact', 'Channel', 'Door', 'Customer', 'Started', 'Ended', 'How it ended'].every(has) ? 'contacts' : null;
}
