import { codeOfType, EVENT_VERSION, packedBody } from '../core/eventshapes';
import type { EventBody, LaneEvent } from '../core/events';
import { numberGiven } from './contactnumbers';
import { forgetContact } from './contactrows';
import { type Db, row, run } from './database';
import { applyToTables } from './events';
import { writePacked } from './packed';

/** Something that happened in a contact that is over, when (floor ms), and what was said where it was a message. */
export type Happened = { readonly body: EventBody; readonly at: number; readonly text?: string };

/** Takes so many places of the log, and gives the first. */
function places(db: Db, many: number): number {
  const last = row<{ seq: number }>(db, "SELECT seq FROM sqlite_sequence WHERE name = 'events'");
  if (last) run(db, "UPDATE sqlite_sequence SET seq = seq + ? WHERE name = 'events'", many);
  else run(db, "INSERT INTO sqlite_sequence (name, seq) VALUES ('events', ?)", many);
  return (last?.seq ?? 0) + 1;
}

/**
 * Writes the whole life of a contact that is over, in the order in which it happened, as one that was packed long ago; call
 * inside a transaction. The first thing must be that it started. `realAt` is when it was written, null for as it happened.
 * Gives the contact's number.
 */
export function writeLife(db: Db, life: readonly Happened[], realAt: number | null): number {
  const no = places(db, life.length);
  const started = life[0]?.body;
  if (started?.type !== 'contact.started') throw new Error('a life begins with its contact');
  numberGiven(db, started.contactId, no);
  life.forEach(({ body, at }, i) => {
    const event: LaneEvent = { ...body, seq: no + i, v: EVENT_VERSION, floorAt: at, realAt: realAt ?? at };
    applyToTables(db, event);
  });
  writePacked(db, no, {
    events: life.map(({ body, at }, i) => ({
      seq: no + i,
      code: codeOfType(body.type),
      v: EVENT_VERSION,
      floorAt: at,
      realAt: realAt === at ? null : realAt,
      body: packedBody(body),
    })),
    said: life.flatMap(({ text }, i) =>
      text === undefined ? [] : [{ seq: no + i, text, options: null, ssml: null, mayInterrupt: null, image: null }],
    ),
    decisions: [],
  });
  // It is over: nobody at work looks at it.
  forgetContact(db, started.contactId);
  return no;
}
