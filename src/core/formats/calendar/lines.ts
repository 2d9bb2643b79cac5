import ICAL from 'ical.js';

/** One property of a component as jCal (RFC 7265): name in small letters, parameters, type, values. */
export type Property = {
  readonly name: string;
  readonly parameters: Readonly<Record<string, string | readonly string[]>>;
  readonly type: string;
  readonly values: readonly unknown[];
  readonly line: number;
};
/** A component (an event, a zone) as it stands in a file; `line` is where it begins, from 1. */
export type Component = {
  readonly name: string;
  readonly line: number;
  readonly lines: readonly { readonly name: string; readonly text: string; readonly line: number }[];
  readonly inside: readonly Component[];
};
/** What is wrong with one event, told with its line; the rest of the file is read all the same. */
export class EventFault extends Error {
  readonly line: number;
  constructor(line: number, sentence: string) {
    super(sentence);
    this.line = line;
  }
}

/** The physical lines put together where one is folded (RFC 5545 §3.1). */
function* logicalLines(text: string): Generator<{ text: string; line: number }> {
  let open: { text: string; line: number } | null = null;
  for (const [i, physical] of text.split(/\r\n|\n|\r/).entries()) {
    if (open && /^[ \t]/.test(physical)) open.text += physical.slice(1);
    else {
      if (open && open.text.trim() !== '') yield open;
      open = { text: physical, line: i + 1 };
    }
  }
  if (open && open.text.trim() !== '') yield open;
}

type Open = { name: string; line: number; lines: Component['lines'][number][]; inside: Component[] };

/**
 * The calendars of a file with what stands in them. Throws RangeError, with the line, where something begins and does
 * not end, or the other way round.
 */
export function readComponents(text: string): Component[] {
  const calendars: Component[] = [];
  const stack: Open[] = [];
  for (const { text: said, line } of logicalLines(text)) {
    const [, edge, of = ''] = /^(BEGIN|END):\s*([A-Za-z0-9-]+)\s*$/i.exec(said) ?? [];
    const top = stack.at(-1);
    if (edge === undefined) {
      if (!top) throw new RangeError(`This is not an iCalendar file: line ${line} stands outside of any calendar.`);
      const name = /^[A-Za-z0-9-]+/.exec(said)?.[0].toLowerCase() ?? '';
      top.lines.push({ name, text: said, line });
      continue;
    }
    const name = of.toLowerCase();
    if (edge.toUpperCase() === 'BEGIN') {
      if (!top && name !== 'vcalendar')
        throw new RangeError(`This is not an iCalendar file: line ${line} begins ${of} outside of any calendar.`);
      // Nothing in a calendar goes deeper than an alarm in an event.
      if (stack.length >= 8) throw new RangeError(`Line ${line}: ${of} stands too deep within others.`);
      const begun: Open = { name, line, lines: [], inside: [] };
      (top?.inside ?? calendars).push(begun);
      stack.push(begun);
      continue;
    }
    if (top?.name !== name)
      throw new RangeError(
        `Line ${line} ends ${of}${top ? `, while ${top.name.toUpperCase()} of line ${top.line} is open` : ', which has not begun'}.`,
      );
    stack.pop();
  }
  const left = stack[0];
  if (left) throw new RangeError(`The file ends before ${left.name.toUpperCase()} of line ${left.line} does.`);
  if (calendars.length === 0) throw new RangeError('This is not an iCalendar file: it holds no calendar.');
  return calendars;
}

/** The properties of that name; throws EventFault for one that cannot be read. */
export function properties(component: Component, name: string): Property[] {
  return component.lines
    .filter((l) => l.name === name)
    .map(({ text, line }) => {
      try {
        const [said, parameters, type, ...values] = ICAL.parse.property(text) as unknown as [
          string,
          Property['parameters'],
          string,
          ...unknown[],
        ];
        return { name: said, parameters, type, values, line };
      } catch (error) {
        const why = error instanceof Error ? error.message.replaceAll('"', '”') : 'unreadable';
        throw new EventFault(line, `${name.toUpperCase()} cannot be read (${why}).`);
      }
    });
}
/** The one property of that name, null without; throws EventFault for two. */
export function property(component: Component, name: string): Property | null {
  const [first, second] = properties(component, name);
  if (second) throw new EventFault(second.line, `${name.toUpperCase()} stands twice.`);
  return first ?? null;
}
/** The text of the first property of that name, trimmed; empty without. What cannot be read is as if it were not there. */
export function textOf(component: Component, name: string): string {
  try {
    const value = properties(component, name)[0]?.values[0];
    return typeof value === 'string' || typeof value === 'number' ? String(value).trim() : '';
  } catch (error) {
    if (error instanceof EventFault) return '';
    throw error;
  }
}
