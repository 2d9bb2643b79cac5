import type { Connector } from '../../core/bots/connectors';
import type { BotScript } from '../../core/bots/model';
import { prepare, type Program, type Recogniser, sharedUsed } from '../../core/bots/program';
import { connectorsUsed } from '../../core/bots/references';
import { thingFinder, thingName } from '../../core/phrases/things';
import { type Pinned, readVersion, SHARED_SCENES } from '../../data/bots';
import { CONNECTORS } from '../../data/connectors';
import { bookOf, readPhrasebook } from '../../data/phrasebook';
import { readWorkspace } from '../../data/workspace';
import type { Host } from '../ground/host';

/** A script ready to run, with the connectors it asks. */
export type Ready = { readonly program: Program; readonly connectors: ReadonlyMap<string, Connector> };

/** Scripts made ready to run: published ones with all that they pin, drafts with what is there now. */
export type Programs = ReturnType<typeof createPrograms>;
export function createPrograms(host: Host) {
  // Published versions and learnt phrasebooks never change; drafts are asked for again and again while they are tried.
  const published = new Map<string, Ready>();
  const recognisers = new Map<number, Recogniser>();
  const named = (connectors: readonly Connector[]) => new Map(connectors.map((c) => [c.id, c]));

  function recogniser(version: number | null): Recogniser | null {
    if (version === null) return null;
    const known = recognisers.get(version);
    if (known) return known;
    const book = bookOf(host.db, version);
    if (book === null) return null;
    const found = thingFinder(book);
    const made: Recogniser = {
      book: version,
      thing: (listId, text) => found(text, listId)[0]?.thingId ?? null,
      thingName: (listId, thingId, language) => thingName(book, listId, thingId, language),
    };
    if (recognisers.size > 12) recognisers.clear();
    recognisers.set(version, made);
    return made;
  }
  /** What a script would be published with now. */
  function pinsOf(script: BotScript): Pinned {
    const shared = sharedUsed(
      script,
      new Map(SHARED_SCENES.all(host.db).map(({ id, name, steps, inputs }) => [id, { id, name, steps, inputs }])),
    );
    const used = new Set(connectorsUsed([...script.scenes, ...shared]));
    return {
      shared,
      phrasebook: readPhrasebook(host.db)?.version ?? null,
      connectors: CONNECTORS.all(host.db)
        .filter((c) => used.has(c.id))
        .map(({ place: _p, revision: _r, ...c }) => c),
    };
  }
  const ready = (script: BotScript, pinned: Pinned): Ready => ({
    program: prepare(script, pinned.shared, recogniser(pinned.phrasebook), readWorkspace(host.db)?.country ?? ''),
    connectors: named(pinned.connectors),
  });
  return {
    pinsOf,
    recogniser,
    of(botId: string, version: number): Ready | null {
      const key = `${botId}@${version}`;
      const known = published.get(key);
      if (known) return known;
      const found = readVersion(host.db, botId, version);
      if (!found) return null;
      const made = ready(found.script, found.pinned);
      if (published.size > 200) published.clear();
      published.set(key, made);
      return made;
    },
    draft: (script: BotScript): Ready => ready(script, pinsOf(script)),
  };
}
