import type { PeopleView, PersonLine, StandingLine } from '@/services/people/peopleview';

/** What the people pages are narrowed to; every part may be empty. Kept filters are these texts by name. */
export type PeopleFilter = {
  readonly text: string;
  readonly team: string;
  readonly skill: string;
  readonly level: string;
  readonly state: string;
};
export const NO_FILTER: PeopleFilter = { text: '', team: '', skill: '', level: '', state: '' };

/** States to choose from: duty states, and what settings say. */
export const STATE_CHOICES = [
  ['ready', 'Ready'],
  ['away', 'Away'],
  ['busy', 'With contacts'],
  ['off', 'Off duty'],
  ['not-ready', 'Not ready for contacts'],
  ['switched-off', 'Switched off'],
  ['for-now', 'On another profile'],
] as const;

function inState(state: string, p: PersonLine, day: StandingLine | undefined): boolean {
  switch (state) {
    case 'not-ready':
      return p.stop !== null && p.meant;
    case 'switched-off':
      return !p.active;
    case 'for-now':
      return p.forNow !== null;
    case 'busy':
      return (day?.open.length ?? 0) > 0;
    case 'ready':
      return day?.duty === 'ready' && day.open.length === 0;
    case 'away':
      return day?.duty === 'away' || day?.duty === 'away-when-empty';
    case 'off':
      return day?.duty === 'off';
    default:
      return true;
  }
}

/** Who passes a filter. Switched-off people are shown only where they are asked for, or in the list. */
export function passing(
  view: PeopleView,
  standings: ReadonlyMap<string, StandingLine>,
  f: PeopleFilter,
  withOff: boolean,
): PersonLine[] {
  const text = f.text.trim().toLowerCase();
  const least = Number(f.level || 1);
  return view.people.filter(
    (p) =>
      (p.active || withOff || f.state === 'switched-off') &&
      (f.team === '' || p.teamId === f.team || p.alsoTeamIds.includes(f.team)) &&
      (text === '' || p.name.toLowerCase().includes(text) || p.email.includes(text)) &&
      (f.skill === '' || (p.cells[f.skill]?.level ?? 0) >= least) &&
      inState(f.state, p, standings.get(p.id)),
  );
}
