import type { ArticlesView } from '@/services/bots/articles';

/** An article as it is written; `id` is null for a new one. */
export type Draft = Omit<ArticlesView['articles'][number], 'id' | 'due'> & { readonly id: string | null };

/** What is written of an article: the rest follows from it. */
export const written = ({ due: _due, ...article }: ArticlesView['articles'][number]): Draft => article;

/** The questions of an article as they are kept: without what is empty or stands twice. */
export const askedOf = ({ asks }: Pick<Draft, 'asks'>): string[] => [
  ...new Set((asks ?? []).map((q) => q.trim().slice(0, 300)).filter((q) => q !== '')),
];
