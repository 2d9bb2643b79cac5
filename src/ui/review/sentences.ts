import type { Right } from '@/core/people/rights';
import type { ToldChange, ToldStanding } from '@/services/review/changes';
import { asCount, asFigure, asShare } from '../kit/figures';
import { clockWords } from './address';
import type { Opened } from './behind';

/** A sentence on what was found: what it says, what it rests on, whether it is for the better, and where to go from it. */
export type Sentence = {
  readonly key: string;
  readonly says: string;
  readonly rests: string;
  /** Null where it is neither. */
  readonly better: boolean | null;
  /** What it is now beside what it was, or what it is held against, as parts of the larger. */
  readonly bars: { readonly now: number; readonly before: number };
  readonly evidence: Opened;
  readonly evidenceWords: string;
  /** Where it leads, and the right it takes to go there. */
  readonly to: { readonly href: string; readonly words: string; readonly right: Right } | null;
};

/** Where what a sentence speaks of is set. */
function placeOf(of: string, id: string): Sentence['to'] {
  const [bot = '', line = ''] = id.split(' ');
  switch (of) {
    case 'queue':
      return { href: `/queues?queue=${encodeURIComponent(id)}`, words: 'Open the queue', right: 'settings.view' };
    case 'person':
      return { href: `/people?person=${encodeURIComponent(id)}`, words: 'Open the person', right: 'people.view' };
    case 'bot':
      return { href: `/bots/${encodeURIComponent(id)}`, words: 'Open the bot', right: 'settings.view' };
    case 'line':
      return {
        href: `/bots/${encodeURIComponent(bot)}?line=${encodeURIComponent(line)}`,
        words: 'Open the line',
        right: 'settings.view',
      };
    case 'door':
      return { href: '/doors', words: 'Open doors', right: 'settings.view' };
    case 'outcome':
      return { href: '/queues/outcomes', words: 'Open outcomes', right: 'settings.view' };
    default:
      return null;
  }
}

/** What a figure says of a thing, as a sentence; `it` is null for everything that is asked about. */
const SAYS: Readonly<Record<string, (it: string | null, value: string, more: boolean) => string>> = {
  started: (it, v, more) => `${it ?? 'All doors'}: ${more ? 'more' : 'fewer'} contacts began, ${v}`,
  offered: (it, v, more) => `${it ?? 'All queues'}: ${more ? 'more' : 'fewer'} came, ${v}`,
  handled: (it, v, more) => `“${it ?? 'Handled'}” was filed ${more ? 'more' : 'less'} often, ${v} times`,
  'service-level': (it, v) => `${it ?? 'All queues'}: ${v} answered in goal`,
  speed: (it, v, more) => `${it ?? 'All queues'}: customers wait ${more ? 'longer' : 'less'}, ${v}`,
  'gave-up': (it, v) => `${it ?? 'All queues'}: ${v} gave up waiting`,
  'handle-time': (it, v, more) => `${it ?? 'Everybody'}: a contact takes ${more ? 'longer' : 'less'}, ${v}`,
  'own-reply': (it, v, more) => `${it ?? 'Everybody'}: a first reply takes ${more ? 'longer' : 'less'}, ${v}`,
  missed: (it, v) => `${it ?? 'Everybody'}: ${v} of offers not taken`,
  bot: (it, v) => `${it ?? 'Bots'}: ${v} finished by the bot`,
  'left-bot': (it, v) => `${it ?? 'Bots'}: ${v} left in the bot`,
  'left-at-line': (it, v) => `${v} left at ${it ?? 'a line'}`,
  'missed-at-line': (it, v) => `${v} not understood at ${it ?? 'a line'}`,
};

export function changeSentence(change: ToldChange): Sentence {
  const { figure, name, kind, of, id, value, before, count, countBefore } = change;
  const more = value > before;
  const [now, was] = [asFigure(value, figure.unit), asFigure(before, figure.unit)];
  return {
    key: `${figure.id} ${of} ${id}`,
    says: SAYS[figure.id]?.(of === 'all' ? null : name, now, more) ?? `${name} ${figure.name}: ${now}`,
    rests:
      figure.unit === 'count' ? `were ${was}` : `was ${was}; of ${asCount(count)}, before of ${asCount(countBefore)}`,
    better: figure.moreIsBetter === null ? null : more === figure.moreIsBetter,
    bars: { now: value, before },
    evidence: { measure: figure.id, ...(kind ? { kind, id } : {}) },
    evidenceWords: `See the ${asCount(count)}`,
    to: of === 'all' ? null : placeOf(of, id),
  };
}

/** How many were on duty, where fewer than what came needed. */
function staffWords(staff: ToldStanding['staff']): string {
  if (!staff || Math.ceil(staff.needed) <= Math.round(staff.onDuty)) return '';
  return `; ${Math.round(staff.onDuty)} on duty, ${Math.ceil(staff.needed)} needed for all that came`;
}

export function standingSentence(standing: ToldStanding): Sentence {
  const { kind, id, name, share, count, against } = standing;
  const base = { key: `${kind} ${id}`, better: false, bars: { now: share, before: against } } as const;
  const evidenceWords = `See the ${asCount(count)}`;
  if (kind === 'peak' || kind === 'gap') {
    const { weekday, hours } = standing;
    const clock = hours === null ? '' : `${weekday ?? ''}-${hours.from}-${hours.to}`;
    const when = clock && clockWords(clock);
    return {
      ...base,
      key: `${base.key} ${clock}`,
      says: kind === 'peak' ? `${name} misses its goal${when ? `, ${when}` : ''}` : `${name} is answered late, ${when}`,
      rests:
        kind === 'peak'
          ? `${asShare(share)} of ${asCount(count)}, meant ${asShare(against)}${staffWords(standing.staff)}`
          : `${asShare(share)} in goal of ${asCount(count)}; other languages then ${asShare(against)}`,
      evidence: {
        measure: 'service-level',
        kind: kind === 'peak' ? 'queues' : 'languages',
        id,
        narrowed: clock ? { clock } : {},
      },
      evidenceWords,
      to: { href: '/people/shifts', words: 'Open the shifts', right: 'people.view' },
    };
  }
  if (kind === 'alone')
    return {
      ...base,
      key: `${base.key} ${standing.queueId} ${standing.language}`,
      says: `${name} carries ${standing.languageName ?? standing.language} in ${standing.queueName ?? 'a queue'} alone`,
      rests: `took ${asShare(share)} of ${asCount(count)}`,
      evidence: {
        measure: 'handled',
        kind: 'people',
        id,
        narrowed: { queue: standing.queueId, language: standing.language },
      },
      evidenceWords: `See the ${asCount(share * count)}`,
      to: placeOf('person', id),
    };
  if (kind === 'busy')
    return {
      ...base,
      says: `${name} hardly has a moment`,
      rests: `busy ${asShare(share)} of the time, others of the team ${asShare(against)}; ${count} days`,
      evidence: { measure: 'handled', kind: 'people', id },
      evidenceWords: 'See the contacts',
      to: placeOf('person', id),
    };
  return {
    ...base,
    says: kind === 'offers' ? `${name} leaves ${asShare(share)} of offers` : `${asShare(share)} leave at ${name}`,
    rests: `of ${asCount(count)}; ${kind === 'offers' ? 'others' : 'other lines'} ${asShare(against, 1)}`,
    evidence:
      kind === 'offers' ? { measure: 'missed', kind: 'people', id } : { measure: 'left-at-line', kind: 'lines', id },
    evidenceWords,
    to: placeOf(kind === 'offers' ? 'person' : 'line', id),
  };
}
