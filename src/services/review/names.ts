import { CHANNEL_NAMES, CHANNELS } from '../../core/channels';
import { localised } from '../../core/localised';
import { type Step, VERB_NAMES } from '../../core/bots/model';
import { readBots, scriptOf, SHARED_SCENES } from '../../data/bots';
import { readDoors } from '../../data/doors';
import { readOutcomes } from '../../data/outcomes';
import { pastNames } from '../../data/past';
import { readPhrasebook } from '../../data/phrasebook';
import { readQueues } from '../../data/queuesettings';
import { readRetired } from '../../data/retired';
import { readSkills } from '../../data/skills';
import { readTeams } from '../../data/teams';
import { readWorkspace } from '../../data/workspace';
import { sentencesOf } from '../../core/bots/linesentences';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import { sightOf } from '../ground/scope';
import type { NarrowedBy } from './asking';

export type Choice = { readonly id: string; readonly name: string };
/**
 * By what things are told apart: what Review can be narrowed to, the lines of a bot, what
 * customers wanted of it, and the stages of a queue's wait.
 */
export type ThingKey = NarrowedBy | 'line' | 'intent' | 'stage';
/** What Review can be narrowed to, by key, as this reader may see it. */
export type Choices = { readonly [K in NarrowedBy]: readonly Choice[] };

const chosen = (all: readonly { readonly id: string; readonly name: string }[]): Choice[] =>
  all.map(({ id, name }) => ({ id, name }));

export function choicesOf(host: Host, actor: Actor): Choices {
  const sight = sightOf(host, actor);
  const languages = new Intl.DisplayNames('en', { type: 'language' });
  // What was brought in by name alone stands last; its people and queues are nobody's who has some teams.
  const past = pastNames(host.db).filter(
    ({ kind }) => actor.teams === 'all' || (kind !== 'queue' && kind !== 'person'),
  );
  const retired = readRetired(host.db);
  // What is retired stands behind what is in use: there is something to tell of it.
  const withPast = (key: NarrowedBy, own: readonly Choice[]): Choice[] => [
    ...own,
    ...chosen(retired.filter((one) => one.kind === key && (key !== 'queue' || (sight.queues?.has(one.id) ?? true)))),
    ...chosen(past.filter((one) => one.kind === key)),
  ];
  return {
    queue: withPast('queue', chosen(readQueues(host.db).filter((q) => sight.queues?.has(q.id) ?? true))),
    channel: CHANNELS.map((id) => ({ id, name: CHANNEL_NAMES[id].name })),
    door: withPast('door', chosen(readDoors(host.db))),
    team: [
      ...chosen(readTeams(host.db).filter((t) => actor.teams === 'all' || actor.teams.includes(t.id))),
      ...(actor.teams === 'all' ? chosen(retired.filter((one) => one.kind === 'team')) : []),
    ],
    person: withPast('person', sight.choice()),
    bot: withPast('bot', chosen(readBots(host.db))),
    language: (readWorkspace(host.db)?.languages ?? []).map((id) => ({ id, name: languages.of(id) ?? id })),
    outcome: withPast(
      'outcome',
      readOutcomes(host.db).map((o) => ({ id: o.code, name: o.label })),
    ),
    skill: withPast('skill', chosen(readSkills(host.db))),
  };
}
const GONE: { readonly [K in ThingKey]: string } = {
  queue: 'a queue that is gone',
  channel: 'another channel',
  door: 'a door that is gone',
  team: 'a team that is gone',
  person: 'somebody',
  bot: 'a bot that is gone',
  line: 'a line that is gone',
  intent: 'an intent that is gone',
  stage: 'a stage that is gone',
  language: 'another language',
  outcome: 'an outcome that is gone',
  skill: 'a skill that is gone',
};

/** Whether there is, or was kept under its name, such a thing. */
export function isThere(host: Host, actor: Actor, key: ThingKey, id: string): boolean {
  if (key === 'line') return linesOf(host).has(id);
  if (key === 'intent') return intentsOf(host).has(id);
  if (key === 'stage') return stageOf(id) !== null;
  return (
    choicesOf(host, actor)[key].some((one) => one.id === id) || (key === 'person' && sightOf(host, actor).names.has(id))
  );
}

/** What customers want, by the phrasebook as it is now. */
const intentsOf = ({ db }: Pick<Host, 'db'>): ReadonlyMap<string, string> =>
  new Map((readPhrasebook(db)?.book.intents ?? []).map((intent) => [intent.id, intent.label]));

/** A stage of a queue's wait clock, by its id: the queue, and how many stages had come; null for what is none. */
function stageOf(id: string): { readonly queueId: string; readonly stage: number } | null {
  const space = id.lastIndexOf(' ');
  const stage = Number(id.slice(space + 1));
  return space < 0 || !Number.isInteger(stage) ? null : { queueId: id.slice(0, space), stage };
}
function stageName(id: string, queues: ReadonlyMap<string, string> | undefined): string | undefined {
  const of = stageOf(id);
  const queue = queues?.get(of?.queueId ?? '');
  return of && queue !== undefined
    ? `${queue} ${of.stage === 0 ? 'before the first stage' : `stage ${of.stage}`}`
    : undefined;
}

/** How many characters of what a line says stand in its name. */
const WORDS = 60;
/** The lines of all bots by bot and line: the bot's name, the line's number and its first words. */
function linesOf({ db }: Pick<Host, 'db'>): ReadonlyMap<string, string> {
  const shared = SHARED_SCENES.all(db);
  const language = readWorkspace(db)?.languages[0] ?? 'en';
  const wordsOf = (step: Step | undefined) =>
    step ? localised(sentencesOf(step)[0]?.wording.text ?? {}, language) : '';
  const named = (steps: readonly Step[], i: number, scene: string): string => {
    const step = steps[i];
    const own = wordsOf(step);
    // A line that says nothing itself is known by what was said before it.
    const words = own || wordsOf(steps[i - 1]);
    const short = words.length > WORDS ? `${words.slice(0, WORDS).trimEnd()}…` : words;
    const verb = own || !step ? '' : `${VERB_NAMES[step.verb]}${short === '' ? '' : ' after '}`;
    return `${scene}${i + 1} ${verb}${short === '' ? '' : `“${short}”`}`;
  };
  return new Map(
    readBots(db).flatMap((bot) => {
      const script = (bot.liveVersion === null ? undefined : scriptOf(db, bot.id, bot.liveVersion)) ?? bot.draft;
      return [
        ...shared.map(({ steps, name }) => ({ steps, number: `${name}, ` })),
        ...script.scenes.map(({ steps }, s) => ({ steps, number: `${s + 1}.` })),
      ].flatMap(({ steps, number }) =>
        steps.map((step, i) => [`${bot.id} ${step.id}`, `${bot.name} ${named(steps, i, number)}`] as const),
      );
    }),
  );
}

/** What a thing is called; those that are gone by their kind and, where it says something, their id. */
export function namesOf(host: Host, actor: Actor): (key: ThingKey, id: string) => string {
  const choices = choicesOf(host, actor);
  const known = new Map(
    (Object.entries(choices) as [NarrowedBy, readonly Choice[]][]).map(([key, all]) => [
      key,
      new Map(all.map((one) => [one.id, one.name])),
    ]),
  );
  const people = sightOf(host, actor).names;
  let lines: ReadonlyMap<string, string> | null = null;
  let intents: ReadonlyMap<string, string> | null = null;
  const nameIn = (key: ThingKey, id: string): string | undefined => {
    if (key === 'line') return (lines ??= linesOf(host)).get(id);
    if (key === 'intent') return (intents ??= intentsOf(host)).get(id);
    if (key === 'stage') return stageName(id, known.get('queue'));
    return known.get(key)?.get(id) ?? (key === 'person' ? people.get(id) : undefined);
  };
  return (key, id) => nameIn(key, id) ?? (key === 'outcome' || key === 'language' ? id : GONE[key]);
}
