import type { ShownImage } from '../../core/bots/conversation';
import { lineNumber } from '../../core/bots/model';
import type { Channel } from '../../core/channels';
import type { ContactEnd, VisitEnd } from '../../core/measures/facts';
import type { Mood } from '../../core/mood/mood';
import type { WaitingVisit } from '../../core/routing/floor';
import { stagesOf } from '../../core/routing/stages';
import { explain } from '../../core/routing/standing';
import { decisionSentence, laterWords, otherLines, type Trail } from '../../core/routing/trail';
import { nameOf } from '../../data/names';
import { readBot, scriptOf } from '../../data/bots';
import type { Db } from '../../data/database';
import { readCustomer } from '../../data/customers';
import { readFieldsEver } from '../../data/fields';
import { GROUPS, PARTNERS } from '../../data/groups';
import { legsOf } from '../../data/legs';
import { messagesOf } from '../../data/messages';
import { keptMood } from '../../data/moods';
import { type Page, pageOf } from '../../data/pages';
import { pastNames } from '../../data/past';
import { partnerCallsOfVisit } from '../../data/routermemory';
import { readSkills } from '../../data/skills';
import { privateValuesOf, valuesOf } from '../../data/values';
import { decisionsOf } from '../../data/trails';
import { visitsOf } from '../../data/visits';
import { type ContactState, contactState, customerName } from '../contacts/contactstate';
import { type KeptSummary, keptSummaryOf } from '../customers/customers';
import { MASK, masked } from '../contacts/privatevalues';
import { seenContact } from '../contacts/seencontact';
import { type Actor, mustHold } from '../ground/actor';
import { ELSEWHERE, sightOf } from '../ground/scope';
import type { FloorViewDeps } from './strip';

export type Reasons = {
  readonly sentence: string;
  readonly at: number;
  readonly others: readonly { text: string; people: string }[];
};

export type ContactView = {
  readonly id: string;
  readonly channel: Channel;
  readonly state: ContactState;
  readonly endedHow: ContactEnd | null;
  readonly customer: string;
  readonly customerId: string;
  /** Whether the channel stands in for who they are. */
  readonly vouched: boolean;
  readonly door: string;
  /** The page they wrote from and where they were, where their browser said so. */
  readonly page: Page | null;
  readonly startedAt: number;
  readonly endedAt: number | null;
  readonly summary: KeptSummary | null;
  /** How its customer seemed to feel; `by` says who corrected it, null where it was judged by itself. */
  readonly mood: { readonly mood: Mood; readonly by: string | null } | null;
  readonly now: number;
  readonly bot: string | null;
  /** Its bot where it is still there, so that its draft can be tried with the same words. */
  readonly botId: string | null;
  readonly fields: readonly { label: string; value: string }[];
  readonly visits: readonly {
    id: string;
    queue: string;
    placedAt: number;
    endedAt: number | null;
    how: VisitEnd | null;
    needs: string;
    priority: number;
    stage: string | null;
    also: readonly string[];
    /** What was rung outside for it, in order: the desk, its number, and what came of it. */
    rung: readonly { id: string; desk: string; number: string; at: number; came: string }[];
    decisions: readonly Reasons[];
    nowWhy: Reasons | null;
  }[];
  readonly legs: readonly {
    id: string;
    person: string;
    acceptedAt: number;
    endedAt: number | null;
    outcome: string | null;
    handleSeconds: number | null;
    /** For how long a caller was held in it. */
    heldSeconds: number;
    passedOn: boolean;
  }[];
  readonly messages: readonly {
    seq: number;
    from: 'customer' | 'bot' | 'person';
    name: string;
    text: string;
    at: number;
    line: string | null;
    image: ShownImage | null;
  }[];
};

const CAME: Readonly<Record<string, string>> = {
  'no-answer': 'no answer',
  busy: 'busy',
  'not-needed': 'not needed any more',
};

/** Calls to partner desks for a visit, in the words of a trail. */
function rungFor(db: Db, visitId: string, now: number): ContactView['visits'][number]['rung'] {
  const calls = partnerCallsOfVisit(db, visitId);
  if (calls.length === 0) return [];
  const desks = new Map(PARTNERS.all(db).map((p) => [p.id, p]));
  return calls.map((call) => {
    const desk = desks.get(call.partnerId);
    const talked = call.answeredAt === null ? null : Math.round(((call.endedAt ?? now) - call.answeredAt) / 1000);
    return {
      id: call.id,
      desk: desk?.name ?? nameOf(db, call.partnerId) ?? 'a partner desk that is gone',
      number: desk?.numbers.find((n) => n.id === call.numberId)?.name ?? 'a number that is gone',
      at: call.startedAt,
      came:
        talked !== null
          ? `answered, ${talked} s${call.endedAt === null ? ' so far' : ''}`
          : call.endedAt === null
            ? 'rings now'
            : (CAME[call.endedHow ?? ''] ?? 'ended'),
    };
  });
}

/** Where a waiting contact stands on its clock. */
function stageWords(visit: WaitingVisit): string | null {
  const stages = stagesOf(visit);
  if (stages.length === 0) return null;
  const next = stages[visit.stage];
  return `stage ${visit.stage} of ${stages.length}${next ? `, the next at ${next.atSeconds} s` : ''}`;
}

function reasons(trail: Trail, names: ReadonlyMap<string, string>, skills: ReadonlyMap<string, string>): Reasons {
  return {
    at: trail.at,
    sentence: decisionSentence(trail, (p) => names.get(p) ?? 'somebody'),
    others: otherLines(trail).map((o) => {
      // Those of other teams have no name here, so they are counted.
      const known = o.people.filter((p) => names.get(p) !== ELSEWHERE);
      const listed = known.slice(0, 6).map((p) => {
        const skill = o.why === 'skill' ? trail.lacking[p] : undefined;
        const rule = o.why === 'later-in-order' ? trail.later?.[p] : undefined;
        const because = skill ? (skills.get(skill) ?? skill) : rule ? laterWords(rule) : null;
        return `${names.get(p) ?? p}${because ? ` (${because})` : ''}`;
      });
      const more = [
        ...(known.length > 6 ? [`${known.length - 6} more`] : []),
        ...(o.people.length > known.length ? [`${o.people.length - known.length} in other teams`] : []),
      ];
      return { text: o.text, people: [listed.join(', '), ...more].filter(Boolean).join(' and ') };
    }),
  };
}

/** One contact with its trail: for a waiting one also why nobody has it yet, computed now. */
export function viewContact({ host, floor }: FloorViewDeps, actor: Actor, contactId: string): ContactView {
  mustHold(actor, 'conversations.view');
  const c = seenContact(host, actor, contactId);
  const scope = sightOf(host, actor);
  const { names } = scope;
  const skills = new Map(readSkills(host.db).map((s) => [s.id, s.name]));
  const script = c.botId !== null && c.botVersion !== null ? scriptOf(host.db, c.botId, c.botVersion) : undefined;
  const customer = readCustomer(host.db, c.customerId);
  const privates = new Set(privateValuesOf(host.db, c.id).map((v) => v.name));
  const values = new Map(valuesOf(host.db, c.id).map((v) => [v.name, v.value]));
  const now = host.times.floor();
  const mood = keptMood(host.db, c.id);
  // What was brought in may be known by name alone.
  const past = new Map(pastNames(host.db).map((one) => [one.id, one.name]));
  const person = (id: string): string => names.get(id) ?? (actor.teams === 'all' ? past.get(id) : undefined) ?? '';
  const things = new Map([...GROUPS.all(host.db), ...PARTNERS.all(host.db)].map((t) => [t.id, t.name]));
  return {
    id: c.id,
    channel: c.channel,
    state: contactState(host.db, c),
    endedHow: c.endedHow,
    customer: customerName(host.db, c),
    customerId: c.customerId,
    vouched: customer?.vouched ?? false,
    door: nameOf(host.db, c.doorId) ?? past.get(c.doorId) ?? '',
    page: pageOf(host.db, c.id),
    startedAt: c.startedAt,
    endedAt: c.endedAt,
    summary: keptSummaryOf(host, actor, c.id),
    mood: mood && { mood: mood.mood, by: mood.personId === null ? null : person(mood.personId) || 'somebody' },
    now,
    botId: c.botId !== null && readBot(host.db, c.botId) ? c.botId : null,
    bot: script ? `${script.shownName}, version ${c.botVersion}` : (past.get(c.botId ?? '') ?? null),
    fields: readFieldsEver(host.db).flatMap((f) =>
      privates.has(f.name)
        ? [{ label: f.label, value: MASK }]
        : values.has(f.name)
          ? [{ label: f.label, value: masked(values.get(f.name) ?? '') }]
          : [],
    ),
    visits: visitsOf(host.db, c.id).map((v) => {
      const live = floor.router.floor.waiting.get(v.id);
      return {
        id: v.id,
        queue: nameOf(host.db, v.queueId) ?? past.get(v.queueId) ?? v.queueId,
        placedAt: v.placedAt,
        endedAt: v.endedAt,
        how: v.endedHow,
        priority: v.priority,
        needs: (live?.needs ?? v.needs)
          .map(
            (n) =>
              `${skills.get(n.skillId) ?? nameOf(host.db, n.skillId) ?? n.skillId} ${n.atLeast}${n.atMost === undefined ? '' : ` to ${n.atMost}`}`,
          )
          .join(', '),
        stage: live ? stageWords(live) : null,
        also: live ? [...live.groups, ...live.partners].map((id) => things.get(id) ?? nameOf(host.db, id) ?? id) : [],
        rung: rungFor(host.db, v.id, now),
        decisions: decisionsOf(host.db, v.id).map((t) => reasons(t, names, skills)),
        nowWhy: live && live.offers.length === 0 ? reasons(explain(floor.router, live, now), names, skills) : null,
      };
    }),
    legs: legsOf(host.db, c.id).map((l) => ({
      id: l.id,
      person: person(l.personId),
      acceptedAt: l.acceptedAt,
      endedAt: l.endedAt,
      outcome: past.get(l.outcome ?? '') ?? l.outcome,
      handleSeconds: l.handleSeconds,
      heldSeconds: (l.heldMs + (l.line === 'held' ? now - (l.lineSince ?? now) : 0)) / 1000,
      passedOn: l.passedOn === 1,
    })),
    messages: messagesOf(host.db, c.id).map((m) => ({
      seq: m.seq,
      from: m.sender,
      at: m.floorAt,
      text: masked(m.text),
      image: m.image,
      line: script && m.lineId !== null ? lineNumber(script, m.lineId) : null,
      name:
        m.sender === 'customer'
          ? (customer?.name ?? customer?.address ?? 'Customer')
          : m.sender === 'bot'
            ? (script?.shownName ?? 'Bot')
            : person(m.personId ?? ''),
    })),
  };
}
