import { allSteps, type BotScript, type SharedScene } from './model';
import { KINDS, referencesOf, withReferences, type Reference } from './references';
import type { Trial } from './trial';

export const BOT_FORMAT = 'usher-lane-bot';
/**
 * A bot as a file: its script, the shared scenes it uses, its tests, and the names of what it refers to in its
 * workspace.
 */
export type BotFile = {
  readonly format: typeof BOT_FORMAT;
  readonly version: 1;
  readonly name: string;
  readonly script: BotScript;
  readonly shared: readonly SharedScene[];
  readonly tests: readonly Omit<Trial, 'id'>[];
  readonly names: Readonly<Record<string, string>>;
  /** The pictures it shows, as base64 by id. */ readonly images?: Readonly<Record<string, string>>;
};

const outside = (steps: BotScript['scenes'][number]['steps']): Reference[] =>
  steps.flatMap(referencesOf).filter((r) => r.kind !== 'line' && r.kind !== 'scene');

/** The pictures that some scenes show, each once. */
export const imagesIn = (scenes: readonly { readonly steps: BotScript['scenes'][number]['steps'] }[]): string[] => [
  ...new Set(
    scenes.flatMap((s) => s.steps).flatMap((step) => (step.verb === 'say' && step.image ? [step.image.imageId] : [])),
  ),
];

/** A bot as the text of a file. `nameOf` gives the name of a reference, undefined where it is gone. */
export function botFile(
  bot: {
    readonly name: string;
    readonly script: BotScript;
    readonly shared: readonly SharedScene[];
    readonly tests: readonly Trial[];
  },
  nameOf: (key: string) => string | undefined,
  imageOf: (imageId: string) => string | undefined = () => undefined,
): string {
  const references = [
    ...outside(allSteps({ scenes: [...bot.script.scenes, ...bot.shared] })),
    { kind: 'queue', id: bot.script.fallbackQueueId } as const,
  ];
  const keys = [...new Set(references.map((r) => `${r.kind} ${r.id}`))].sort();
  const names = Object.fromEntries(
    keys.flatMap((key) => {
      const name = nameOf(key);
      return name === undefined ? [] : [[key, name]];
    }),
  );
  const shown = Object.fromEntries(
    imagesIn([...bot.script.scenes, ...bot.shared]).flatMap((imageId) => {
      const data = imageOf(imageId);
      return data === undefined ? [] : [[imageId, data]];
    }),
  );
  const file: BotFile = {
    format: BOT_FORMAT,
    version: 1,
    name: bot.name,
    script: bot.script,
    shared: bot.shared,
    tests: bot.tests.map(({ id: _id, ...test }) => test),
    names,
    ...(Object.keys(shown).length > 0 ? { images: shown } : {}),
  };
  return `${JSON.stringify(file, null, 1)}\n`;
}

/**
 * A file's script and scenes in a workspace: a reference whose id is not there goes to the thing of the same kind and
 * name; what has no such name stays, and the checks name it.
 */
export function settled(file: BotFile, there: ReadonlyMap<string, string>): BotFile {
  const byName = new Map(
    [...there].map(([key, name]) => [
      `${key.split(' ')[0] ?? ''} ${name.toLowerCase()}`,
      key.slice(key.indexOf(' ') + 1),
    ]),
  );
  const to = ({ kind, id }: Reference): string => {
    const name = file.names[`${kind} ${id}`];
    return there.has(`${kind} ${id}`) || name === undefined || !KINDS.includes(kind)
      ? id
      : (byName.get(`${kind} ${name.toLowerCase()}`) ?? id);
  };
  const scene = <S extends { readonly steps: BotScript['scenes'][number]['steps'] }>(s: S): S => ({
    ...s,
    steps: s.steps.map((step) => withReferences(step, to)),
  });
  return {
    ...file,
    script: {
      ...file.script,
      fallbackQueueId: to({ kind: 'queue', id: file.script.fallbackQueueId }),
      scenes: file.script.scenes.map(scene),
    },
    shared: file.shared.map(scene),
  };
}
