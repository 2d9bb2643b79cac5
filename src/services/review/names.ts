import { CHANNEL_NAMES, CHANNELS } from '../../core/channels';
import { readBots } from '../../data/bots';
import { readDoors } from '../../data/doors';
import { readOutcomes } from '../../data/outcomes';
import { readQueues } from '../../data/queuesettings';
import { readSkills } from '../../data/skills';
import { readTeams } from '../../data/teams';
import { readWorkspace } from '../../data/workspace';
import type { Actor } from '../ground/actor';
import type { Host } from '../ground/host';
import { sightOf } from '../ground/scope';
import type { NarrowedBy } from './asking';

export type Choice = { readonly id: string; readonly name: string };
/** What Review can be narrowed to, by key, as this reader may see it. */
export type Choices = { readonly [K in NarrowedBy]: readonly Choice[] };

const chosen = (all: readonly { readonly id: string; readonly name: string }[]): Choice[] =>
  all.map(({ id, name }) => ({ id, name }));

export function choicesOf(host: Host, actor: Actor): Choices {
  const sight = sightOf(host, actor);
  const languages = new Intl.DisplayNames('en', { type: 'language' });
  return {
    queue: chosen(readQueues(host.db).filter((q) => sight.queues?.has(q.id) ?? true)),
    channel: CHANNELS.map((id) => ({ id, name: CHANNEL_NAMES[id].name })),
    door: chosen(readDoors(host.db)),
    team: chosen(readTeams(host.db).filter((t) => actor.teams === 'all' || actor.teams.includes(t.id))),
    person: sight.choice(),
    bot: chosen(readBots(host.db)),
    language: (readWorkspace(host.db)?.languages ?? []).map((id) => ({ id, name: languages.of(id) ?? id })),
    outcome: readOutcomes(host.db).map((o) => ({ id: o.code, name: o.label })),
    skill: chosen(readSkills(host.db)),
  };
}
const GONE: { readonly [K in NarrowedBy]: string } = {
  queue: 'a queue that is gone',
  channel: 'another channel',
  door: 'a door that is gone',
  team: 'a team that is gone',
  person: 'somebody',
  bot: 'a bot that is gone',
  language: 'another language',
  outcome: 'an outcome that is gone',
  skill: 'a skill that is gone',
};

/** Whether there is, or was kept under its name, such a thing. */
export const isThere = (host: Host, actor: Actor, key: NarrowedBy, id: string): boolean =>
  choicesOf(host, actor)[key].some((one) => one.id === id) || (key === 'person' && sightOf(host, actor).names.has(id));

/** What a thing is called; those that are gone by their kind and, where it says something, their id. */
export function namesOf(host: Host, actor: Actor): (key: NarrowedBy, id: string) => string {
  const choices = choicesOf(host, actor);
  const known = new Map(
    (Object.entries(choices) as [NarrowedBy, readonly Choice[]][]).map(([key, all]) => [
      key,
      new Map(all.map((one) => [one.id, one.name])),
    ]),
  );
  const people = sightOf(host, actor).names;
  return (key, id) =>
    known.get(key)?.get(id) ??
    (key === 'person' ? people.get(id) : undefined) ??
    (key === 'outcome' || key === 'language' ? id : GONE[key]);
}
