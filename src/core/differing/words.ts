import type { LimitKind } from '../routing/limits';
import { type Decider, LIMIT_WORDS, laterWords } from '../routing/trail';
import type { Reason } from './reason';

/** What the other did or was, as it goes on after “because the other”. `skills` gives their names. */
export function reasonWords({ why, about }: Reason, skills: ReadonlyMap<string, string>): string {
  switch (why) {
    case 'off-duty':
      return 'was off duty';
    case 'away':
      return 'was away';
    case 'unreachable':
      return 'was out of reach';
    case 'not-in-duty':
      return 'does not take this queue on this channel';
    case 'not-yet':
      return 'takes it only after a delay';
    case 'limit':
      return `was held back by a limit: ${about === null ? 'a group’s or their own' : LIMIT_WORDS[about as LimitKind]}`;
    case 'skill':
      return `does not meet ${about === null ? 'a skill' : (skills.get(about) ?? 'a skill that is gone')}`;
    case 'channel-off':
      return 'does not take this channel';
    case 'channel-most':
      return 'had their most on this channel';
    case 'load':
      return 'had no room for it';
    case 'offer-pending':
      return 'was being offered something else';
    case 'refused':
      return 'had missed or declined it';
    case 'held':
      return 'was not the person this customer knows';
    case 'later-in-order':
      return `came later in the picking order${about === null ? '' : `, ${laterWords(about as Decider)}`}`;
    case 'took-another':
      return 'took another in the same moment';
    case 'left-unasked':
      return 'was not asked';
    case 'by-hand':
      return 'was not the one it was taken or passed to by hand';
    case 'rung-too':
      return 'was rung too, and answered later';
    case 'not-there':
      return 'was not there yet';
    case 'not-known':
      return 'is not known: it was brought in';
  }
}
