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
import { type Connector, replyOf, replyOfTable, requestOf, valueAt } from './connectors';
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
import { botFile, type BotFile, settled } from './file';
import { sentencesOf, withSentence } from './linesentences';
import { mapOf, mapSvg } from './map';
import { allSteps, type Step, VERBS } from './model';
import { type Clip, pasted, questionsOf, referencesOf } from './references';
import { scriptFrom } from './upgrade';
import { filled, placesIn, templateValue } from './value';
import { missingIn, readWordingCsv, withChanges, wordingCsv, wordingRows } from './wordingfile';

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
            { '==': [{ var: 'open' }, false] },
          ],
        },
        () => 'Repairs',
      ),
    ).toBe('instrument is cello and free people in Repairs is more than 0 and the door is not open'));
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

describe('values in wording', () => {
  it.each([
    ['{n as digits}', '2 0 4 8'],
    ['{d as date}', 'Thursday 24 December'],
    ['{m as money}', '€12.50'],
    ['{t as time}', '16:30'],
    ['{yes}', 'yes'],
    ['{gone}!', '!'],
    ['a {gone} b', 'a b'],
  ])('%s', (text, said) =>
    expect(
      filled(text, { n: '2048', d: '2026-12-24', m: 12.5, t: '16:30', yes: true }, 'en', true).replace(',', ''),
    ).toBe(said),
  );
  it('a template of one place keeps its type', () => {
    expect(templateValue('{n}', { n: 7 })).toBe(7);
    expect(templateValue('{n} of {n}', { n: 7 })).toBe('7 of 7');
  });
  it('places are found, each once', () => expect(placesIn('{a} {b as date} {a}')).toEqual(['a', 'b']));
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

describe('wording as CSV', () => {
  const script = {
    ...scriptOf([
      {
        id: 'a',
        verb: 'say',
        wording: { text: { en: 'Hello, "you"', es: 'Hola' }, on: { sms: { en: 'Hi' } } },
        mayInterrupt: true,
        link: null,
      } satisfies Step,
      choose('q', [choice('red', '1')], { again: { text: { en: 'Again?' } } }),
      end('e', '=1+1'),
    ]),
    languages: ['en', 'es'],
  };
  it('goes out and comes in as the same thing', () => {
    for (const language of script.languages)
      expect(readWordingCsv(script, language, wordingCsv(script, language))).toEqual({ changes: [], faults: [] });
  });
  it('what is missing is counted, and taken in from a file', () => {
    expect(missingIn(script, 'es')).toBe(4);
    const text = wordingCsv(script, 'es').replace('Again?,', 'Again?,¿Otra vez?');
    const { changes, faults } = readWordingCsv(script, 'es', text);
    expect(faults).toEqual([]);
    expect(changes.map((c) => [c.place, c.part, c.to])).toEqual([['1.2', 'wording when not understood', '¿Otra vez?']]);
    expect(missingIn(withChanges(script, 'es', changes), 'es')).toBe(3);
  });
  it.each([
    ['nonsense', 1],
    ['id,text\r\nnowhere|wording|,x', 2],
    ['id,text\r\na|wording|,x\r\na|wording|,y', 3],
    ['', 1],
  ])('a broken file names the row: %j', (text, row) =>
    expect(readWordingCsv(script, 'es', text).faults[0]?.row).toBe(row),
  );
  it('every sentence stands in it once', () => {
    const rows = wordingRows(script).map((r) => r.id);
    expect(new Set(rows).size).toBe(rows.length);
    expect(rows).toContain('a|wording|sms');
  });
});

describe('a bot as a file', () => {
  const script = scriptOf([over('h', 'queue_1', { needs: [{ skillId: 'skill_1', atLeast: 2 }] })]);
  it('carries names, by which references are found again in another workspace', () => {
    const file = JSON.parse(
      botFile(
        { name: 'Front', script, shared: [], tests: [] },
        (key) => ({ 'queue queue_1': 'Repairs', 'skill skill_1': 'Bowed' })[key],
      ),
    ) as BotFile;
    expect(file.names).toEqual({ 'queue queue_1': 'Repairs', 'skill skill_1': 'Bowed' });
    const here = settled(
      file,
      new Map([
        ['queue other', 'repairs'],
        ['skill skill_1', 'Something else here'],
      ]),
    );
    expect(here.script.scenes[0]?.steps[0]).toMatchObject({
      target: { queueId: 'other' },
      needs: [{ skillId: 'skill_1' }],
    });
    expect(settled(file, new Map()).script.scenes).toEqual(script.scenes);
  });
  it('a script kept by an earlier step of the product reads as before', () => {
    const old = {
      shownName: 'B',
      languages: ['en'],
      fallbackQueueId: 'q',
      scenes: [
        {
          id: 's',
          name: 'S',
          steps: [
            { id: 'a', verb: 'say', wording: { en: 'Hi' } },
            {
              id: 'l',
              verb: 'listen',
              wording: { en: 'Name?' },
              hears: { kind: 'text' },
              remember: 'name',
              tries: 2,
              again: {},
              otherwise: { to: 'next' },
            },
            { id: 'h', verb: 'hand-over', queueId: 'q', needs: [], priority: 1, wording: {} },
          ],
        },
      ],
    };
    expect(scriptFrom(old).scenes[0]?.steps).toMatchObject([
      { wording: { text: { en: 'Hi' } }, mayInterrupt: true },
      { hears: { kind: 'value', asked: { type: 'text' } }, into: { name: 'name', scope: 'conversation' } },
      { target: { to: 'queue', queueId: 'q' }, fields: ['name'] },
    ]);
    const now = scriptFrom(old);
    expect(scriptFrom(JSON.parse(JSON.stringify(now)))).toEqual(now);
  });
});

describe('the map', () => {
  const script = scriptOf(
    [
      say('a', 'Hello & <you>'),
      choose('q', [choice('x', '1', toScene('s2')), choice('y', '2', toLine('a'))]),
      over('h', 'repairs'),
    ],
    [end('e', 'Bye')],
  );
  it('has each line within its scene, lines below one another, and an arrow a way', () => {
    const map = mapOf(script);
    for (const scene of script.scenes) {
      const region = map.regions.find((r) => r.id === scene.id);
      for (const step of scene.steps) {
        const l = map.lines.find((x) => x.id === step.id);
        expect(l && region && l.x > region.x && l.y > region.y && l.y < region.y + region.height).toBe(true);
      }
    }
    expect(map.arrows.map((a) => a.id).sort()).toEqual(['a>next', 'e>end', 'h>person', 'q>otherwise', 'q>x', 'q>y']);
    expect(mapOf(script)).toEqual(map);
  });
  it('regions do not lie on one another', () => {
    const { regions } = mapOf(
      scriptOf(
        ...Array.from({ length: 9 }, (_, i) => [
          choose(`q${i}`, [
            choice(`x${i}`, '1', toScene(`s${((i * 3) % 9) + 1}`)),
            choice(`y${i}`, '2', toScene(`s${((i * 5 + 1) % 9) + 1}`)),
          ]),
        ]),
      ),
    );
    for (const a of regions)
      for (const b of regions)
        if (a !== b)
          expect(a.x + a.width <= b.x || b.x + b.width <= a.x || a.y + a.height <= b.y || b.y + b.height <= a.y).toBe(
            true,
          );
  });
  it('ways alongside one another do not lie on one another', () => {
    const { arrows } = mapOf(
      scriptOf(
        [
          choose(
            'q',
            Array.from({ length: 6 }, (_, i) => choice(`x${i}`, `${i}`, toScene('s2'))),
          ),
          say('n', 'Next'),
        ],
        [end('e', 'Bye')],
      ),
    );
    const tips = arrows
      .filter((a) => a.to === 'e')
      .map((a) => a.points.at(-1)?.y ?? 0)
      .sort((a, b) => a - b);
    expect(tips).toHaveLength(6);
    for (const [i, y] of tips.entries()) if (i > 0) expect(y - (tips[i - 1] ?? 0)).toBeGreaterThan(3);
    expect((tips[5] ?? 0) - (tips[0] ?? 0)).toBeLessThan(34);
  });
  it('is a drawing by itself, with wording that cannot break it', () => {
    const svg = mapSvg(script, () => 'Repairs');
    expect(svg).toMatch(/^<svg xmlns="http:\/\/www\.w3\.org\/2000\/svg"/);
    expect(svg).toContain('Hello &amp; &lt;you&gt;');
    expect(svg).toContain('Repairs');
  });
});

describe('connectors', () => {
  const get: Connector = {
    id: 'c',
    name: 'Hire',
    does: 'look-up',
    host: '',
    method: 'GET',
    path: '/hires/{number}',
    inputs: ['number', 'more'],
    outputs: [
      { name: 'day', from: 'hire.delivery.day' },
      { name: 'first', from: 'items.0' },
    ],
    timeoutSeconds: 4,
  };
  const post: Connector = { ...get, does: 'do', method: 'POST', path: '/repairs' };
  it('inputs go into the path, the query or the body, escaped', () => {
    expect(requestOf(get, { number: 'a/../b?x', more: 'é&', other: 'no' }, 'k')).toMatchObject({
      path: '/hires/a%2F..%2Fb%3Fx?more=%C3%A9%26',
      body: null,
      key: null,
    });
    expect(requestOf(post, { number: 'BH', more: '' }, 'k-1')).toMatchObject({
      path: '/repairs',
      body: '{"number":"BH"}',
      key: 'k-1',
    });
  });
  it.each([
    [
      { status: 200, body: { hire: { delivery: { day: '2026-12-01' } }, items: [3] } },
      'found',
      { day: '2026-12-01', first: 3 },
    ],
    [{ status: 404, body: null }, 'not-found', {}],
    [{ status: 500, body: null }, 'failed', {}],
    [{ status: 403, body: null }, 'failed', {}],
    [{ fault: 'no answer came in time' }, 'failed', {}],
  ])('a look-up answered %j is %s', (answer, outcome, outputs) =>
    expect(replyOf(get, answer)).toEqual({ to: 'look-up', outcome, outputs }),
  );
  it.each([
    [{ status: 201, body: null }, 'done'],
    [{ status: 409, body: null }, 'refused'],
    [{ status: 404, body: null }, 'refused'],
    [{ status: 429, body: null }, 'unsure'],
    [{ status: 503, body: null }, 'unsure'],
    [{ fault: 'x' }, 'unsure'],
  ])('a change answered %j is %s', (answer, outcome) => expect(replyOf(post, answer)).toMatchObject({ outcome }));
  it('only plain values are taken, and nothing of the machinery', () => {
    expect(valueAt({ a: { b: [] } }, 'a.b')).toBeUndefined();
    expect(valueAt({}, '__proto__.toString')).toBeUndefined();
    expect(valueAt({ a: 'x'.repeat(900) }, 'a')).toHaveLength(500);
  });
  it('a table is found by its first column, or the column named like the input', () => {
    const table = {
      columns: ['Site', 'Hours'],
      rows: [
        ['Dublin', '8 to 20'],
        ['Lisbon', '9 to 17'],
      ],
    };
    expect(replyOfTable(table, { x: 'lisbon ' })).toMatchObject({ outcome: 'found', outputs: { Hours: '9 to 17' } });
    expect(replyOfTable(table, { hours: '8 to 20' })).toMatchObject({ outputs: { Site: 'Dublin' } });
    expect(replyOfTable(table, { x: 'Paris' })).toMatchObject({ outcome: 'not-found' });
    expect(replyOfTable(table, {})).toMatchObject({ outcome: 'not-found' });
  });
});
