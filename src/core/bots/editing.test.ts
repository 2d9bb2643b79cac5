import { describe, expect, it } from 'vitest';
import {
  choice,
  choose,
  end,
  lookUp,
  NEXT,
  over,
  say,
  scriptOf,
  toLine,
  toScene,
} from '../../../tests/helpers/scripts';
import { type Condition, conditionFrom, conditionSentence, holds, rowsFrom } from './conditions';
import { differences } from './difference';
import {
  addScene,
  addSteps,
  cueWords,
  duplicateSteps,
  moveScene,
  moveSteps,
  newStep,
  relink,
  removeScene,
  removeSteps,
  usersOf,
} from './edit';
import { sentencesOf, withSentence } from './linesentences';
import { allSteps, type Step, VERBS } from './model';
import { type Clip, pasted, questionsOf, referencesOf } from './references';

let n = 0;
const newId = () => `new${++n}`;
const ids = (steps: readonly Step[]) => steps.map((s) => s.id).join('');
const DEFAULTS = { queueId: 'q', connectorId: 'c', doId: 'd', sharedId: 's' };

describe('edits', () => {
  const script = scriptOf([say('a', 'A'), say('b', 'B'), say('c', 'C'), say('d', 'D')], [end('e', 'E')]);
  it('lines move together, and stay at the edge', () => {
    expect(ids(allSteps(moveSteps(script, ['b', 'c'], 1)))).toBe('adbce');
    expect(ids(allSteps(moveSteps(script, ['b', 'c'], -1)))).toBe('bcade');
    expect(moveSteps(script, ['a'], -1)).toEqual(script);
    expect(moveSteps(script, ['c', 'd'], 1)).toEqual(script);
  });
  it('copies have ids of their own, and ways among them stay among them', () => {
    const { script: next, copies } = duplicateSteps(
      scriptOf([
        choose('a', [choice('x', '1', toLine('b')), choice('y', '2', toLine('z'))]),
        say('b', 'B'),
        say('z', 'Z'),
      ]),
      ['a', 'b'],
      newId,
    );
    expect(allSteps(next)).toHaveLength(5);
    const [first, second] = copies;
    expect(
      first?.verb === 'listen' && first.hears.kind === 'choices' ? first.hears.choices.map((c) => c.cue) : null,
    ).toEqual([toLine(second?.id ?? ''), toLine('z')]);
    expect(ids(allSteps(next))).toBe(`ab${first?.id ?? ''}${second?.id ?? ''}z`);
  });
  it('scenes are added, moved and removed; the one after the contact is forgotten with it', () => {
    const more = addScene(script, 's3', 'Three');
    expect(moveScene(more, 's3', -1).scenes.map((s) => s.id)).toEqual(['s1', 's3', 's2']);
    expect(removeScene({ ...more, afterSceneId: 's3' }, 's3').afterSceneId).toBeNull();
  });
  it('the old script stays as it was', () => {
    const before = JSON.stringify(script);
    addSteps(removeSteps(script, ['a']), 's1', [say('x', 'X')], 0);
    expect(JSON.stringify(script)).toBe(before);
  });
  it('a way is pointed somewhere else, and who leads to a line is known', () => {
    const s = relink(
      scriptOf(
        [choose('q', [choice('x', '1')], { otherwise: toScene('s2') }), say('a', 'A'), say('b', 'B')],
        [end('e')],
      ),
      'q',
      'x',
      toLine('b'),
    );
    expect(usersOf(s, 'b')).toEqual(['q', 'a']);
    expect(usersOf(s, 'e')).toEqual(['q']);
    expect(cueWords(s, toLine('b'))).toBe('1.3');
    expect(cueWords(s, toScene('s2'))).toBe('2 Scene 2');
    expect(cueWords(s, toLine('gone'))).toBeNull();
  });
  it.each(VERBS)('a new %s is a whole line, whose sentences can be put in', (verb) => {
    const step = newStep(verb, 'x', DEFAULTS);
    for (const { key } of sentencesOf(step))
      expect(
        sentencesOf(withSentence(step, key, { text: { en: 'words' } })).find((s) => s.key === key)?.wording.text,
      ).toEqual({ en: 'words' });
  });
});

describe('cut and paste', () => {
  const lines: Step[] = [
    choose('a', [
      choice('x', '1', toLine('b')),
      choice('y', '2', toScene('s9'), { needs: [{ skillId: 'bow', atLeast: 2 }], intentId: 'fix' }),
    ]),
    over('b', 'repairs', { needs: [{ skillId: 'es', atLeast: 3 }] }),
    lookUp('l'),
  ];
  const clip: Clip = { format: 'usher-lane-lines', steps: lines, names: { 'queue repairs': 'Repairs' } };
  it('a question for each reference that does not come along', () =>
    expect(
      questionsOf(clip)
        .map((r) => `${r.kind} ${r.id}`)
        .sort(),
    ).toEqual(['connector c', 'intent fix', 'queue repairs', 'scene s9', 'skill bow', 'skill es']));
  it('what was decided is put in; what was not stays; lines among themselves follow', () => {
    const [a, b] = pasted(clip, newId, { 'queue repairs': 'billing', 'scene s9': 'next', 'skill es': 'fr' });
    expect(a?.verb === 'listen' && a.hears.kind === 'choices' ? a.hears.choices.map((c) => c.cue) : null).toEqual([
      toLine(b?.id ?? ''),
      NEXT,
    ]);
    expect(b).toMatchObject({ target: { queueId: 'billing' }, needs: [{ skillId: 'fr', atLeast: 3 }] });
    expect(lines[1]).toMatchObject({ target: { queueId: 'repairs' } });
  });
  it('conditions carry references too', () =>
    expect(
      referencesOf({
        id: 'x',
        verb: 'branch',
        ways: [
          {
            when: { and: [{ '>': [{ var: 'queue.repairs.free' }, 0] }, { '==': [{ var: 'hours.day.open' }, true] }] },
            cue: NEXT,
          },
        ],
        otherwise: NEXT,
      }),
    ).toEqual([
      { kind: 'queue', id: 'repairs' },
      { kind: 'hours', id: 'day' },
    ]));
});

describe('conditions', () => {
  it('rows and JsonLogic are the same thing', () => {
    const rows = {
      join: 'any' as const,
      rows: [
        { subject: 'values.x', operator: 'contains' as const, value: 'cello' },
        { subject: 'queue.q.free', operator: 'at-least' as const, value: 2 },
        { subject: 'values.y', operator: 'is-not-set' as const, value: '' },
      ],
    };
    expect(rowsFrom(conditionFrom(rows))).toEqual(rows);
    expect(conditionFrom(rows)).toEqual({
      or: [
        { in: ['cello', { var: 'values.x' }] },
        { '>=': [{ var: 'queue.q.free' }, 2] },
        { '!': [{ var: 'values.y' }] },
      ],
    });
  });
  it('read as a sentence', () =>
    expect(
      conditionSentence(
        {
          and: [
            { '==': [{ var: 'values.instrument' }, 'cello'] },
            { '>': [{ var: 'queue.q1.free' }, 0] },
            { '<': [{ var: 'queue.q1.able:20' }, 2] },
            { '==': [{ var: 'queue.q1.onDuty:0' }, 1] },
            { '==': [{ var: 'open' }, false] },
          ],
        },
        () => 'Repairs',
      ),
    ).toBe(
      'instrument is cello and free people at any stage in Repairs is more than 0 and people able within 20 s in Repairs is less than 2 and people on duty now in Repairs is 1 and the door is not open',
    ));
  it.each<[Condition, Record<string, string | number | boolean>, boolean]>([
    [{ '==': [{ var: 'values.x' }, 'Cello'] }, { x: 'cello' }, true],
    [{ '!=': [{ var: 'values.x' }, 'cello'] }, {}, true],
    [{ in: ['CEL', { var: 'values.x' }] }, { x: 'a cello' }, true],
    [{ '>': [{ var: 'values.n' }, 3] }, { n: 4 }, true],
    [{ '>': [{ var: 'values.n' }, 3] }, {}, false],
    [{ '<': [{ var: 'values.n' }, 3] }, {}, false],
    [{ '==': [{ var: 'values.n' }, 4] }, { n: '4' }, true],
    [{ '!!': [{ var: 'values.x' }] }, { x: 'a' }, true],
    [{ '!': [{ var: 'values.x' }] }, {}, true],
    [{ '==': [{ var: 'values.b' }, true] }, { b: true }, true],
    [{ '==': [{ var: 'values.b' }, 'yes'] }, { b: true }, true],
    [{ '==': [{ var: 'values.b' }, 'no'] }, { b: true }, false],
    [{ '==': [{ var: 'values.__proto__' }, 'x'] }, {}, false],
  ])('%j of %j: %s', (when, values, expected) => expect(holds(when, values, {})).toBe(expected));
  it('what rows cannot write is not a condition', () => {
    for (const x of [
      null,
      7,
      {},
      { and: [] },
      { and: [{ or: [] }] },
      { '==': [1, 2] },
      { '==': [{ var: 'x' }] },
      { map: [{ var: 'x' }, 1] },
      { '>': [{ var: 'x' }, Number.NaN] },
    ])
      expect(rowsFrom(x)).toBeNull();
  });
});

describe('differences', () => {
  it('read as sentences, with the line', () => {
    const before = scriptOf([
      say('a', 'Hello'),
      choose('q', [choice('x', '1', toLine('h'))]),
      over('h', 'repairs'),
      say('g', 'gone soon'),
    ]);
    const after = scriptOf(
      [
        say('a', 'Good day'),
        choose('q', [choice('x', '1', toScene('s2'))], { tries: 3 }),
        over('h', 'billing', { needs: [{ skillId: 'es', atLeast: 3 }] }),
      ],
      [end('z', 'Bye')],
    );
    expect(
      differences(before, after, (id) => ({ repairs: 'Repairs', billing: 'Billing', es: 'Spanish' })[id] ?? id).map(
        (d) => d.sentence,
      ),
    ).toEqual([
      'The scene Scene 2 is new, with 1 line.',
      '1.1 says “Good day” instead of “Hello” (wording, English).',
      '1.2 goes to 2 Scene 2 instead of 1.3 (x).',
      '1.2 asks 3 times instead of 2.',
      '1.3 hands over to Billing instead of Repairs.',
      '1.3 needs Spanish 3 instead of nothing.',
      '1.4 Say is gone: “gone soon”.',
    ]);
  });
});
