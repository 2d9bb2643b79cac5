import { saidOnCalls as saidByScript } from '../../core/bots/saidoncalls';
import type { Localised } from '../../core/localised';
import { withoutTags, wordingSpeech } from '../../core/messages/ssml';
import type { QueueSettings } from '../../core/routing/queue';
import { sameWords } from '../../core/sound/recorded';
import { readBots } from '../../data/bots';
import type { Db } from '../../data/database';
import { botsOfDoor, type Door, readDoors } from '../../data/doors';
import { readQueues } from '../../data/queuesettings';
import { readWorkspace } from '../../data/workspace';

/** Words that callers hear, and where they are said. With a value in them they cannot be recorded. */
export type SaidOnCalls = {
  readonly language: string;
  readonly text: string;
  readonly valued: boolean;
  readonly where: readonly { readonly name: string; readonly path: string }[];
};

/** What a queue says to callers: on its wait clock, and where its rules or its clock send them on. */
export const saidByQueue = (queue: Pick<QueueSettings, 'clocks' | 'entryRules' | 'connect'>): readonly Localised[] => {
  const stages = queue.clocks.voice ?? [];
  return [
    ...stages.flatMap((s) =>
      s.acts.flatMap((a) =>
        a.does === 'say' || a.does === 'ask'
          ? [a.wording]
          : a.does === 'move' && 'wording' in a.onward
            ? [a.onward.wording]
            : [],
      ),
    ),
    ...queue.entryRules.flatMap((r) => ('wording' in r.then ? [r.then.wording] : [])),
    queue.connect.toCustomer,
  ];
};

const saidAtDoor = (door: Door): readonly Localised[] => [
  door.closedWording,
  ...(door.meets.by === 'people' ? [door.meets.away.wording] : []),
];

/** The bots that callers may meet: by an open door, a closed one, or where nobody is on duty. */
const botsOnCalls = (doors: readonly Door[]): ReadonlySet<string> =>
  new Set(
    doors
      .filter((d) => d.channel === 'voice')
      .flatMap((d) => [
        ...botsOfDoor(d),
        ...(d.whenClosed.does === 'bot' ? [d.whenClosed.botId] : []),
        ...(d.meets.by === 'people' && d.meets.away.then.does === 'bot' ? [d.meets.away.then.botId] : []),
      ]),
  );

/** All that callers are told, each once per language, in the drafts and settings as they are now. */
export function saidOnCalls(db: Db): SaidOnCalls[] {
  const languages = readWorkspace(db)?.languages ?? [];
  const doors = readDoors(db);
  const found = new Map<string, { language: string; text: string; valued: boolean; where: Map<string, string> }>();
  const note = (language: string, said: string, name: string, path: string): void => {
    const text = sameWords(said);
    if (text === '') return;
    const key = `${language} ${text}`;
    const there = found.get(key) ?? { language, text, valued: text.includes('{'), where: new Map<string, string>() };
    there.where.set(path, name);
    found.set(key, there);
  };
  const onCalls = botsOnCalls(doors);
  for (const bot of readBots(db).filter((b) => onCalls.has(b.id)))
    for (const language of bot.draft.languages)
      for (const { text } of saidByScript(bot.draft, language)) note(language, text, bot.name, `/bots/${bot.id}`);
  const all = (wordings: readonly Localised[], name: string, path: string): void => {
    for (const wording of wordings)
      for (const language of languages) note(language, withoutTags(wordingSpeech(wording[language] ?? '')), name, path);
  };
  for (const queue of readQueues(db).filter((q) => q.channels.includes('voice')))
    all(saidByQueue(queue), queue.name, `/queues?queue=${queue.id}`);
  for (const door of doors.filter((d) => d.channel === 'voice'))
    all(saidAtDoor(door), door.name, `/doors?door=${door.id}`);
  return [...found.values()].map(({ where, ...said }) => ({
    ...said,
    where: [...where].map(([path, name]) => ({ name, path })),
  }));
}
