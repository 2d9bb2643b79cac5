import type { BotScript, Choice, Listen } from './model';

/** The best that a customer can give. */
const BEST = 5;

/** What customers' answers to after-contact questions count: by the value in which one is remembered, each answer's rating. */
export type RatingsBy = ReadonlyMap<string, (answer: string) => number | null>;

const asRating = (answer: string): number | null => {
  const rating = Number(answer.trim() || NaN);
  return Number.isInteger(rating) && rating >= 1 && rating <= BEST ? rating : null;
};

/** Choices by the keys 1 to 5, whatever they are called; null where they are none of a rating. */
function ratingsOfChoices(choices: readonly Choice[]): ((answer: string) => number | null) | null {
  if (choices.length < 2 || choices.some((choice) => asRating(choice.key) === null)) return null;
  const by = new Map(
    choices.flatMap((choice) =>
      [choice.key, choice.id, ...Object.values(choice.label)].map((word) => [word, Number(choice.key)] as const),
    ),
  );
  return (answer) => by.get(answer) ?? null;
}
const ratingsOf = ({ hears }: Listen): ((answer: string) => number | null) | null =>
  hears.kind === 'choices' ? ratingsOfChoices(hears.choices) : hears.asked.type === 'whole' ? asRating : null;

/** How a script's customers rate contacts, from 1 to 5: what its after-contact scene asks for by number, or by the keys 1 to 5. */
export function ratingsBy({ scenes, afterSceneId }: Pick<BotScript, 'scenes' | 'afterSceneId'>): RatingsBy {
  const after = scenes.find((scene) => scene.id === afterSceneId);
  return new Map(
    (after?.steps ?? []).flatMap((step) => {
      const ratings = step.verb === 'listen' && step.into !== null ? ratingsOf(step) : null;
      return ratings && step.verb === 'listen' && step.into ? [[step.into.name, ratings] as const] : [];
    }),
  );
}
