import { array, lazy, mixed, object, string, type Schema } from 'yup';
import { OPERATORS, rowFrom, type Condition } from '../core/bots/conditions';
import type { BotScript, Cue, Step } from '../core/bots/model';
import { exactly, id, languageTag, localisedSchema, needsSchema, requiredText, text, whole } from './schemas';

/** The shape of a bot's script as it comes from outside. What it means is checked by core/bots/checks. */

const cue = lazy((value: unknown): Schema<Cue> => {
  const to = typeof value === 'object' && value !== null && 'to' in value ? value.to : undefined;
  if (to === 'line') return exactly(object({ to: mixed<'line'>().oneOf(['line']).required(), lineId: id('The line') })) as Schema<Cue>;
  if (to === 'scene') return exactly(object({ to: mixed<'scene'>().oneOf(['scene']).required(), sceneId: id('The scene') })) as Schema<Cue>;
  return exactly(object({ to: mixed<'next' | 'end'>().oneOf(['next', 'end'], 'A cue must go to next, line, scene or end').required('A cue must say where it goes') })) as Schema<Cue>;
});

const condition = mixed<Condition>().required('A way has no condition').test('condition', 'A condition must compare one value with one text', (value) => {
  try {
    const row = rowFrom(value);
    return typeof row.subject === 'string' && typeof row.text === 'string' && row.text.length <= 200 && OPERATORS.includes(row.operator) && Object.keys(value).length === 1;
  } catch {
    return false;
  }
});

const synonyms = mixed<Record<string, string[]>>().required('The synonyms are missing').test('synonyms', 'Synonyms must be lists of words by language', (value) =>
  typeof value === 'object' && Object.values(value).every((words) => Array.isArray(words) && words.length <= 60 && words.every((w) => typeof w === 'string' && w.length <= 80)));

const choice = exactly(object({
  id: id('The choice'), label: localisedSchema(80, 'A choice'), key: string().matches(/^[0-9*#]?$/, 'A key must be one of 0–9, * and #').defined('The key is missing'), synonyms, cue, setsLanguage: languageTag.optional().notRequired(),
}));
const hears = lazy((value: unknown) => {
  const kind = typeof value === 'object' && value !== null && 'kind' in value ? value.kind : undefined;
  const named = { kind: mixed<'choices' | 'text'>().oneOf(['choices', 'text'], 'It must hear choices or text').required() };
  return kind === 'choices' ? exactly(object({ ...named, choices: array(choice).max(30, 'At most 30 choices').required() })) : exactly(object(named));
});

const wording = localisedSchema(2000, 'The wording');
const base = { id: id('The line'), verb: mixed<Step['verb']>().oneOf(['say', 'listen', 'branch', 'hand-over', 'end'], 'A line must begin with one of the verbs').required('A line has no verb') };
const STEPS = {
  say: exactly(object({ ...base, wording })),
  listen: exactly(object({ ...base, wording, hears, remember: text(60, 'The value’s name').matches(/^[\p{L}\p{N} _-]*$/u, 'A value’s name is letters, digits, spaces, _ and -').defined(), tries: whole(1, 9, 'The tries'), again: wording, otherwise: cue })),
  branch: exactly(object({ ...base, ways: array(exactly(object({ when: condition, cue }))).min(1, 'A branch needs at least one way').max(20).required(), otherwise: cue })),
  'hand-over': exactly(object({ ...base, queueId: id('The queue'), needs: needsSchema, priority: whole(0, 9, 'The priority'), wording })),
  end: exactly(object({ ...base, wording })),
};
const isVerb = (verb: unknown): verb is keyof typeof STEPS => typeof verb === 'string' && verb in STEPS;
const step = lazy((value: unknown): Schema => {
  const verb = typeof value === 'object' && value !== null && 'verb' in value ? value.verb : undefined;
  return isVerb(verb) ? STEPS[verb] : exactly(object(base));
});

export const scriptSchema = exactly(object({
  shownName: requiredText(40, 'The name customers see'), languages: array(languageTag).max(12).required('The languages are missing'), fallbackQueueId: id('The fallback queue'),
  scenes: array(exactly(object({ id: id('The scene'), name: requiredText(60, 'The scene’s name'), steps: array(step).max(200, 'At most 200 lines in a scene').required() }))).max(60, 'At most 60 scenes').required('The scenes are missing'),
})).test('ids', 'Two lines have the same id', (script: unknown) => {
  // Runs beside the other checks, so that nothing can be taken for granted about the shape.
  const scenes = (script as { scenes?: unknown } | null)?.scenes;
  const ids = (Array.isArray(scenes) ? scenes : []).flatMap((s: { steps?: unknown } | null) => (Array.isArray(s?.steps) ? (s.steps as ({ id?: unknown } | null)[]).map((x) => x?.id) : []));
  return new Set(ids).size === ids.length;
}) as unknown as Schema<BotScript>;
