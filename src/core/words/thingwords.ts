import type { Meets } from '../doors/doorway';
import type { Localised } from '../localised';
import type { Reword } from './said';

type WordedDoor = { readonly closedWording: Localised; readonly meets: Meets };

/** A door with each sentence that its customers meet put through `reword`. */
export function rewordDoor<D extends WordedDoor>(door: D, reword: Reword): D {
  const usual = { place: '', channel: null, needed: false, most: 500 } as const;
  const { meets } = door;
  return {
    ...door,
    closedWording: reword({ ...usual, key: 'closed', part: 'said when closed', texts: door.closedWording }),
    meets:
      meets.by === 'people'
        ? {
            ...meets,
            away: {
              ...meets.away,
              wording: reword({
                ...usual,
                key: 'away',
                part: 'said when nobody is on duty',
                texts: meets.away.wording,
              }),
            },
          }
        : meets,
  };
}

type WordedSet = {
  readonly replies: readonly { readonly id: string; readonly title: string; readonly text: Localised }[];
};

/** Stock replies with each put through `reword`. */
export const rewordReplies = <S extends WordedSet>(set: S, reword: Reword): S => ({
  ...set,
  replies: set.replies.map((reply) => ({
    ...reply,
    text: reword({
      key: `reply:${reply.id}`,
      place: reply.title,
      part: 'stock reply',
      channel: null,
      needed: true,
      most: 2000,
      texts: reply.text,
    }),
  })),
});

type WordedArticle = { readonly name: string; readonly language: string; readonly text: string };

/** An article, which is in one language, with its title and text put through `reword`; neither is ever left empty. */
export function rewordArticle<A extends WordedArticle>(article: A, reword: Reword): A {
  const put = (key: string, part: string, most: number, text: string): string =>
    reword({ key, place: '', part, channel: null, needed: true, most, texts: { [article.language]: text } })[
      article.language
    ]?.trim() || text;
  return { ...article, name: put('title', 'title', 120, article.name), text: put('text', 'text', 4000, article.text) };
}
