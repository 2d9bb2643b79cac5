import { type Channel, CHANNEL_NAMES } from '../channels';
import { changesRouting, type Stage } from './clock';
import type { Onward } from './onward';
import { type EntryRule, goalOf, type PickingRule, type QueueSettings } from './queue';

/** What each picking rule means, as one sentence part. */
export const RULE_WORDS: Readonly<Record<PickingRule, { readonly name: string; readonly means: string }>> = {
  'longest-idle': {
    name: 'longest since the last contact',
    means: 'Whoever has gone longest without a contact; coming on duty counts as having had one.',
  },
  'lightest-load': { name: 'lightest load', means: 'Whoever has the most of their 100 free.' },
  'fewest-open': { name: 'fewest open', means: 'Whoever has the fewest contacts open, whatever they weigh.' },
  'fewest-today': { name: 'fewest today', means: 'Whoever has taken the fewest contacts since midnight.' },
  'highest-level': {
    name: 'highest level',
    means: 'Whoever has the most levels over the skills needed; a missing skill counts 0.',
  },
  'closest-level': {
    name: 'closest level',
    means: 'Whoever is least below what is needed, then least above it, so that the best stay free.',
  },
  'share-by-weight': {
    name: 'share by weight',
    means: 'Everybody in proportion to their weight in the group; a newcomer does not catch up at once.',
  },
  'in-turn': { name: 'in turn', means: 'Everybody in turn, whatever their weight.' },
};
export const ORDER_NAMES = {
  'fair-turns': { name: 'Fair turns', means: 'Whoever has gone longest without a contact is asked first.' },
  'best-match': {
    name: 'Best match',
    means: 'Whoever knows most of what is needed is asked first; then the lightest load.',
  },
  'even-load': {
    name: 'Even load',
    means: 'Whoever has the most room is asked first; then the fewest contacts today.',
  },
} as const;

export type QueueNames = {
  readonly skill: (id: string) => string;
  readonly queue: (id: string) => string;
  readonly group: (id: string) => string;
  readonly partner: (id: string) => string;
};

const CHOICE_WORDS = { callback: 'a callback', message: 'to leave a message' } as const;

export function onwardWords(o: Onward, names: QueueNames): string {
  switch (o.to) {
    case 'end':
      return 'say so and end';
    case 'message':
      return 'take a message';
    case 'callback':
      return 'offer a callback';
    case 'queue':
      return `move to ${names.queue(o.queueId)}, keeping the wait`;
    case 'group':
      return `ask ${names.group(o.groupId)} as well`;
    case 'partner':
      return `ask ${names.partner(o.partnerId)} as well`;
    case 'scene':
      return 'go back to a scene of the bot';
  }
}
export function conditionWords({ if: c }: Pick<EntryRule, 'if'>): string {
  switch (c.when) {
    case 'closed':
      return 'closed';
    case 'nobody':
      return 'nobody on duty able at any stage';
    case 'waiting':
      return `${c.atLeast} or more waiting`;
    case 'expected':
      return `expected wait of ${c.atLeast} s or more`;
  }
}

export function stageWords(stage: Stage, names: QueueNames): string {
  const parts = stage.acts.flatMap((act): string[] => {
    switch (act.does) {
      case 'lower':
        return [`${names.skill(act.skillId)} may be ${act.by} ${act.by === 1 ? 'level' : 'levels'} lower`];
      case 'add-group':
        return [`${names.group(act.groupId)} is asked as well`];
      case 'add-partner':
        return [`${names.partner(act.partnerId)} is rung`];
      case 'raise':
        return [`priority rises by ${act.by}`];
      case 'move':
        return [onwardWords(act.onward, names)];
      case 'ask':
        return [`the customer may choose ${act.choices.map((c) => CHOICE_WORDS[c.what]).join(' or ')}`];
      case 'say':
      case 'play':
        return [];
    }
  });
  return parts.join(' and ');
}

/** The whole queue in a few sentences. */
export function queueSentences(q: QueueSettings, names: QueueNames): string[] {
  const goals = q.channels.map((c) => ({ c, goal: goalOf(q, c) }));
  const same = new Set(goals.map((g) => `${g.goal.percent} ${g.goal.seconds}`)).size === 1;
  const goalWords =
    same && goals[0]
      ? `${goals[0].goal.percent}% of them should be answered within ${goals[0].goal.seconds} s`
      : goals.map((g) => `${CHANNEL_NAMES[g.c].name} ${g.goal.percent}% within ${g.goal.seconds} s`).join(', ');
  const needs = q.needs.map(
    (n) =>
      `${names.skill(n.skillId)} ${n.atLeast}${n.atMost === undefined ? '' : ` to ${n.atMost}`}${n.firm ? ' (firm)' : ''}`,
  );
  const clocks = (Object.entries(q.clocks) as [Channel, readonly Stage[]][]).flatMap(([c, stages]) => {
    const said = stages
      .filter((s) => changesRouting(s) || s.acts.some((a) => a.does === 'ask'))
      .map(
        (s) =>
          `${s.early ? `once everybody asked is full, or after ${s.atSeconds} s,` : `after ${s.atSeconds} s`} ${stageWords(s, names)}`,
      );
    return said.length > 0 ? [`${CHANNEL_NAMES[c].name}: ${said.join('; ')}.`] : [];
  });
  const wrap = wrapUpWords(q.wrapUp);
  const offered = {
    one: 'One person is asked at a time',
    'ring-all': `Up to ${q.offering.way === 'ring-all' ? q.offering.most : 0} people are rung at once and the first to accept has it`,
    claim: 'People take contacts from a list themselves',
  }[q.offering.way];
  const familiar = q.familiar
    ? `; whoever dealt with the customer in the last ${q.familiar.days} days first, for up to ${q.familiar.holdSeconds} s`
    : '';
  return [
    `Takes ${q.channels.map((c) => CHANNEL_NAMES[c].name.toLowerCase()).join(', ')}; ${goalWords}.`,
    needs.length > 0
      ? `Whoever is asked must have ${needs.join(' and ')} or better.`.replace(/ to \d( \(firm\))? or better/, (m) =>
          m.replace(' or better', ''),
        )
      : 'No skill is needed.',
    `${offered}, by ${q.order.map((r) => RULE_WORDS[r].name).join(', then ')}${familiar}.`,
    ...q.entryRules.map((r) => `On entering, if ${conditionWords(r)}: ${onwardWords(r.then, names)}.`),
    ...clocks,
    `${wrap}.`,
  ];
}

/** How wrap-up goes, as a sentence without its full stop. */
export function wrapUpWords({ seconds, mayFinishEarly, needsOutcome }: QueueSettings['wrapUp']): string {
  if (seconds === null)
    return needsOutcome ? 'Wrap-up lasts until an outcome is filed' : 'Wrap-up lasts as long as the person likes';
  const lasts = mayFinishEarly ? `Wrap-up lasts ${seconds} s at most` : `Wrap-up lasts ${seconds} s`;
  return needsOutcome ? `${lasts}, and on until an outcome is filed` : lasts;
}
