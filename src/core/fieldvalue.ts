import { type AnswerWorld, readAnswer } from './bots/answers';
import type { Value } from './bots/value';

/** What a field can hold. */
export const FIELD_TYPES = ['text', 'whole', 'money', 'date', 'time', 'yes-no', 'telephone', 'email'] as const;
export type FieldType = (typeof FIELD_TYPES)[number];

/**
 * What somebody typed into a field, read as its type; null when it is not such a thing. Money is an amount with at
 * most two decimals.
 */
export function fieldValue(
  type: FieldType,
  text: string,
  world: Pick<AnswerWorld, 'language' | 'local' | 'country'>,
): Value | null {
  if (type === 'money')
    return /^\d{1,9}([.,]\d{1,2})?$/.test(text.trim()) ? Number(text.trim().replace(',', '.')) : null;
  const asked = type === 'whole' ? ({ type, least: null, most: null } as const) : { type };
  return readAnswer(asked, text, { ...world, listed: () => null });
}
