'use client';

import { useState } from 'react';
import { newChoice } from '@/core/bots/edit';
import type { Choice, Listen, Step } from '@/core/bots/model';
import { languageName } from '@/core/localised';
import { OFFERED_BY, type OfferedBy } from '@/core/messages/options';
import { Button } from '../../kit/button';
import { newKey } from '../../kit/call';
import { Input } from '../../kit/field';
import { options, Select } from '../../kit/select';
import { useAround } from './around';
import { CueSelect } from './cueselect';
import { NeedsEditor } from './needseditor';
import { Row, ValueInput } from './pieces';

const NEXT = { to: 'next' } as const;
const BY: Readonly<Record<OfferedBy, string>> = {
  keys: 'which key to press',
  words: 'what to say',
  both: 'to say it or press a key',
};

/** What a choice has beside its words, in a few of them. */
function besides(
  choice: Choice,
  intents: readonly { id: string; label: string }[],
  skills: readonly { id: string; name: string }[],
): string {
  const others = Object.values(choice.synonyms).flat().length;
  const intent = intents.find((x) => x.id === choice.intentId);
  return [
    others > 0 ? `${others} other ${others === 1 ? 'word' : 'words'}` : '',
    choice.intentId ? `means ${intent?.label ?? 'an intent that is gone'}` : '',
    choice.setsLanguage ? `goes on in ${languageName(choice.setsLanguage)}` : '',
    ...(choice.needs ?? []).map(
      (n) =>
        `needs ${skills.find((x) => x.id === n.skillId)?.name ?? 'a skill that is gone'} ${n.atLeast}${n.atMost === undefined ? '' : ` to ${n.atMost}`}`,
    ),
  ]
    .filter(Boolean)
    .join(' · ');
}

/** Choices as lines: key, words, where each leads; what else belongs to one opens below it. */
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
  const [open, setOpen] = useState<ReadonlySet<string>>(new Set());
  // A new choice is there to be worded.
  const [fresh, setFresh] = useState<string | null>(null);
  const by = step.hears.kind === 'choices' ? (step.hears.offeredBy ?? 'keys') : 'keys';
  const put = (next: readonly Choice[], offeredBy: OfferedBy = by) =>
    onChange({
      ...step,
      hears: { kind: 'choices', choices: next, ...(offeredBy === 'keys' ? {} : { offeredBy }) },
    });
  const setOne = (id: string, change: Partial<Choice>) =>
    put(choices.map((c) => (c.id === id ? { ...c, ...change } : c)));
  /** Takes a part out, since a part that is not there is not the same as an empty one. */
  const without = (choice: Choice, part: 'intentId' | 'setsLanguage' | 'needs') =>
    put(
      choices.map((c) =>
        c.id === choice.id ? (Object.fromEntries(Object.entries(c).filter(([k]) => k !== part)) as Choice) : c,
      ),
    );
  const toggle = (id: string) => {
    const next = new Set(open);
    if (!next.delete(id)) next.add(id);
    setOpen(next);
  };
  return (
    <>
      <ul className="flex flex-col divide-y divide-rule rounded-control border border-rule">
        {choices.map((c, i) => (
          <li key={c.id} className="px-2 py-1.5">
            <div className="flex items-start gap-2">
              <Input
                aria-label={`Key of choice ${i + 1}`}
                placeholder="key"
                className="!w-11 shrink-0 !px-1 !py-1 text-center"
                maxLength={1}
                value={c.key}
                onChange={(e) => {
                  if (/^[0-9*#]?$/.test(e.target.value)) setOne(c.id, { key: e.target.value });
                }}
              />
              <span className="flex min-w-0 flex-1 flex-col gap-1">
                {script.languages.map((l, first) => (
                  <Input
                    key={l}
                    aria-label={`Choice ${i + 1}, ${languageName(l)}`}
                    placeholder={languageName(l)}
                    className="!py-1"
                    maxLength={80}
                    autoFocus={first === 0 && fresh === c.id}
                    value={c.label[l] ?? ''}
                    onChange={(e) => setOne(c.id, { label: { ...c.label, [l]: e.target.value } })}
                  />
                ))}
              </span>
              <CueSelect
                label={`Choice ${i + 1} goes to`}
                cue={c.cue}
                onChange={(cue) => setOne(c.id, { cue: cue ?? NEXT })}
              />
              <Button
                small
                kind="quiet"
                className="w-14"
                aria-label={`More of choice ${i + 1}`}
                aria-expanded={open.has(c.id)}
                onClick={() => toggle(c.id)}
              >
                {open.has(c.id) ? 'Less' : 'More'}
              </Button>
              <Button
                small
                kind="quiet"
                aria-label={`Remove choice ${i + 1}`}
                onClick={() => put(choices.filter((x) => x.id !== c.id))}
              >
                ×
              </Button>
            </div>
            {!open.has(c.id) && besides(c, view.intents, view.skills) && (
              <p className="mt-1 ml-13 text-tiny text-ink-2">{besides(c, view.intents, view.skills)}</p>
            )}
            {open.has(c.id) && (
              <div className="mt-1.5 ml-13 flex flex-col gap-1.5">
                {script.languages.map((l) => (
                  <Row key={`${l}${(c.synonyms[l] ?? []).join()}`} label={`Other words, ${l}`}>
                    <Synonyms
                      label={`Other words for choice ${i + 1}, ${languageName(l)}`}
                      words={c.synonyms[l] ?? []}
                      onChange={(words) => setOne(c.id, { synonyms: { ...c.synonyms, [l]: words } })}
                    />
                  </Row>
                ))}
                <Row label="Means">
                  <Select
                    aria-label={`Choice ${i + 1} means`}
                    compact
                    value={c.intentId ?? ''}
                    onChange={(chosen) => (chosen ? setOne(c.id, { intentId: chosen }) : without(c, 'intentId'))}
                  >
                    <option value="">no intent of the phrasebook</option>
                    {c.intentId && !view.intents.some((x) => x.id === c.intentId) && (
                      <option value={c.intentId}>gone</option>
                    )}
                    {view.intents.map((x) => (
                      <option key={x.id} value={x.id}>
                        {x.label}
                      </option>
                    ))}
                  </Select>
                  goes on in{' '}
                  <Select
                    aria-label={`Choice ${i + 1} goes on in`}
                    compact
                    value={c.setsLanguage ?? ''}
                    onChange={(chosen) =>
                      chosen ? setOne(c.id, { setsLanguage: chosen }) : without(c, 'setsLanguage')
                    }
                  >
                    <option value="">the same language</option>
                    {view.languages.map((l) => (
                      <option key={l} value={l}>
                        {languageName(l)}
                      </option>
                    ))}
                  </Select>
                </Row>
                <Row label="Needs">
                  <NeedsEditor
                    label={`Choice ${i + 1} needs`}
                    needs={c.needs ?? []}
                    onChange={(needs) => (needs.length > 0 ? setOne(c.id, { needs }) : without(c, 'needs'))}
                  />
                </Row>
              </div>
            )}
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-2 text-small">
        <Button
          small
          onClick={() => {
            const id = newKey();
            setFresh(id);
            put([...choices, newChoice(id, String(choices.length + 1).slice(-1))]);
          }}
        >
          Add a choice
        </Button>
        <label className="ml-auto flex items-center gap-1.5 text-ink-2">
          Calls are told
          <Select
            aria-label="How calls are told of the choices"
            compact
            value={by}
            onChange={(chosen) => {
              const next = OFFERED_BY.find((x) => x === chosen);
              if (next) put(choices, next);
            }}
          >
            {options(OFFERED_BY, (x) => BY[x])}
          </Select>
        </label>
      </div>
    </>
  );
}

function Synonyms({
  label,
  words,
  onChange,
}: {
  label: string;
  words: readonly string[];
  onChange: (words: string[]) => void;
}) {
  return (
    <Input
      aria-label={label}
      placeholder="between commas"
      className="min-w-0 flex-1 !py-1 text-small"
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
