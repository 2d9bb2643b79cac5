import { object } from 'yup';
import type { Unable } from '../../core/routing/able';
import { reasonIn } from '../../core/routing/decision';
import { decidedBy, prefers } from '../../core/routing/order';
import { ableMembers } from '../../core/routing/pass';
import { placeAtStage } from '../../core/routing/stages';
import { noteStanding } from '../../core/routing/standing';
import type { Decider } from '../../core/routing/trail';
import { newVisit } from '../../core/routing/visit';
import { GROUPS } from '../../data/groups';
import { readSkills } from '../../data/skills';
import { type Actor, mustHold } from '../ground/actor';
import { channel, exactly, needsSchema, whole } from '../ground/schemas';
import { sightOf } from '../ground/scope';
import { parse } from '../ground/validate';
import { settingsOf } from './keepqueue';
import { queueSchema } from './queueschema';
import type { QueuesDeps } from './queuesview';

/** One person's answer to "who would get this contact?". */
export type Candidate = {
  readonly personId: string;
  readonly name: string;
  readonly rank: number | null;
  readonly why: string;
  readonly levelSum: number | null;
  readonly load: number;
};

export type WhoGets = {
  readonly sentence: string;
  readonly people: readonly Candidate[];
  readonly crossed: readonly string[];
};

const whoSchema = exactly(
  object({
    queue: queueSchema,
    contact: exactly(object({ channel, handOver: needsSchema, waitedSeconds: whole(0, 86_400, 'The wait') })),
  }),
);

const DECIDED: Readonly<Record<Decider, string>> = {
  familiar: 'knows this customer',
  'only-one': 'the only one able',
  'longest-idle': 'longest since the last contact',
  'lightest-load': 'lightest load',
  'fewest-open': 'fewest open contacts',
  'fewest-today': 'fewest today',
  'highest-level': 'highest level',
  'closest-level': 'level closest to what is needed',
  'share-by-weight': 'furthest behind their share',
  'in-turn': 'next in turn',
  tie: 'equal, settled by lot',
};

const upTo = ({ atMost }: { readonly atMost?: number | undefined }): string =>
  atMost === undefined ? ' or better' : ` to ${atMost}`;

function words(reason: Unable, nameOf: (id: string) => string): string {
  switch (reason.why) {
    case 'off-duty':
      return 'off duty';
    case 'away':
      return 'away';
    case 'unreachable':
      return 'out of reach';
    case 'not-in-duty':
      return 'not in their duty profile';
    case 'not-yet':
      return 'their delay is not over';
    case 'limit':
      return reason.groupId === null
        ? 'a limit of their own is reached'
        : `a limit of ${nameOf(reason.groupId)} is reached`;
    case 'skill':
      return `${nameOf(reason.need.skillId)} ${reason.need.atLeast}${upTo(reason.need)} is needed`;
    case 'channel-off':
      return 'does not take this channel';
    case 'channel-most':
      return 'has as many of this channel as they take';
    case 'load':
      return 'no room left';
    case 'offer-pending':
      return 'being offered another contact';
    case 'refused':
      return 'passed on it';
    case 'held':
      return 'held for somebody the customer knows';
  }
}

/** Who would get a made-up contact under settings not yet kept: everybody with their rank or the reason. */
export function whoGets({ host, floor }: QueuesDeps, actor: Actor, input: unknown): WhoGets {
  mustHold(actor, 'settings.view');
  const asked = parse(whoSchema, input);
  const queue = settingsOf(asked.queue as { id: string | null; settings: unknown });
  const now = host.times.floor();
  const at = now - asked.contact.waitedSeconds * 1000;
  const { visit, crossed } = newVisit(
    queue,
    0,
    0,
    {
      id: 'tried',
      contactId: 'tried',
      queueId: queue.id,
      channel: asked.contact.channel,
      placedAt: at,
      handOver: asked.contact.handOver,
      priority: 0,
      familiarId: null,
      kind: 'live',
      because: '',
      passed: [],
    },
    at,
  );
  placeAtStage(
    visit,
    (queue.clocks[visit.channel] ?? []).filter((s) => s.atSeconds <= asked.contact.waitedSeconds).length,
    [],
    [],
  );
  const able = ableMembers(floor.router, visit, now).sort((a, b) => prefers(floor.router, visit, a, b));
  const decision = noteStanding(floor.router, 'stage', visit, now);
  const scope = sightOf(host, actor);
  const { names } = scope;
  const things = new Map([...readSkills(host.db), ...GROUPS.all(host.db)].map((t) => [t.id, t.name]));
  const people = [...floor.router.floor.people.values()]
    .filter((p) => scope.people?.has(p.id) ?? true)
    .map((p): Candidate => {
      const place = able.findIndex((m) => m.person === p);
      const member = able[place];
      const next = able[place + 1];
      const reason = place < 0 ? reasonIn(decision, p) : null;
      return {
        personId: p.id,
        name: names.get(p.id) ?? '',
        rank: place < 0 ? null : place + 1,
        levelSum: member && visit.needs.length > 0 ? member.levelSum : null,
        load: p.used,
        why: reason
          ? words(reason, (id) => things.get(id) ?? id)
          : member
            ? able.length === 1
              ? DECIDED['only-one']
              : next
                ? DECIDED[decidedBy(floor.router, visit, member, next)]
                : 'last of those able'
            : 'left out',
      };
    })
    .sort((a, b) => (a.rank ?? 1e9) - (b.rank ?? 1e9) || a.why.localeCompare(b.why) || a.name.localeCompare(b.name));
  const first = people.find((p) => p.rank === 1);
  return {
    crossed: crossed.map((id) => things.get(id) ?? id),
    people,
    sentence: first
      ? `${first.name} would be asked first: ${first.why}; ${able.length} ${able.length === 1 ? 'person is' : 'people are'} able.`
      : able.length > 0
        ? `${able.length} people of other teams are able.`
        : 'Nobody could take it now.',
  };
}
