import { object, string } from 'yup';
import { checkBot, type BotFault } from '../core/bots/checks';
import type { BotScript } from '../core/bots/model';
import { CHANNELS, type Channel } from '../core/channels';
import { LaneError } from '../core/errors';
import { holds } from '../core/people/rights';
import { prefers } from '../core/routing/order';
import { explain } from '../core/routing/decision';
import { ableMembers } from '../core/routing/pass';
import { newVisit } from '../core/routing/visit';
import { decisionSentence, otherLines } from '../core/routing/trail';
import { publishDraft, readBot, readBots, scriptOf, setLive, versionsOf, writeDraft, type Bot, type BotVersion } from '../data/bots';
import { readPeople, readSkills, type Skill } from '../data/people';
import { readDoors, readFields, readQueue, readQueues, type Field } from '../data/settings';
import { need, needEverywhere, type Actor } from './actor';
import { scriptSchema } from './botschema';
import { recordChange, sameRevision } from './change';
import { namesFor } from './scope';
import type { Host } from './host';
import type { LiveFloor } from './livefloor';
import { exactly, id, needsSchema, oneOf, requiredText, text, whole } from './schemas';
import { parse } from './validate';

const draftSchema = exactly(object({ id: string().nullable().defined(), revision: whole(0, 1e9, 'The revision'), name: requiredText(60, 'The name'), draft: scriptSchema }));
const publishSchema = exactly(object({ id: id('The bot'), revision: whole(0, 1e9, 'The revision'), note: text(300, 'The note').defined() }));
const liveSchema = exactly(object({ id: id('The bot'), version: whole(1, 1e6, 'The version') }));
const askSchema = exactly(object({ queueId: id('The queue'), channel: oneOf<Channel>(CHANNELS, 'The channel'), needs: needsSchema }));

export type BotLine = { readonly id: string; readonly name: string; readonly liveVersion: number | null; readonly draftDiffers: boolean; readonly doors: number; readonly scenes: number; readonly lines: number };
export type BotView = {
  readonly bot: Bot; readonly versions: readonly (BotVersion & { by: string })[]; readonly faults: readonly BotFault[]; readonly draftDiffers: boolean;
  readonly queues: readonly { id: string; name: string; channels: readonly Channel[] }[]; readonly skills: readonly Skill[]; readonly fields: readonly Field[]; readonly doors: readonly { id: string; name: string; channel: Channel }[]; readonly mayChange: boolean; readonly mayPublish: boolean;
};
/** What would happen at a hand-over now: the sentence first, then everybody else by reason. */
export type WouldAsk = { readonly queue: string; readonly needs: string; readonly sentence: string; readonly others: readonly string[] };

export function createBots(host: Host, floor: LiveFloor) {
  const differs = (bot: Bot): boolean => bot.liveVersion === null || JSON.stringify(scriptOf(host.db, bot.id, bot.liveVersion)) !== JSON.stringify(bot.draft);
  const faultsOf = (botId: string, draft: BotScript): BotFault[] => checkBot(draft, {
    queues: new Map(readQueues(host.db).map((q) => [q.id, q])),
    channels: [...new Set(readDoors(host.db).filter((d) => d.botId === botId).map((d) => d.channel))],
  });
  return {
    list(actor: Actor): { bots: BotLine[]; mayChange: boolean } {
      need(actor, 'settings.view');
      const doors = readDoors(host.db);
      const bots = readBots(host.db).map((b) => ({
        id: b.id, name: b.name, liveVersion: b.liveVersion, draftDiffers: differs(b), doors: doors.filter((d) => d.botId === b.id).length,
        scenes: b.draft.scenes.length, lines: b.draft.scenes.reduce((n, s) => n + s.steps.length, 0),
      }));
      return { bots, mayChange: holds(actor, 'bots.change') };
    },
    view(actor: Actor, botId: string): BotView {
      need(actor, 'settings.view');
      const bot = readBot(host.db, botId);
      if (!bot) throw new LaneError('not-found', 'There is no such bot.');
      const names = new Map(readPeople(host.db).map((p) => [p.id, p.name]));
      return {
        bot, draftDiffers: differs(bot), faults: faultsOf(bot.id, bot.draft), versions: versionsOf(host.db, bot.id).map((v) => ({ ...v, by: names.get(v.personId) ?? 'somebody' })),
        queues: readQueues(host.db).map((q) => ({ id: q.id, name: q.name, channels: q.channels })), skills: readSkills(host.db), fields: readFields(host.db),
        doors: readDoors(host.db).filter((d) => d.botId === bot.id).map((d) => ({ id: d.id, name: d.name, channel: d.channel })),
        mayChange: holds(actor, 'bots.change'), mayPublish: holds(actor, 'bots.publish'),
      };
    },
    /** Keeps a draft; nobody meets it until it is published. */
    save(actor: Actor, input: unknown): { id: string; revision: number; faults: BotFault[] } {
      needEverywhere(actor, 'bots.change');
      const asked = parse(draftSchema, input);
      return host.transact((tx) => {
        const before = asked.id === null ? undefined : readBot(tx.db, asked.id);
        if (asked.id !== null && !before) throw new LaneError('not-found', 'This bot is not there any more.');
        sameRevision(before, asked.revision, asked.name);
        const botId = asked.id ?? tx.ids('bot');
        writeDraft(tx.db, botId, asked.name, asked.draft);
        recordChange(tx, actor, 'bot', botId, before && { name: before.name, draft: before.draft }, { name: asked.name, draft: asked.draft });
        return { id: botId, revision: (before?.revision ?? 0) + 1, faults: faultsOf(botId, asked.draft) };
      });
    },
    /** Makes the draft the next numbered version, live for the next contact at every door that uses the bot. */
    publish(actor: Actor, input: unknown): { version: number } {
      needEverywhere(actor, 'bots.publish');
      const asked = parse(publishSchema, input);
      return host.transact((tx) => {
        const bot = readBot(tx.db, asked.id);
        if (!bot) throw new LaneError('not-found', 'There is no such bot.');
        sameRevision(bot, asked.revision, bot.name);
        const stops = faultsOf(bot.id, bot.draft).filter((f) => f.weight === 'stops');
        if (stops.length > 0) throw new LaneError('cannot-publish', `Not published: ${stops[0]?.sentence ?? ''}`, stops.map((f) => ({ where: f.lineId ?? 'the script', what: f.sentence })));
        const version = publishDraft(tx.db, bot.id, asked.note, tx.realAt, actor.personId);
        recordChange(tx, actor, 'bot-live', bot.id, { version: bot.liveVersion }, { version, note: asked.note });
        return { version };
      });
    },
    /** Makes an earlier version live again. */
    goLive(actor: Actor, input: unknown): { version: number } {
      needEverywhere(actor, 'bots.publish');
      const asked = parse(liveSchema, input);
      return host.transact((tx) => {
        const bot = readBot(tx.db, asked.id);
        if (!bot || !scriptOf(tx.db, bot.id, asked.version)) throw new LaneError('not-found', 'There is no such version.');
        setLive(tx.db, bot.id, asked.version);
        recordChange(tx, actor, 'bot-live', bot.id, { version: bot.liveVersion }, { version: asked.version });
        return { version: asked.version };
      });
    },
    /** Who would be asked if a contact were handed over now, by the same rules, without asking anybody. */
    wouldAsk(actor: Actor, input: unknown): WouldAsk {
      need(actor, 'settings.view');
      const asked = parse(askSchema, input);
      const queue = readQueue(host.db, asked.queueId);
      if (!queue) throw new LaneError('not-found', 'There is no such queue.');
      const now = host.clocks.floor();
      const { visit } = newVisit(queue, 0, 0, { id: 'tried', contactId: 'tried', queueId: queue.id, channel: asked.channel, placedAt: now, handOver: asked.needs, priority: 0, familiarId: null, callback: false, because: '', passed: [] }, now);
      const { needs } = visit;
      const names = namesFor(host, actor);
      const skills = new Map(readSkills(host.db).map((s) => [s.id, s.name]));
      const first = ableMembers(floor.router, visit, now).sort((a, b) => prefers(floor.router, visit, a, b))[0]?.person;
      const trail = explain(floor.router, visit, now);
      return {
        queue: queue.name, needs: needs.map((n) => `${skills.get(n.skillId) ?? n.skillId} ${n.atLeast}`).join(', '),
        sentence: first ? `${names.get(first.id) ?? ''} would be asked first, of ${trail.able} able.` : decisionSentence(trail, (p) => names.get(p) ?? p),
        others: otherLines(trail).filter((o) => o.why !== 'left-unasked').map((o) => o.text),
      };
    },
  };
}
