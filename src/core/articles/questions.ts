import { isFunctionWordAnywhere } from '../phrases/functionwords';
import { wordsOf } from '../phrases/tokens';

/**
 * The words of a question by which articles are looked up, each by its beginning, so that endings do not matter: at most
 * 300 characters of it, without function words.
 */
export const stemsOf = (question: string, language: string): string[] =>
  [...new Set(wordsOf(question.slice(0, 300), language))]
    .filter((w) => w.length > 1 && !isFunctionWordAnywhere(w))
    .map((w) => (w.length > 5 ? w.slice(0, Math.max(4, w.length - 2)) : w));

/** A question as it was asked, with how often. */
export type Asked = { readonly text: string; readonly language: string; readonly times: number };
/** Questions that ask for the same, the most frequent first; `times` is all of them together. */
export type Group = { readonly language: string; readonly times: number; readonly questions: readonly Asked[] };

/** The share of words that two questions have in common above which they are taken to ask for the same (Jaccard index). */
const ALIKE = 0.4;
const shareOf = (one: ReadonlySet<string>, other: ReadonlySet<string>): number => {
  const both = [...one].filter((s) => other.has(s)).length;
  return both === 0 ? 0 : both / (one.size + other.size - both);
};

/**
 * Questions put together that ask for the same: each goes to the group whose most frequent question is most like it, or
 * begins one of its own. The largest groups come first.
 */
export function groupsOf(asked: readonly Asked[]): Group[] {
  const groups: { readonly language: string; readonly stems: ReadonlySet<string>; readonly questions: Asked[] }[] = [];
  // Only groups with a word in common can be alike: thousands of questions need not all be compared.
  const having = new Map<string, number[]>();
  const named = ({ language, text }: Asked): string => `${text}\n${language}`;
  const often = asked.toSorted((a, b) => b.times - a.times || (named(a) < named(b) ? -1 : 1));
  for (const question of often) {
    const { language } = question;
    const stems = new Set(stemsOf(question.text, language));
    const near = new Set([...stems].flatMap((stem) => having.get(`${language} ${stem}`) ?? []));
    let [best, share]: [(typeof groups)[number] | null, number] = [null, ALIKE];
    for (const place of [...near].sort((a, b) => a - b)) {
      const group = groups[place];
      const here = group ? shareOf(group.stems, stems) : 0;
      if (group && here >= share) [best, share] = [group, here];
    }
    if (best) {
      best.questions.push(question);
      continue;
    }
    for (const stem of stems) {
      const key = `${language} ${stem}`;
      having.set(key, [...(having.get(key) ?? []), groups.length]);
    }
    groups.push({ language, stems, questions: [question] });
  }
  return groups
    .map(({ language, questions }) => ({ language, questions, times: questions.reduce((n, q) => n + q.times, 0) }))
    .sort((a, b) => b.times - a.times);
}
