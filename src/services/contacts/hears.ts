import type { Heard, Meaning } from '../../core/bots/program';
import { askingContacts, readBotState } from '../../data/askings';
import type { Hearing } from '../bots/understanding';
import type { Host } from '../ground/host';
import type { Happening } from './happening';

/** What asking for the meaning of a customer's words rests on. */
export type HearsDeps = {
  readonly host: Host;
  readonly hearing: Hearing;
  readonly happen: Happening['happen'];
};

/** How long the whole of it may take, real ms; then words and pieces alone decide, which takes a thousandth of it. */
const MOST_MS = 2000;
const NOT_UNDERSTOOD: Meaning = { ranked: [], verdict: 'none' };

async function meaningOf({ hearing, host }: HearsDeps, heard: Heard): Promise<Meaning> {
  let timer: ReturnType<typeof setTimeout> | undefined;
  const late = new Promise<null>((resolve) => {
    timer = setTimeout(() => resolve(null), MOST_MS);
  });
  try {
    const whole = hearing.ask(heard).catch((error: unknown) => {
      host.fault(error);
      return null;
    });
    return (await Promise.race([whole, late])) ?? (await hearing.ask(heard, true));
  } catch (error) {
    // Nobody can say: the bot asks again, as for any words that it does not understand.
    host.fault(error);
    return NOT_UNDERSTOOD;
  } finally {
    clearTimeout(timer);
  }
}

/** Asks what a customer's words mean, and tells their bot. Never throws. */
export function hear(deps: HearsDeps, contactId: string, number: number, heard: Heard): void {
  const { host } = deps;
  meaningOf(deps, heard)
    .then((meaning) => {
      // The server may have stopped meanwhile.
      if (!host.db.open) return;
      host.transact((tx) => deps.happen(tx, contactId, { type: 'answer', number, reply: { to: 'meaning', meaning } }));
    })
    .catch(host.fault);
}

/** After a stop: words whose meaning was being asked are asked for again. */
export function resumeHearing(deps: HearsDeps): void {
  for (const { contactId, ask } of askingContacts(deps.host.db)) {
    const asked = ask === 'meaning' ? readBotState(deps.host.db, contactId)?.state.asked : null;
    if (asked?.ask === 'meaning')
      hear(deps, contactId, asked.number, { book: asked.book, text: asked.text, language: asked.language });
  }
}
