import { languageName, localised, missingLanguages } from '../localised';
import { smsSegments } from '../messages/segments';
import { speechSeconds, ssmlFault, wordingSpeech } from '../messages/ssml';
import { rowsFrom, subjectName, subjectThing } from './conditions';
import { withoutImage } from './edit';
import { advice, type CheckWorld, type Found, put, stops } from './faults';
import { callBackFaults, handOverFaults, messageFaults } from './queuelinechecks';
import { plainWords } from './heard';
import { sentencesOf, withSentence } from './linesentences';
import { waysOf } from './lineways';
import { allSteps, type BotScript, offered, type Scene, type Step, wordingOn } from './model';
import { patternFrom } from './pattern';
import { KIND_WORDS, type ReferenceKind, referencesOf, withReferences } from './references';

/** What a line points at or names that is not there any more. */
export function referenceFaults(step: Step, script: BotScript, world: CheckWorld): Found[] {
  const found: Found[] = [];
  for (const { kind, id } of referencesOf(step)) {
    if (kind === 'line' || kind === 'scene') {
      const there =
        kind === 'line'
          ? allSteps(script).some((s) => s.id === id)
          : script.scenes.some((s) => s.id === id && s.steps.length > 0);
      const way = waysOf(step).find(
        ({ cue }) => (cue.to === 'line' && cue.lineId === id) || (cue.to === 'scene' && cue.sceneId === id),
      );
      if (!there)
        found.push(
          stops(
            'gone',
            `goes to a ${kind} that is not there${kind === 'scene' ? ' or has no line' : ''} (${way?.label ?? ''}).`,
            put('Go to the next line instead', withoutLead(step, kind, id)),
          ),
        );
    } else if (
      kind === 'shared'
        ? !world.shared.has(id)
        : kind === 'queue'
          ? !world.queues.has(id)
          : !world.names.has(`${kind} ${id}`)
    )
      found.push(stops('gone', `uses ${KIND_WORDS[kind]} that is not there any more.`));
  }
  return found;
}
const withoutLead = (step: Step, kind: ReferenceKind, id: string): Step => {
  const text = JSON.stringify(step).replaceAll(
    JSON.stringify(kind === 'line' ? { to: 'line', lineId: id } : { to: 'scene', sceneId: id }),
    '{"to":"next"}',
  );
  return JSON.parse(text) as Step;
};

/** Sentences that are missing in a language, broken, or too long to be heard or sent. */
export function wordingFaults(step: Step, script: BotScript, world: CheckWorld): Found[] {
  const found: Found[] = [];
  const channels = world.channels.length > 0 ? world.channels : (['chat'] as const);
  for (const { part, wording, needed, key } of sentencesOf(step)) {
    const missing = script.languages.filter((language) =>
      channels.some((channel) => missingLanguages(wordingOn(wording, channel), [language]).length > 0),
    );
    const anything = Object.values(wording.text).some((t) => t !== '');
    // What may be left out has to be worded in every language once it is in one.
    if ((needed || anything) && missing.length > 0) {
      const none = missing.length === script.languages.length;
      found.push(
        (none && needed ? stops : advice)(
          'wording',
          `has no ${part} in ${missing.map(languageName).join(' or ')}.`,
          none
            ? null
            : put(
                `Use the ${languageName(script.languages.find((l) => !missing.includes(l)) ?? '')} wording for now`,
                withSentence(step, key, {
                  ...wording,
                  text: {
                    ...Object.fromEntries(missing.map((l) => [l, localised(wording.text, l, script.languages)])),
                    ...wording.text,
                  },
                }),
              ),
        ),
      );
    }
    for (const language of script.languages) {
      const voice = wordingOn(wording, 'voice')[language] ?? '';
      const sms = wordingOn(wording, 'sms')[language] ?? '';
      const fault = ssmlFault(voice);
      if (fault) found.push(advice('tags', `${part} in ${languageName(language)}: ${fault}`));
      if (world.channels.includes('voice') && step.verb !== 'text-them' && speechSeconds(wordingSpeech(voice)) > 20)
        found.push(
          advice(
            'long-speech',
            `takes ${Math.round(speechSeconds(wordingSpeech(voice)))} s to say in ${languageName(language)}; over 20 s nobody remembers how it began.`,
          ),
        );
      if ((world.channels.includes('sms') || step.verb === 'text-them') && smsSegments(sms).segments > 3)
        found.push(
          advice(
            'long-text',
            `is ${smsSegments(sms).segments} SMS segments long in ${languageName(language)}; keep to 3.`,
          ),
        );
    }
  }
  return found;
}

/** What is wrong with a line by what its verb does. */
export function stepFaults(step: Step, world: CheckWorld): Found[] {
  switch (step.verb) {
    case 'say':
      return step.image && !world.names.has(`image ${step.image.imageId}`)
        ? [
            stops(
              'gone',
              'shows a picture that is not there any more.',
              put('Leave the picture out', withoutImage(step)),
            ),
          ]
        : [];
    case 'listen':
      return listenFaults(step, world);
    case 'look-up':
      return step.failed
        ? []
        : [
            stops(
              'no-failed-cue',
              'says nothing about what follows when the look-up fails.',
              put('Go on with the next line when it fails', { ...step, failed: { to: 'next' } }),
            ),
          ];
    case 'do':
      return step.unsure
        ? []
        : [
            stops(
              'no-failed-cue',
              'says nothing about what follows when it is unsure whether it was done.',
              put('Go on with the next line when unsure', { ...step, unsure: { to: 'next' } }),
            ),
          ];
    case 'branch':
      return branchFaults(step);
    case 'hand-over':
      return handOverFaults(step, world);
    case 'call-back':
      return callBackFaults(step, world);
    case 'take-message':
      return messageFaults(step, world);
    case 'articles':
      return world.names.has('articles any') ? [] : [advice('gone', 'answers from articles, and there is none yet.')];
    default:
      return [];
  }
}

function branchFaults(step: Extract<Step, { verb: 'branch' }>): Found[] {
  const rows = step.ways.map((w) => rowsFrom(w.when)?.rows ?? null);
  if (rows.some((r) => r === null || r.some((row) => row.subject === '')))
    return [stops('choices', 'has a condition that cannot be read.')];
  const open = rows
    .flatMap((r) => r ?? [])
    .find((row) => row.value === '' && row.operator !== 'is-set' && row.operator !== 'is-not-set');
  return open ? [advice('choices', `compares ${subjectName(open.subject, () => 'a queue')} with nothing yet.`)] : [];
}

function listenFaults(step: Extract<Step, { verb: 'listen' }>, world: CheckWorld): Found[] {
  const found: Found[] = [];
  if (step.otherwise === null)
    found.push(
      stops(
        'no-catch-all',
        'has no way for anything else.',
        put('Go on with the next line for anything else', { ...step, otherwise: { to: 'next' } }),
      ),
    );
  if (step.hears.kind === 'value') {
    const { asked } = step.hears;
    if (asked.type === 'pattern' && !patternFrom(asked.pattern))
      found.push(stops('choices', 'has a pattern that cannot be read.'));
    else if (asked.type === 'pattern' && asked.example && !patternFrom(asked.pattern)?.matcher(asked.example).find())
      found.push(advice('choices', 'has an example that its own pattern does not fit.'));
    return found;
  }
  const { choices } = step.hears;
  if (choices.length === 0) found.push(stops('choices', 'listens for no choice at all.'));
  const read = offered(choices).length;
  if (world.channels.includes('voice') && read > 7)
    found.push(advice('too-many-choices', `offers ${read} choices by voice; over 7 nobody remembers the first.`));
  const seen = new Set<string>();
  for (const choice of choices) {
    const words = [
      ...new Set([
        choice.key,
        ...[...Object.values(choice.label), ...Object.values(choice.synonyms).flat()].map(plainWords),
      ]),
    ].filter(Boolean);
    if (words.length === 0 && !choice.intentId)
      found.push(
        stops(
          'choices',
          'has a cue that no key, word or intent leads to.',
          put('Take the choice out', {
            ...step,
            hears: { ...step.hears, choices: choices.filter((c) => c.id !== choice.id) },
          }),
        ),
      );
    for (const word of words) {
      if (seen.has(word))
        found.push(
          stops(
            'choices',
            `has “${word}” for two choices.`,
            put(`Keep “${word}” for the first only`, {
              ...step,
              hears: { ...step.hears, choices: choices.map((c) => (c.id === choice.id ? withoutWord(c, word) : c)) },
            }),
          ),
        );
      seen.add(word);
    }
    if (choice.intentId) {
      if (seen.has(`intent ${choice.intentId}`)) found.push(stops('choices', 'has one intent for two choices.'));
      seen.add(`intent ${choice.intentId}`);
    }
  }
  return found;
}
const withoutWord = <
  C extends { readonly key: string; readonly synonyms: Readonly<Record<string, readonly string[]>> },
>(
  choice: C,
  word: string,
): C => ({
  ...choice,
  key: choice.key === word ? '' : choice.key,
  synonyms: Object.fromEntries(
    Object.entries(choice.synonyms).map(([l, words]) => [l, words.filter((w) => plainWords(w) !== word)]),
  ),
});

/**
 * Faults seen within a scene: what looks left over from a copy, and asking who is on duty where who is free is meant.
 */
export function sceneFaults(step: Step, scene: Scene, world: CheckWorld): Found[] {
  const found: Found[] = [];
  const led = [...new Set(scene.steps.flatMap((s) => (s.verb === 'hand-over' ? [s.target.queueId] : [])))];
  const asked =
    step.verb === 'count' && step.queue.by === 'name'
      ? [step.queue.queueId]
      : step.verb === 'branch'
        ? [
            ...new Set(
              step.ways
                .flatMap((w) => rowsFrom(w.when)?.rows ?? [])
                .flatMap((r) => {
                  const t = subjectThing(r.subject);
                  return t?.kind === 'queue' ? [t.id] : [];
                }),
            ),
          ]
        : [];
  const own = led[0];
  if (led.length === 1 && own !== undefined && world.queues.has(own)) {
    for (const id of asked.filter((q) => q !== own && world.queues.has(q))) {
      found.push(
        advice(
          'left-over',
          `still asks about ${world.queues.get(id)?.name ?? ''}, while this scene hands over to ` +
            `${world.queues.get(own)?.name ?? ''}: it looks left over from a copy.`,
          put(
            `Use ${world.queues.get(own)?.name ?? ''}`,
            withReferences(step, (r) => (r.kind === 'queue' && r.id === id ? own : r.id)),
          ),
        ),
      );
    }
  }
  if (
    step.verb === 'count' &&
    step.figure === 'onDuty' &&
    led.includes(step.queue.by === 'name' ? step.queue.queueId : '')
  )
    found.push(
      advice(
        'on-duty-for-free',
        'counts people on duty before handing over; people on duty may all be busy.',
        put('Count free people', { ...step, figure: 'free' }),
      ),
    );
  if (
    step.verb === 'branch' &&
    JSON.stringify(step.ways).includes('.onDuty"') &&
    led.some((q) => JSON.stringify(step.ways).includes(`queue.${q}.onDuty`))
  ) {
    found.push(
      advice(
        'on-duty-for-free',
        'asks who is on duty before handing over; people on duty may all be busy.',
        put('Ask who is free', JSON.parse(JSON.stringify(step).replace(/(queue\.[^"]+)\.onDuty/g, '$1.free')) as Step),
      ),
    );
  }
  return found;
}
