import type { Actor } from './actor';
import type { Parts } from './parts';

type View = (s: Parts, actor: Actor, asked: Record<string, string>) => unknown;

/** What pages read, by the name it is read under. Each checks its own right. */
export const VIEWS: Readonly<Record<string, View>> = {
  strip: (s, actor) => s.strip(actor),
  floor: (s, actor) => s.floorView.view(actor),
  contact: (s, actor, asked) => s.floorView.contact(actor, asked.id ?? ''),
  people: (s, actor) => s.people.view(actor),
  standings: (s, actor) => s.people.standings(actor),
  person: (s, actor, asked) => s.people.person(actor, asked.id ?? ''),
  ways: (s, actor, asked) => s.reach.ways(actor, asked.id ?? ''),
  access: (s, actor, asked) => s.roles.access(actor, asked.id ?? ''),
  teams: (s, actor) => s.teams.view(actor),
  duty: (s, actor) => s.duty.view(actor),
  'queue-side': (s, actor, asked) => s.duty.queueSide(actor, asked.id ?? ''),
  shifts: (s, actor, asked) => s.shifts.view(actor, asked),
  desks: (s, actor) => s.deskProfiles.view(actor),
  roles: (s, actor) => s.roles.view(actor),
  import: (s, actor, asked) => s.peopleImport.view(actor, asked),
  history: (s, actor, asked) => s.history.view(actor, asked),
  'to-fix': (s, actor) => s.toFix.view(actor),
  mailbox: (s, actor) => s.mailbox.view(actor),
  queues: (s, actor) => s.queues.view(actor),
  callbacks: (s, actor) => s.callbacks.view(actor),
  groups: (s, actor) => s.groups.view(actor),
  hours: (s, actor) => s.hours.view(actor),
  outcomes: (s, actor) => s.outcomes.view(actor),
  doors: (s, actor) => s.doors.view(actor),
  bots: (s, actor) => s.bots.list(actor),
  bot: (s, actor, asked) => s.bots.view(actor, asked.id ?? ''),
  'bot-traffic': (s, actor, asked) => s.bots.traffic(actor, asked.id ?? ''),
  'bot-version': (s, actor, asked) => s.bots.versionScript(actor, asked),
  review: (s, actor, asked) => s.review.view(actor, asked),
  behind: (s, actor, asked) => s.review.behind(actor, asked),
  places: (s, actor) => s.search.places(actor),
};
