import jsonLogic from 'json-logic-js';

/** What a condition can ask about. `values.NAME` is a remembered value or field. */
export type ConditionWorld = { readonly channel: string; readonly language: string; readonly open: boolean; readonly values: Readonly<Record<string, string>> };

export const OPERATORS = ['is', 'is-not', 'contains', 'is-set', 'is-not-set'] as const;
export type Operator = (typeof OPERATORS)[number];
export const OPERATOR_WORDS: Readonly<Record<Operator, string>> = {
  is: 'is', 'is-not': 'is not', contains: 'contains', 'is-set': 'is known', 'is-not-set': 'is not known',
};

type Var = { readonly var: string };
/** The part of JsonLogic that the condition rows can write; comparisons of one variable with one text. */
export type Condition =
  | { readonly '==': [Var, string] }
  | { readonly '!=': [Var, string] }
  | { readonly in: [string, Var] }
  | { readonly '!!': [Var] }
  | { readonly '!': [Var] };

/** A condition as one row of an editor. */
export type ConditionRow = { readonly subject: string; readonly operator: Operator; readonly text: string };

export function conditionFrom({ subject, operator, text }: ConditionRow): Condition {
  const v: Var = { var: subject };
  switch (operator) {
    case 'is': return { '==': [v, text] };
    case 'is-not': return { '!=': [v, text] };
    case 'contains': return { in: [text, v] };
    case 'is-set': return { '!!': [v] };
    case 'is-not-set': return { '!': [v] };
  }
}

export function rowFrom(condition: Condition): ConditionRow {
  if ('==' in condition) return { subject: condition['=='][0].var, operator: 'is', text: condition['=='][1] };
  if ('!=' in condition) return { subject: condition['!='][0].var, operator: 'is-not', text: condition['!='][1] };
  if ('in' in condition) return { subject: condition.in[1].var, operator: 'contains', text: condition.in[0] };
  if ('!!' in condition) return { subject: condition['!!'][0].var, operator: 'is-set', text: '' };
  return { subject: condition['!'][0].var, operator: 'is-not-set', text: '' };
}

export const subjectName = (subject: string): string =>
  subject === 'open' ? 'the door is open' : subject.startsWith('values.') ? subject.slice('values.'.length) : subject;

/** A condition read as a sentence part: "instrument is cello". */
export function conditionSentence(condition: Condition): string {
  const { subject, operator, text } = rowFrom(condition);
  if (subject === 'open') return operator === 'is-not-set' ? 'the door is closed' : 'the door is open';
  const name = subjectName(subject);
  return operator === 'is-set' || operator === 'is-not-set' ? `${name} ${OPERATOR_WORDS[operator]}` : `${name} ${OPERATOR_WORDS[operator]} ${text}`;
}

/** Whether a condition holds. Text is compared without regard to case. */
export function holds(condition: Condition, world: ConditionWorld): boolean {
  const lower = Object.fromEntries(Object.entries(world.values).map(([name, value]) => [name, value.toLowerCase()]));
  const row = rowFrom(condition);
  return jsonLogic.apply(conditionFrom({ ...row, text: row.text.toLowerCase() }), { ...world, values: lower }) === true;
}
