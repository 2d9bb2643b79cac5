'use client';

import { clsx } from 'clsx';
import { useState } from 'react';
import { languageName } from '@/core/localised';
import type { Recognised, Thing } from '@/core/phrases/book';
import { Button } from '../../kit/button';
import { Input } from '../../kit/field';
import { options, Select } from '../../kit/select';

type List = Extract<Recognised, { kind: 'list' }>;

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

export function free(taken: readonly string[], stem: string): string {
  for (let n = 1; ; n++) {
    const id = n === 1 ? stem : `${stem}_${n}`;
    if (!taken.includes(id)) return id;
  }
}

/**
 * One row a thing: what is kept when it is meant, and the words for it in each language, the first of which is its
 * name.
 */
export function ThingsOf({
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
              onChange={(chosen) => {
                if (chosen) setShown([...shown, chosen]);
              }}
            >
              <option value="">another language…</option>
              {options(more, languageName)}
            </Select>
          )}
        </form>
      )}
    </>
  );
}
