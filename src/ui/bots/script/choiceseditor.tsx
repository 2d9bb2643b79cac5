'use client';

import { newChoice } from '@/core/bots/edit';
import type { Choice, Listen, Step } from '@/core/bots/model';
import { languageName } from '@/core/localised';
import { Button } from '../../kit/button';
import { newKey } from '../../kit/call';
import { Input } from '../../kit/field';
import { Select } from '../../kit/select';
import { useAround } from './around';
import { CueSelect } from './cueselect';
import { NeedsEditor } from './needseditor';
import { Row, ValueInput } from './pieces';

const NEXT = { to: 'next' } as const;

export function Choices({
  step,
  choices,
  onChange,
}: {
  step: Listen;
  choices: readonly Choice[];
  onChange: (step: Step) => void;
}) {
  const { script, view } = useAround();
  const set = (next: readonly Choice[]) => onChange({ ...step, hears: { kind: 'choices', choices: next } });
  const setOne = (id: string, change: Partial<Choice>) =>
    set(choices.map((c) => (c.id === id ? { ...c, ...change } : c)));
  /** Takes a part out, since a part that is not there is not the same as an empty one. */
  const without = (choice: Choice, part: 'intentId' | 'setsLanguage' | 'needs') =>
    set(
      choices.map((c) =>
        c.id === choice.id ? (Object.fromEntries(Object.entries(c).filter(([k]) => k !== part)) as Choice) : c,
      ),
    );
  return (
    <>
      <ul className="flex flex-col gap-2">
        {choices.map((c, i) => (
          <li key={c.id} className="rounded-control border border-rule p-2">
            <div className="flex flex-wrap items-center gap-2">
              <span className="text-small">
                Key{' '}
                <Input
                  aria-label={`Key of choice ${i + 1}`}
                  className="!inline-block !w-11 !py-1 text-center"
                  maxLength={1}
                  value={c.key}
                  onChange={(e) => {
                    if (/^[0-9*#]?$/.test(e.target.value)) setOne(c.id, { key: e.target.value });
                  }}
                />
              </span>
              {script.languages.map((l) => (
                <Input
                  key={l}
                  aria-label={`Choice ${i + 1}, ${languageName(l)}`}
                  placeholder={languageName(l)}
                  className="!w-36 !py-1"
                  maxLength={80}
                  value={c.label[l] ?? ''}
                  onChange={(e) => setOne(c.id, { label: { ...c.label, [l]: e.target.value } })}
                />
              ))}
              <CueSelect
                label={`Choice ${i + 1} goes to`}
                cue={c.cue}
                onChange={(cue) => setOne(c.id, { cue: cue ?? NEXT })}
              />
              <Button
                small
                kind="quiet"
                aria-label={`Remove choice ${i + 1}`}
                onClick={() => set(choices.filter((x) => x.id !== c.id))}
              >
                Remove
              </Button>
            </div>
            <div className="mt-1.5 flex flex-wrap items-center gap-2">
              {script.languages.map((l) => (
                <Synonyms
                  key={`${l}${(c.synonyms[l] ?? []).join()}`}
                  label={`Other words for choice ${i + 1}, ${languageName(l)}`}
                  placeholder={`other words, ${l}`}
                  words={c.synonyms[l] ?? []}
                  onChange={(words) => setOne(c.id, { synonyms: { ...c.synonyms, [l]: words } })}
                />
              ))}
              {view.intents.length > 0 && (
                <Select
                  aria-label={`Choice ${i + 1} means`}
                  className="!w-44 !py-1 text-small"
                  value={c.intentId ?? ''}
                  onChange={(chosen) => (chosen ? setOne(c.id, { intentId: chosen }) : without(c, 'intentId'))}
                >
                  <option value="">no intent</option>
                  {c.intentId && !view.intents.some((x) => x.id === c.intentId) && (
                    <option value={c.intentId}>gone</option>
                  )}
                  {view.intents.map((x) => (
                    <option key={x.id} value={x.id}>
                      means {x.label}
                    </option>
                  ))}
                </Select>
              )}
              <Select
                aria-label={`Choice ${i + 1} goes on in`}
                className="!w-40 !py-1 text-small"
                value={c.setsLanguage ?? ''}
                onChange={(chosen) => (chosen ? setOne(c.id, { setsLanguage: chosen }) : without(c, 'setsLanguage'))}
              >
                <option value="">same language</option>
                {view.languages.map((l) => (
                  <option key={l} value={l}>
                    goes on in {languageName(l)}
                  </option>
                ))}
              </Select>
              <NeedsEditor
                label={`Choice ${i + 1} needs`}
                needs={c.needs ?? []}
                onChange={(needs) => (needs.length > 0 ? setOne(c.id, { needs }) : without(c, 'needs'))}
              />
            </div>
          </li>
        ))}
      </ul>
      <div>
        <Button small onClick={() => set([...choices, newChoice(newKey(), String(choices.length + 1).slice(-1))])}>
          Add a choice
        </Button>
      </div>
    </>
  );
}

function Synonyms({
  label,
  placeholder,
  words,
  onChange,
}: {
  label: string;
  placeholder: string;
  words: readonly string[];
  onChange: (words: string[]) => void;
}) {
  return (
    <Input
      aria-label={label}
      placeholder={placeholder}
      title={words.length > 0 ? `${label}: ${words.join(', ')}` : label}
      className="!w-24 !py-1 text-small"
      defaultValue={words.join(', ')}
      onBlur={(e) => {
        const next = e.target.value
          .split(',')
          .map((w) => w.trim())
          .filter(Boolean);
        if (next.join() !== words.join()) onChange(next);
      }}
    />
  );
}

export function Notices({ step, onChange }: { step: Listen; onChange: (step: Step) => void }) {
  const { view } = useAround();
  if (view.lists.length === 0) return null;
  return (
    <Row label="Also notices">
      {step.notices.map((n, i) => (
        <span key={i} className="inline-flex items-center gap-1">
          <Select
            aria-label={`Noticed list ${i + 1}`}
            className="!w-32 !py-1 text-small"
            value={n.listId}
            onChange={(chosen) =>
              onChange({
                ...step,
                notices: step.notices.map((x, j) => (j === i ? { ...n, listId: chosen } : x)),
              })
            }
          >
            {view.lists.map((l) => (
              <option key={l.id} value={l.id}>
                {l.label}
              </option>
            ))}
          </Select>{' '}
          as{' '}
          <ValueInput
            label={`Noticed list ${i + 1} is remembered as`}
            className="!w-36"
            name={n.into.name}
            onChange={(name) =>
              onChange({
                ...step,
                notices: step.notices.map((x, j) => (j === i ? { ...n, into: { ...n.into, name } } : x)),
              })
            }
          />
          <Button
            small
            kind="quiet"
            aria-label={`Stop noticing list ${i + 1}`}
            onClick={() => onChange({ ...step, notices: step.notices.filter((_, j) => j !== i) })}
          >
            ×
          </Button>
        </span>
      ))}
      {step.notices.length < 6 && (
        <Button
          small
          kind="quiet"
          onClick={() =>
            onChange({
              ...step,
              notices: [
                ...step.notices,
                {
                  listId: view.lists[0]?.id ?? '',
                  into: { name: view.lists[0]?.label.toLowerCase() ?? 'noticed', scope: 'conversation' },
                },
              ],
            })
          }
        >
          Notice a list
        </Button>
      )}
    </Row>
  );
}
