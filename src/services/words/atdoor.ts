import { allSteps, type Step } from '../../core/bots/model';
import { referencesOf } from '../../core/bots/references';
import { LaneError } from '../../core/errors';
import { languageName } from '../../core/localised';
import { gapsOn } from '../../core/words/said';
import { channelOfSaid } from '../../core/words/queuewords';
import { lineOfSaid } from '../../core/words/botwords';
import { saidIn } from '../../core/words/wordings';
import { ARTICLES } from '../../data/articles';
import { readBots, readVersion } from '../../data/bots';
import type { Db } from '../../data/database';
import { botsOfDoor, type Door, readDoors } from '../../data/doors';
import { readQueues } from '../../data/queuesettings';

/** Something that customers of a door would meet in another language, or not at all. */
export type Gap = { readonly what: string; readonly path: string };

/** What customers of a door may meet, to all that they can be led to. */
type Met = { readonly doors: Set<string>; readonly bots: Set<string>; readonly queues: Set<string> };

function metAt(db: Db, door: Pick<Door, 'id' | 'botId' | 'meets' | 'whenClosed'>): Met {
  const met: Met = { doors: new Set(), bots: new Set(), queues: new Set() };
  const [bots, queues, doors] = [readBots(db), readQueues(db), readDoors(db)];
  const toQueue = (queueId: string | null): void => {
    const queue = queues.find((q) => q.id === queueId);
    if (!queue || met.queues.has(queue.id)) return;
    met.queues.add(queue.id);
    toQueue(queue.callback.queueId);
    const onward = [
      ...queue.entryRules.map((rule) => rule.then),
      ...Object.values(queue.clocks).flatMap((stages) =>
        stages.flatMap((stage) => stage.acts.flatMap((act) => (act.does === 'move' ? [act.onward] : []))),
      ),
    ];
    for (const to of onward)
      if (to.to === 'queue') toQueue(to.queueId);
      else if (to.to === 'scene') toBot(to.botId);
  };
  const toBot = (botId: string): void => {
    const bot = bots.find((b) => b.id === botId);
    if (!bot || met.bots.has(bot.id)) return;
    met.bots.add(bot.id);
    const live = bot.liveVersion === null ? undefined : readVersion(db, bot.id, bot.liveVersion);
    toQueue((live?.script ?? bot.draft).fallbackQueueId);
    for (const queueId of queuesOf(stepsOf(live))) toQueue(queueId);
  };
  const toDoor = (at: typeof door): void => {
    if (met.doors.has(at.id)) return;
    met.doors.add(at.id);
    for (const botId of botsOfDoor(at)) toBot(botId);
    if (at.meets.by === 'people') toQueue(at.meets.queueId);
    for (const then of [at.whenClosed, ...(at.meets.by === 'people' ? [at.meets.away.then] : [])]) {
      if (then.does === 'bot') toBot(then.botId);
      if (then.does === 'message' || then.does === 'callback') toQueue(then.queueId);
      if (then.does === 'door') {
        const next = doors.find((d) => d.id === then.doorId);
        if (next) toDoor(next);
      }
    }
  };
  toDoor(door);
  return met;
}
const stepsOf = (published: ReturnType<typeof readVersion>): Step[] =>
  published ? [...allSteps(published.script), ...published.pinned.shared.flatMap((scene) => scene.steps)] : [];
const queuesOf = (steps: readonly Step[]): string[] =>
  steps.flatMap((step) => referencesOf(step).flatMap((r) => (r.kind === 'queue' ? [r.id] : [])));

/** Throws `not-now`, with each of them, where customers of a door would meet a gap in a language. */
export function mustSpeak(db: Db, door: Parameters<typeof gapsAtDoor>[1], language: string): void {
  const gaps = gapsAtDoor(db, door, language);
  const [first] = gaps;
  if (!first) return;
  const others = gaps.length > 1 ? `, and ${gaps.length - 1} more` : '';
  throw new LaneError(
    'not-now',
    `${door.name} cannot be open in ${languageName(language)} yet. Missing: ${first.what}${others}.`,
    gaps.slice(0, 50).map((gap) => ({ where: gap.path, what: gap.what })),
  );
}

/**
 * What customers who come by a door would meet in another language than this one, by what is live now: the door's
 * own words, those of its bots and of the queues they lead to, and articles where a bot answers from them.
 */
export function gapsAtDoor(
  db: Db,
  door: Pick<Door, 'id' | 'name' | 'channel' | 'botId' | 'meets' | 'whenClosed' | 'closedWording'>,
  language: string,
): Gap[] {
  const { channel } = door;
  const named = languageName(language);
  const met = metAt(db, door);
  const gaps: Gap[] = [];
  for (const at of [door, ...readDoors(db).filter((d) => d.id !== door.id && met.doors.has(d.id))])
    for (const said of gapsOn(saidIn('door', at), channel, language))
      gaps.push({ what: `${at.name}: ${said.part}`, path: `/doors?door=${at.id}` });
  for (const bot of readBots(db).filter((b) => met.bots.has(b.id))) {
    const path = `/bots/${bot.id}`;
    const live = bot.liveVersion === null ? undefined : readVersion(db, bot.id, bot.liveVersion);
    if (!live) {
      gaps.push({ what: `${bot.name}: it was never published`, path });
      continue;
    }
    // All that is missing may be written already.
    if (bot.draft.languages.includes(language) && gapsOn(saidIn('bot', bot.draft), channel, language).length === 0)
      if (gapsOn(saidIn('bot', live.script), channel, language).length > 0) {
        gaps.push({ what: `${bot.name}: it is written in ${named}, and is to be published`, path });
        continue;
      }
    if (!live.script.languages.includes(language))
      gaps.push({ what: `${bot.name}: version ${bot.liveVersion} does not speak ${named}`, path });
    for (const said of gapsOn(saidIn('bot', live.script), channel, language))
      gaps.push({
        what: `${bot.name}: ${[said.place, said.part].filter(Boolean).join(' ')}`,
        path: lineOfSaid(said) === null ? path : `${path}?line=${lineOfSaid(said)}`,
      });
    for (const scene of live.pinned.shared)
      for (const said of gapsOn(saidIn('shared-scene', scene), channel, language))
        gaps.push({
          what: `${bot.name}, ${scene.name}: ${[said.place, said.part].filter(Boolean).join(' ')}`,
          path: `/bots/shared?scene=${scene.id}`,
        });
    const answers = stepsOf(live).some((step) => step.verb === 'articles');
    if (answers && !ARTICLES.all(db).some((a) => a.language === language))
      gaps.push({ what: `${bot.name} answers from articles, and there is none in ${named}`, path: '/bots/articles' });
  }
  for (const queue of readQueues(db).filter((q) => met.queues.has(q.id)))
    for (const said of gapsOn(saidIn('queue', queue), channel, language))
      if ((channelOfSaid(said) ?? channel) === channel)
        gaps.push({ what: `${queue.name}: ${said.place}, ${said.part}`, path: `/queues?queue=${queue.id}` });
  return gaps;
}
