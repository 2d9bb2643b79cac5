'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { patternFrom } from '@/core/bots/pattern';
import type { Phrasebook, Recognised, Thing } from '@/core/phrases/book';
import { languageName } from '@/core/localised';
import { Button } from '../kit/button';
import { Field, Input, Select } from '../kit/field';
import { Empty } from '../kit/panel';

type List = Extract<Recognised, { kind: 'list' }>;
type Pattern = Extract<Recognised, { kind: 'pattern' }>;

const words = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((w) => w.trim())
      .filter(Boolean),
  ),
];
/** What a value holds when this was meant: the first word for it, plainly written. */
const keptAs = (word: string): string =>
  word
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}/]+/gu, '_')
    .replace(/^_+|_+$/g, '')
    .slice(0, 50);
function free(taken: readonly string[], stem: string): string {
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}_${n}`;
    if (!taken.includes(id)) return id;
  }
}

/** Lists of things with the words for them, and patterns of references: what is picked out of a customer's phrase. */
export function ThingsView({
  book,
  languages,
  usedBy,
  mayChange,
  onChange,
}: {
  book: Phrasebook;
  languages: readonly string[];
  usedBy: Readonly<Record<string, readonly string[]>>;
  mayChange: boolean;
  onChange: (book: Phrasebook) => void;
}) {
  const put = (next: Recognised) =>
    onChange({ ...book, recognised: book.recognised.map((r) => (r.id === next.id ? next : r)) });
  const add = (made: (id: string) => Recognised) =>
    onChange({
      ...book,
      recognised: [
        ...book.recognised,
        made(
          free(
            book.recognised.map((r) => r.id),
            'new',
          ),
        ),
      ],
    });
  return (
    <div className="flex flex-col gap-5 p-4">
      {book.recognised.length === 0 && (
        <Empty title="Nothing is recognised yet">
          A list is things with the words for them; a pattern is how a reference is written.
        </Empty>
      )}
      {book.recognised.map((r) => {
        const users = usedBy[`list ${r.id}`] ?? [];
        return (
          <section key={r.id} aria-label={r.label} className="flex flex-col gap-2">
            <div className="flex items-center gap-2">
              <input
                aria-label={`Name of ${r.label}`}
                disabled={!mayChange}
                maxLength={60}
                size={Math.max(8, r.label.length)}
                value={r.label}
                onChange={(e) => put({ ...r, label: e.target.value })}
                className="rounded-control bg-transparent font-display text-panel font-semibold"
              />
              <span className="text-small text-ink-2">
                {r.kind === 'pattern'
                  ? 'a pattern of references'
                  : `${r.things.length} ${r.things.length === 1 ? 'thing' : 'things'}`}{' '}
                · {users.length === 0 ? 'listened for by no bot' : `listened for by ${users.join(', ')}`}
              </span>
              {mayChange && (
                <Button
                  small
                  kind="danger"
                  className="ml-auto"
                  disabled={users.length > 0}
                  aria-label={`Take ${r.label} out`}
                  onClick={() => onChange({ ...book, recognised: book.recognised.filter((x) => x.id !== r.id) })}
                >
                  Take out
                </Button>
              )}
            </div>
            {r.kind === 'pattern' ? (
              <PatternOf recognised={r} mayChange={mayChange} onChange={put} />
            ) : (
              <ThingsOf list={r} languages={languages} mayChange={mayChange} onChange={put} />
            )}
          </section>
        );
      })}
      {mayChange && (
        <div className="flex items-center gap-2">
          <Button small onClick={() => add((id) => ({ id, label: 'New list', kind: 'list', things: [] }))}>
            New list
          </Button>
          <Button
            small
            onClick={() =>
              add((id) => ({ id, label: 'New pattern', kind: 'pattern', pattern: '[0-9]{6}', example: '204816' }))
            }
          >
            New pattern
          </Button>
        </div>
      )}
    </div>
  );
}

function PatternOf({
  recognised,
  mayChange,
  onChange,
}: {
  recognised: Pattern;
  mayChange: boolean;
  onChange: (next: Pattern) => void;
}) {
  const compiled = patternFrom(recognised.pattern);
  const fits = recognised.example === '' || compiled?.matcher(recognised.example).find() === true;
  return (
    <div className="grid max-w-2xl grid-cols-2 gap-3">
      <Field label="Written like (RE2 pattern)" fault={compiled ? undefined : 'The pattern cannot be read.'}>
        {(p) => (
          <Input
            {...p}
            disabled={!mayChange}
            maxLength={200}
            className="font-mono text-small"
            value={recognised.pattern}
            onChange={(e) => onChange({ ...recognised, pattern: e.target.value })}
          />
        )}
      </Field>
      <Field
        label="An example"
        {...(fits
          ? { hint: recognised.example === '' ? 'Shown to whoever builds a bot' : 'It fits.' }
          : { fault: 'The example does not fit.' })}
      >
        {(p) => (
          <Input
            {...p}
            disabled={!mayChange}
            maxLength={60}
            value={recognised.example}
            onChange={(e) => onChange({ ...recognised, example: e.target.value })}
          />
        )}
      </Field>
    </div>
  );
}

/** One row a thing: what is kept when it is meant, and the words for it in each language, the first of which is its name. */
function ThingsOf({
  list,
  languages: all,
  mayChange,
  onChange,
}: {
  list: List;
  languages: readonly string[];
  mayChange: boolean;
  onChange: (next: List) => void;
}) {
  const [shown, setShown] = useState<readonly string[]>([]);
  const languages = [...new Set([...all.slice(0, 1), ...list.things.flatMap((t) => Object.keys(t.words)), ...shown])];
  const more = all.filter((l) => !languages.includes(l));
  const putThing = (at: number, next: Thing) =>
    onChange({ ...list, things: list.things.map((t, i) => (i === at ? next : t)) });
  const cell =
    'w-full rounded-control bg-transparent px-1.5 py-1 text-small disabled:text-ink-2 enabled:hover:bg-sheet enabled:focus:bg-sheet';
  return (
    <>
      {list.things.length > 0 && (
        <table className="w-full table-fixed text-left text-small">
          <thead className="text-tiny text-ink-2">
            <tr>
              <th className="w-36 px-1.5 py-1 font-medium">Kept as</th>
              {languages.map((l) => (
                <th key={l} className="px-1.5 font-medium">
                  Words, {languageName(l)}
                </th>
              ))}
              {mayChange && (
                <th className="w-10">
                  <span className="sr-only">Take out</span>
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {list.things.map((t, i) => (
              <tr key={t.id} className="border-t border-rule">
                <td className="px-1.5 font-mono text-tiny text-ink-2">{t.id}</td>
                {languages.map((l) => {
                  const now = (t.words[l] ?? []).join(', ');
                  return (
                    <td key={l}>
                      <input
                        aria-label={`${t.id}, ${languageName(l)}`}
                        lang={l}
                        disabled={!mayChange}
                        className={clsx(cell, now === '' && 'placeholder:text-brass-ink')}
                        placeholder={mayChange ? 'no word' : ''}
                        key={now}
                        defaultValue={now}
                        onBlur={(e) => {
                          const said = words(e.target.value);
                          if (said.join(', ') !== now)
                            putThing(i, {
                              ...t,
                              words: Object.fromEntries(
                                Object.entries({ ...t.words, [l]: said }).filter(([, all]) => all.length > 0),
                              ),
                            });
                        }}
                        onKeyDown={(e) => {
                          if (e.key === 'Enter') e.currentTarget.blur();
                        }}
                      />
                    </td>
                  );
                })}
                {mayChange && (
                  <td>
                    <Button
                      small
                      kind="quiet"
                      aria-label={`Take ${t.id} out`}
                      onClick={() => onChange({ ...list, things: list.things.filter((_, j) => j !== i) })}
                    >
                      ×
                    </Button>
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {mayChange && (
        <form
          className="flex gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            const input = e.currentTarget.elements.namedItem('thing');
            if (!(input instanceof HTMLInputElement)) return;
            const said = words(input.value);
            const [name] = said;
            if (!name || keptAs(name) === '') return;
            onChange({
              ...list,
              things: [
                ...list.things,
                {
                  id: free(
                    list.things.map((t) => t.id),
                    keptAs(name),
                  ),
                  words: { [languages[0] ?? 'en']: said },
                },
              ],
            });
            input.value = '';
          }}
        >
          <Input
            name="thing"
            aria-label={`New thing of ${list.label}`}
            className="!w-72 !py-1 text-small"
            placeholder="a thing, and other words for it"
            maxLength={200}
          />
          <Button small type="submit">
            Add
          </Button>
          {more.length > 0 && list.things.length > 0 && (
            <Select
              aria-label={`Words of ${list.label} in another language`}
              className="!ml-auto !w-44 !py-1 text-small"
              value=""
              onChange={(e) => {
                if (e.target.value) setShown([...shown, e.target.value]);
              }}
            >
              <option value="">another language…</option>
              {more.map((l) => (
                <option key={l} value={l}>
                  {languageName(l)}
                </option>
              ))}
            </Select>
          )}
        </form>
      )}
    </>
  );
}
