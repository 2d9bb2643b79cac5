import { array, object, string } from 'yup';
import { LaneError } from '../../core/errors';
import { ssmlFault } from '../../core/messages/ssml';
import type { WordedKind } from '../../core/words/said';
import { WORDED_KINDS } from '../../core/words/said';
import { saidIn, withSaid } from '../../core/words/wordings';
import { readBots } from '../../data/bots';
import type { BotWorlds } from '../bots/botworld';
import { type Actor, mustHoldOne } from '../ground/actor';
import { announce, noteChange, type Undoable } from '../ground/change';
import type { Host, Tx } from '../ground/host';
import { exactly, id, languageTag, oneOf, requiredText } from '../ground/schemas';
import { parse } from '../ground/validate';
import { mayMend, MENDS } from './findwords';
import { noteReworded, rewordBot, type RewordedBot, type Rewording } from './rewordbot';
import { saidInPublished, versionsInUse, WORDED_NAMES, wordedThings } from './wordedthings';

/** What the functions of this file are given first. */
export type WordsDeps = {
  readonly host: Host;
  readonly worlds: BotWorlds;
  readonly undoable: Readonly<Record<string, Undoable>>;
};

const mendSchema = exactly(
  object({
    language: languageTag,
    from: requiredText(4000, 'What is mended'),
    to: requiredText(4000, 'The mended words'),
    at: array(
      exactly(
        object({
          kind: oneOf<WordedKind>(WORDED_KINDS, 'The kind'),
          id: id('The thing'),
          key: string().max(200).required('The place is missing'),
        }),
      ),
    )
      .min(1, 'Choose where')
      .max(200, 'At most 200 places at once')
      .required('The places are missing'),
  }),
);

/** What a press mended: in how many places, in which bots by which versions, and in how many conversations from now on. */
export type Mended = {
  readonly places: number;
  readonly bots: readonly RewordedBot[];
};

/**
 * Puts words in place of others, in one language, at chosen places: what is set, what is being written, and of bots what
 * customers meet (see `rewordBot`). One press is one line of History. Throws `changed-meanwhile`, and changes nothing,
 * when one of the places does not say it any more.
 */
export function mendWords(deps: WordsDeps, actor: Actor, input: unknown): Mended {
  mustHoldOne(
    actor,
    [...new Set(Object.values(MENDS).flat())].filter((right) => right !== 'bots.publish'),
  );
  const { language, from, to, at } = parse(mendSchema, input);
  const barred = at.find((place) => !mayMend(actor, place.kind));
  if (barred)
    throw new LaneError('not-allowed', `You may not change ${WORDED_NAMES[barred.kind].toLowerCase()} words.`);
  const fault = ssmlFault(from) ? null : ssmlFault(to);
  if (fault) throw new LaneError('not-valid', fault, [{ where: 'to', what: fault }]);
  return deps.host.transact((tx) => {
    const batch = tx.ids('batch');
    const bots: RewordedBot[] = [];
    for (const [kind, thingId] of new Map(at.map((p) => [`${p.kind} ${p.id}`, [p.kind, p.id] as const])).values()) {
      const keys = new Set(at.filter((p) => p.kind === kind && p.id === thingId).map((p) => p.key));
      const said = saidNow(tx, kind, thingId).filter((s) => keys.has(s.key) && s.texts[language] === from);
      if (new Set(said.map((s) => s.key)).size < keys.size)
        throw new LaneError('changed-meanwhile', 'One of these places says something else by now. Look for it again.');
      const long = said.find((s) => to.length > s.most);
      if (long)
        throw new LaneError('not-valid', `At most ${long.most} characters fit in ${long.part}.`, [
          { where: 'to', what: `is longer than ${long.most} characters` },
        ]);
      if (kind === 'bot' || kind === 'shared-scene') {
        const changes = [...new Map(said.map((s) => [s.key, s])).values()].map((s): Rewording => ({
          sharedId: kind === 'bot' ? null : thingId,
          key: s.key,
          place: s.place,
          part: s.channel ? `${s.part} ${s.channel}` : s.part,
          language,
          from,
          to,
        }));
        for (const bot of kind === 'bot' ? [{ id: thingId }] : readBots(tx.db)) {
          const done = rewordBot(tx, actor, deps.worlds, bot.id, changes);
          if (!done) continue;
          noteReworded(tx, actor, bot.id, done, changes, batch);
          bots.push(done);
        }
      }
      if (kind !== 'bot')
        rewordSet(deps, tx, actor, kind, thingId, batch, (value) => {
          let worded = value;
          for (const key of keys)
            if (saidIn(kind, worded).some((s) => s.key === key && s.texts[language] === from))
              worded = withSaid(kind, worded, key, language, to);
          return worded;
        });
    }
    return { places: at.length, bots };
  });
}

/** The sentences of a thing as they are set, and as bots say them to customers. */
function saidNow({ db }: Pick<Tx, 'db'>, kind: WordedKind, thingId: string) {
  const set = wordedThings(db).find((t) => t.kind === kind && t.id === thingId)?.said ?? [];
  if (kind !== 'bot' && kind !== 'shared-scene') return set;
  const live = readBots(db)
    .filter((bot) => kind === 'shared-scene' || bot.id === thingId)
    .flatMap((bot) => versionsInUse(db, bot))
    .flatMap((version) => saidInPublished(version, kind === 'bot' ? null : thingId));
  return [...set, ...live];
}

/** Words a thing otherwise as its undoing would: by the same checks and rights. Gives whether anything was otherwise. */
export function rewordSet(
  { undoable }: Pick<WordsDeps, 'undoable'>,
  tx: Tx,
  actor: Actor,
  kind: Exclude<WordedKind, 'bot'>,
  thingId: string,
  batch: string | null,
  // What stands in a thing as History keeps it has the shape of its kind.
  reword: (value: never) => unknown,
): boolean {
  const before = undoable[kind]?.read(tx.db, thingId, null) ?? null;
  if (before === null) return false;
  const after = reword(before as never);
  if (JSON.stringify(after) === JSON.stringify(before)) return false;
  undoable[kind]?.restore(tx, actor, thingId, after);
  noteChange(tx, actor, kind, thingId, before, after, { batch });
  announce(tx, kind, thingId);
  return true;
}
