'use client';

import type { Phrasebook, Recognised } from '@/core/phrases/book';
import { Button } from '../../kit/button';
import { Empty } from '../../kit/panel';
import { PatternOf } from './patternof';
import { free, ThingsOf } from './thingsof';

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
