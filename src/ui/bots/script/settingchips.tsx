'use client';

import { useState } from 'react';
import {
  factsByNow,
  figureWords,
  peopleAsked,
  subjectName,
  SUBJECTS,
  subjectsOf,
  subjectThing,
  thingSubject,
} from '@/core/bots/conditions';
import { allSteps } from '@/core/bots/model';
import { type Behaviour, BEHAVIOURS, type Setting } from '@/core/bots/trial';
import { languageName } from '@/core/localised';
import { Button } from '../../kit/button';
import { DateTimeField } from '../../kit/datefield';
import { Dialog } from '../../kit/dialog';
import { Check, Field, Input } from '../../kit/field';
import { Select } from '../../kit/select';
import { useAround } from './around';

const WORDS: Readonly<Record<Behaviour, string>> = {
  asks: 'answers',
  found: 'answers',
  'not-found': 'finds nothing',
  slow: 'is slow',
  fails: 'fails',
};
const BEHAVIOUR_WORDS: Readonly<Record<Behaviour, string>> = {
  asks: 'really asked',
  found: 'really asked',
  'not-found': 'finds nothing; a Do is refused',
  slow: 'slow, then really asked',
  fails: 'fails; a Do is unsure',
};

/** The world a bot is tried in, in a row of chips; one press opens all of it. */
export function SettingChips({ setting, onChange }: { setting: Setting; onChange: (setting: Setting) => void }) {
  const { script, view } = useAround();
  const [open, setOpen] = useState(false);
  const steps = [...script.scenes, ...view.shared].flatMap((s) => s.steps);
  const uses = new Set(
    allSteps({ scenes: [...script.scenes, ...view.shared] }).flatMap((s) =>
      s.verb === 'do'
        ? [s.connectorId]
        : s.verb === 'look-up' && s.source.from === 'connector'
          ? [s.source.connectorId]
          : [],
    ),
  );
  const connectors = view.connectors.filter((c) => uses.has(c.id));
  const asked = new Set(steps.flatMap((s) => (s.verb === 'branch' ? s.ways.flatMap((w) => subjectsOf(w.when)) : [])));
  const queues = view.queues.filter(
    (q) =>
      steps.some((s) => s.verb === 'count' && s.queue.by === 'name' && s.queue.queueId === q.id) ||
      [...asked].some((x) => x.startsWith(`queue.${q.id}.`)) ||
      steps.some((s) => s.verb === 'count' && s.queue.by === 'value'),
  );
  /** Figures of a queue that the script asks about, each as it asks. */
  const figuresOf = (queueId: string): string[] => [
    ...new Set([
      ...[...asked].filter((subject) => subjectThing(subject)?.id === queueId),
      ...steps.flatMap((s) =>
        s.verb === 'count' && (s.queue.by === 'value' || s.queue.queueId === queueId)
          ? [thingSubject({ kind: 'queue', id: queueId, figure: s.figure, within: s.within ?? null })]
          : [],
      ),
    ]),
  ];
  const figures = Object.entries(setting.facts).flatMap(([subject, value]) => {
    const thing = subjectThing(subject);
    const q = thing?.kind === 'queue' ? view.queues.find((x) => x.id === thing.id) : undefined;
    return thing && q ? [`${String(value)} ${figureWords(thing.figure, thing.within)} in ${q.name}`] : [];
  });
  const chips = [
    `${setting.local.slice(5, 10)} ${setting.local.slice(11)}`,
    languageName(setting.language),
    setting.open ? null : 'closed',
    setting.customer,
    ...figures,
    ...connectors.map((c) => `${c.name.toLowerCase()} ${WORDS[setting.behaviours[c.id] ?? 'asks']}`),
  ].filter((c) => c !== null);
  const fact = (subject: string, value: number | string | boolean | null) => {
    const rest = Object.fromEntries(Object.entries(setting.facts).filter(([s]) => s !== subject));
    onChange({ ...setting, facts: value === null ? rest : { ...rest, [subject]: value } });
  };
  return (
    <>
      <button
        type="button"
        aria-label="Set the world it is tried in"
        onClick={() => setOpen(true)}
        className="mb-2 flex max-h-14 flex-wrap gap-1 overflow-hidden text-left"
      >
        {chips.map((c, i) => (
          <span key={i} className="rounded-full bg-sunk px-2 py-px text-tiny text-ink-2 hover:bg-chosen">
            {c}
          </span>
        ))}
      </button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title="The world it is tried in"
        description="Set by hand, so that a test is the same each time. A tried conversation begins again when something changes."
      >
        <div className="grid grid-cols-2 gap-3">
          <Field label="Language it begins in">
            {(p) => (
              <Select {...p} value={setting.language} onChange={(chosen) => onChange({ ...setting, language: chosen })}>
                {[...new Set([...script.languages, ...view.languages])].map((l) => (
                  <option key={l} value={l}>
                    {languageName(l)}
                  </option>
                ))}
              </Select>
            )}
          </Field>
          <Field label="Date and time at the door">
            {(p) => (
              <DateTimeField
                id={p.id}
                label="Date and time at the door"
                value={setting.local}
                onChange={(local) => local && onChange({ ...setting, local })}
              />
            )}
          </Field>
          <Field label="Customer" hint="Empty is somebody unknown">
            {(p) => (
              <Input
                {...p}
                maxLength={80}
                value={setting.customer ?? ''}
                onChange={(e) => onChange({ ...setting, customer: e.target.value === '' ? null : e.target.value })}
              />
            )}
          </Field>
          <div className="self-center">
            <Check
              label="the door and all hours are open"
              checked={setting.open}
              onChange={(e) => onChange({ ...setting, open: e.target.checked })}
            />
          </div>
          {connectors.map((c) => (
            <Field key={c.id} label={`${c.name}`}>
              {(p) => (
                <Select
                  {...p}
                  value={setting.behaviours[c.id] ?? 'asks'}
                  onChange={(chosen) => {
                    const behaviour = BEHAVIOURS.find((b) => b === chosen);
                    if (behaviour) onChange({ ...setting, behaviours: { ...setting.behaviours, [c.id]: behaviour } });
                  }}
                >
                  {BEHAVIOURS.filter((b) => b !== 'found').map((b) => (
                    <option key={b} value={b}>
                      {c.does === 'do' && b === 'asks' ? 'done (not really sent)' : BEHAVIOUR_WORDS[b]}
                    </option>
                  ))}
                </Select>
              )}
            </Field>
          ))}
          {queues.flatMap((q) =>
            figuresOf(q.id).map((subject) => {
              const isWait = subjectThing(subject)?.figure === 'expectedWait';
              const set = setting.facts[subject];
              return (
                <Field key={subject} label={subjectName(subject, () => q.name)}>
                  {(p) => (
                    <Input
                      {...p}
                      type="number"
                      min={0}
                      // How long it will take may not be known; how many there are always is.
                      placeholder={isWait ? 'not known' : undefined}
                      value={set === undefined ? (isWait ? '' : 0) : Number(set)}
                      onChange={(e) => {
                        if (isWait && e.target.value === '') fact(subject, null);
                        else if (!Number.isNaN(e.target.valueAsNumber))
                          fact(subject, Math.max(0, Math.round(e.target.valueAsNumber)));
                      }}
                    />
                  )}
                </Field>
              );
            }),
          )}
          {[...asked]
            .filter((subject) => (peopleAsked(subject)?.place?.kind ?? 'anywhere') !== 'queue' && peopleAsked(subject))
            .map((subject) => (
              <Field
                key={subject}
                label={subjectName(subject, (id) => view.teams.find((t) => t.id === id)?.name ?? 'a team that is gone')}
              >
                {(p) => (
                  <Input
                    {...p}
                    type="number"
                    min={0}
                    max={peopleAsked(subject)?.who === 'last' ? 1 : undefined}
                    value={Number(factsByNow(setting.facts)[subject] ?? 0)}
                    onChange={(e) => {
                      if (!Number.isNaN(e.target.valueAsNumber))
                        fact(subject, Math.max(0, Math.round(e.target.valueAsNumber)));
                    }}
                  />
                )}
              </Field>
            ))}
          {SUBJECTS.filter((s) => asked.has(s.subject) && /^(person|page)\.|^customer\.earlier/.test(s.subject)).map(
            (s) => (
              <Field key={s.subject} label={s.label}>
                {(p) =>
                  s.type === 'yes-no' ? (
                    <Select
                      {...p}
                      value={String(setting.facts[s.subject] ?? false)}
                      onChange={(chosen) => fact(s.subject, chosen === 'true')}
                    >
                      <option value="true">yes</option>
                      <option value="false">no</option>
                    </Select>
                  ) : s.type === 'text' ? (
                    <Input
                      {...p}
                      maxLength={200}
                      value={String(setting.facts[s.subject] ?? '')}
                      onChange={(e) => fact(s.subject, e.target.value === '' ? null : e.target.value)}
                    />
                  ) : (
                    <Input
                      {...p}
                      type="number"
                      min={0}
                      value={Number(setting.facts[s.subject] ?? 0)}
                      onChange={(e) => {
                        if (!Number.isNaN(e.target.valueAsNumber)) fact(s.subject, e.target.valueAsNumber);
                      }}
                    />
                  )
                }
              </Field>
            ),
          )}
        </div>
        <div className="mt-4">
          <Button kind="primary" onClick={() => setOpen(false)}>
            Done
          </Button>
        </div>
      </Dialog>
    </>
  );
}
