import { object, string } from 'yup';
import { weekBegins } from '../../core/hours/weekly';
import { languageName } from '../../core/localised';
import { HALF_HOUR, plannedPerHalfHour } from '../../core/people/coverage';
import { holds } from '../../core/people/rights';
import { lacks } from '../../core/words/said';
import { allSteps } from '../../core/bots/model';
import { readBots } from '../../data/bots';
import type { Db } from '../../data/database';
import { readDoors } from '../../data/doors';
import { SHIFTS } from '../../data/duty';
import { readPeople } from '../../data/people';
import { readOwnLevels, readSkills } from '../../data/skills';
import { readWorkspace } from '../../data/workspace';
import { type Actor, mustHold } from '../ground/actor';
import type { Host } from '../ground/host';
import { parse } from '../ground/validate';
import { levelsNow } from '../people/peoplebook';
import { patternOf } from '../people/shifts';
import { type Gap, gapsAtDoor } from './atdoor';
import { type LanguageKind, type LanguageRow, languageRows } from './languagerows';

const askedSchema = object({ language: string().max(20) });

/** What a language has and lacks in one thing. */
export type LanguageThing = {
  readonly kind: LanguageKind;
  readonly id: string;
  readonly name: string;
  readonly path: string;
  readonly sentences: number;
  readonly lacking: number;
};
/** A door, and what its customers would meet in another language. */
export type LanguageDoor = {
  readonly id: string;
  readonly name: string;
  readonly channel: string;
  readonly revision: number;
  readonly open: boolean;
  readonly gaps: readonly Gap[];
};
export type LanguagesView = {
  /** The workspace's languages, with how many sentences there are and how many each lacks. */
  readonly languages: readonly {
    readonly tag: string;
    readonly name: string;
    readonly sentences: number;
    readonly lacking: number;
    readonly doors: number;
  }[];
  /** The language that is written first, from which others are worded. */
  readonly from: string;
  readonly language: string;
  readonly things: readonly LanguageThing[];
  readonly doors: readonly LanguageDoor[];
  readonly speakers: {
    /** Names of the skills that stand for the language. */
    readonly skills: readonly string[];
    readonly people: number;
    /** How many of them should be on duty in each half-hour of this week, from Monday in the workspace's zone. */
    readonly planned: readonly number[];
  };
  readonly mayChange: boolean;
  readonly mayOpen: boolean;
};

/** What each language of the workspace lacks, and one of them in full. */
export function viewLanguages(host: Host, actor: Actor, asked: unknown): LanguagesView {
  mustHold(actor, 'settings.view');
  const { db } = host;
  const languages = readWorkspace(db)?.languages ?? ['en'];
  const wanted = parse(askedSchema, asked).language;
  const rows = languageRows(db);
  const doors = readDoors(db);
  const lackingIn = (list: readonly LanguageRow[], tag: string): number => list.filter((r) => lacks(r, tag)).length;
  const lines = languages.map((tag) => ({
    tag,
    name: languageName(tag),
    sentences: rows.length,
    lacking: lackingIn(rows, tag),
    doors: doors.filter((d) => d.languages.includes(tag)).length,
  }));
  const language =
    languages.find((tag) => tag === wanted) ?? (lines.slice(1).find((l) => l.lacking > 0) ?? lines[0])?.tag ?? 'en';
  const everywhere = actor.teams === 'all';
  return {
    languages: lines,
    from: languages[0] ?? 'en',
    language,
    things: thingsOf(rows).map(({ list, ...thing }) => ({
      ...thing,
      sentences: list.length,
      lacking: lackingIn(list, language),
    })),
    doors: doors.map((door) => ({
      id: door.id,
      name: door.name,
      channel: door.channel,
      revision: door.revision,
      open: door.languages.includes(language),
      gaps: gapsAtDoor(db, door, language),
    })),
    speakers: speakersOf(host, actor, language),
    mayChange: everywhere && holds(actor, 'bots.change') && holds(actor, 'queues.change'),
    mayOpen: everywhere && holds(actor, 'doors.change'),
  };
}

function thingsOf(rows: readonly LanguageRow[]) {
  const things = new Map<string, Pick<LanguageThing, 'kind' | 'id' | 'name' | 'path'> & { list: LanguageRow[] }>();
  for (const row of rows) {
    const { kind, thingId: id, thing: name, path } = row;
    const at = `${kind} ${id}`;
    const there = things.get(at) ?? { kind, id, name, path, list: [] };
    there.list.push(row);
    things.set(at, there);
  }
  return [...things.values()];
}

/** Skills that stand for a language: called by its name, or needed by a choice after which a bot speaks it. */
export function skillsOfLanguage(db: Db, language: string): { readonly id: string; readonly name: string }[] {
  const spoken = readSkills(db).filter((skill) => skill.kind === 'language');
  const names = new Set(
    [languageName(language), new Intl.DisplayNames(language, { type: 'language' }).of(language) ?? ''].map((name) =>
      name.toLowerCase(),
    ),
  );
  const needed = new Set(
    readBots(db)
      .flatMap((bot) => allSteps(bot.draft))
      .flatMap((step) => (step.verb === 'listen' && step.hears.kind === 'choices' ? step.hears.choices : []))
      .flatMap((choice) => (choice.setsLanguage === language ? (choice.needs ?? []) : []))
      .map((need) => need.skillId),
  );
  return spoken.filter((skill) => needed.has(skill.id) || names.has(skill.name.toLowerCase()));
}

function speakersOf(host: Host, actor: Actor, language: string): LanguagesView['speakers'] {
  const skills = skillsOfLanguage(host.db, language);
  const now = host.times.floor();
  const own = readOwnLevels(host.db);
  // Whoever may not look at people is told nothing of them.
  const people = !holds(actor, 'people.view')
    ? []
    : readPeople(host.db).filter((p) => {
        if (!p.active || !(actor.teams === 'all' || actor.teams.includes(p.teamId))) return false;
        const levels = levelsNow(host, p, now, own.get(p.id) ?? new Map());
        return skills.some((skill) => levels.has(skill.id));
      });
  const shifts = new Map(SHIFTS.all(host.db).map((s) => [s.id, s]));
  const zone = readWorkspace(host.db)?.zone ?? 'UTC';
  const monday = weekBegins(now, zone);
  const patterns = people.flatMap((p) => patternOf({ host }, p, shifts) ?? []);
  return {
    skills: skills.map((skill) => skill.name),
    people: people.length,
    planned: patterns.length === 0 ? [] : plannedPerHalfHour(patterns, monday, (7 * 24 * 3_600_000) / HALF_HOUR),
  };
}
