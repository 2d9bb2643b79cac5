'use client';

import { useRef } from 'react';
import { toast } from 'sonner';
import { imagePath } from '@/core/bots/conversation';
import { newChoice, withoutImage } from '@/core/bots/edit';
import type { Asked, Choice, Listen, Step } from '@/core/bots/model';
import { languageName } from '@/core/localised';
import { Button } from '../kit/button';
import { newKey, sentence, setting } from '../kit/call';
import { Check, Input, Select } from '../kit/field';
import { Picture } from '../kit/picture';
import { NeedsEditor } from './deciding';
import type { EditorProps } from './lineeditor';
import { CueSelect, IntoInput, Row, useAround, ValueInput, Whole, WordingEditor } from './pieces';

type Of<V extends Step['verb']> = EditorProps<Extract<Step, { verb: V }>>;

export function SayEditor({ step, onChange }: Of<'say'>) {
  const { script } = useAround();
  const { link } = step;
  return (
    <div className="flex flex-col gap-2">
      <WordingEditor label="Says" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
      <Row label="">
        <Check
          label="speaking or a key may cut it short"
          checked={step.mayInterrupt}
          onChange={(e) => onChange({ ...step, mayInterrupt: e.target.checked })}
        />
        <ImageButton onImage={(imageId) => onChange({ ...step, image: { imageId, alt: step.image?.alt ?? {} } })} />
        <Check
          label="with a link, on text channels"
          checked={link !== null}
          onChange={(e) => onChange({ ...step, link: e.target.checked ? { url: 'https://', label: {} } : null })}
        />
      </Row>
      {link && (
        <Row label="Link">
          <Input
            aria-label="Address of the link"
            className="!w-72 !py-1 text-small"
            value={link.url}
            onChange={(e) => onChange({ ...step, link: { ...link, url: e.target.value } })}
          />
          {script.languages.map((l) => (
            <Input
              key={l}
              aria-label={`Words of the link, ${languageName(l)}`}
              placeholder={languageName(l)}
              className="!w-32 !py-1 text-small"
              value={link.label[l] ?? ''}
              onChange={(e) => onChange({ ...step, link: { ...link, label: { ...link.label, [l]: e.target.value } } })}
            />
          ))}
        </Row>
      )}
      {step.image && (
        <Row label="Picture">
          <Picture src={imagePath(step.image.imageId)} alt="" small />
          {script.languages.map((l) => (
            <Input
              key={l}
              aria-label={`What the picture shows, ${languageName(l)}`}
              placeholder={`what it shows, ${languageName(l)}`}
              maxLength={200}
              className="!w-44 !py-1 text-small"
              value={step.image?.alt[l] ?? ''}
              onChange={(e) => {
                if (step.image)
                  onChange({ ...step, image: { ...step.image, alt: { ...step.image.alt, [l]: e.target.value } } });
              }}
            />
          ))}
          <Button small onClick={() => onChange(withoutImage(step))}>
            Leave it out
          </Button>
        </Row>
      )}
    </div>
  );
}

/** Picks a picture for chat and messaging and keeps it in the workspace. */
function ImageButton({ onImage }: { onImage: (imageId: string) => void }) {
  const file = useRef<HTMLInputElement>(null);
  const keep = async (picked: File | undefined) => {
    if (!picked) return;
    try {
      onImage((await setting<{ id: string }>('keep-image', { data: await base64Of(picked) })).id);
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  return (
    <>
      <Button small onClick={() => file.current?.click()}>
        Show a picture…
      </Button>
      <input
        ref={file}
        type="file"
        accept="image/png,image/jpeg,image/gif,image/webp"
        aria-label="Picture file"
        className="hidden"
        onChange={(e) => {
          void keep(e.target.files?.[0]);
          e.target.value = '';
        }}
      />
    </>
  );
}
const base64Of = (file: File): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).replace(/^data:[^,]*,/, ''));
    reader.onerror = () => reject(new Error('The file cannot be read.'));
    reader.readAsDataURL(file);
  });
export const EndEditor = ({ step, onChange }: Of<'end'>) => (
  <WordingEditor label="Last words" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
);

export function TextThemEditor({ step, onChange }: Of<'text-them'>) {
  return (
    <div className="flex flex-col gap-2">
      <Row label="Sends an SMS">
        <Select
          aria-label="When the text is sent"
          className="!w-48 !py-1 text-small"
          value={step.when}
          onChange={(e) => onChange({ ...step, when: e.target.value === 'after' ? 'after' : 'now' })}
        >
          <option value="now">now</option>
          <option value="after">after the contact</option>
        </Select>
        to{' '}
        <ValueInput
          label="Number to text, from a value"
          name={step.to ?? ''}
          placeholder="their own number"
          onChange={(name) => onChange({ ...step, to: name || null })}
        />
      </Row>
      <WordingEditor label="Text" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
    </div>
  );
}
export function TakeMessageEditor({ step, onChange }: Of<'take-message'>) {
  const { view } = useAround();
  return (
    <div className="flex flex-col gap-2">
      <WordingEditor label="Asks" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
      <Row label="Becomes work for">
        <Select
          aria-label="Queue of the message"
          className="!w-52 !py-1 text-small"
          value={step.queueId}
          onChange={(e) => onChange({ ...step, queueId: e.target.value })}
        >
          {!view.queues.some((q) => q.id === step.queueId) && <option value={step.queueId}>gone</option>}
          {view.queues.map((q) => (
            <option key={q.id} value={q.id}>
              {q.name}
            </option>
          ))}
        </Select>
      </Row>
    </div>
  );
}
export function ArticlesEditor({ step, onChange }: Of<'articles'>) {
  return (
    <div className="flex flex-col gap-2">
      <WordingEditor label="Asks" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
      <Row label="May be asked">
        <Whole
          label="Tries"
          value={step.tries}
          least={1}
          most={9}
          unit="times"
          onChange={(tries) => onChange({ ...step, tries })}
        />{' '}
        silence after{' '}
        <Whole
          label="Seconds of silence"
          value={step.silenceSeconds}
          least={2}
          most={60}
          unit="s"
          onChange={(silenceSeconds) => onChange({ ...step, silenceSeconds })}
        />
      </Row>
      <Row label="Answered">
        <CueSelect
          label="Answered goes to"
          cue={step.done}
          onChange={(done) => {
            if (done) onChange({ ...step, done });
          }}
        />
      </Row>
      <Row label="Nothing fits">
        <CueSelect
          label="Nothing fits goes to"
          cue={step.nothing}
          onChange={(nothing) => {
            if (nothing) onChange({ ...step, nothing });
          }}
        />
      </Row>
    </div>
  );
}

const TYPES: Readonly<Record<Asked['type'], string>> = {
  text: 'whatever they say',
  whole: 'a whole number',
  date: 'a date',
  time: 'a time of day',
  'yes-no': 'yes or no',
  telephone: 'a telephone number',
  email: 'a mail address',
  pattern: 'something of a pattern',
  listed: 'a thing of a list',
};
const newAsked = (type: Asked['type'], listId: string): Asked =>
  type === 'whole'
    ? { type, least: null, most: null }
    : type === 'pattern'
      ? { type, pattern: '[A-Z]{2}-?\\d{6}', example: '' }
      : type === 'listed'
        ? { type, listId }
        : { type };
const NEXT = { to: 'next' } as const;

export function ListenEditor({ step, onChange }: Of<'listen'>) {
  const { view } = useAround();
  const { hears } = step;
  const kind = hears.kind === 'choices' ? 'choices' : hears.asked.type;
  const setAsked = (asked: Asked) => onChange({ ...step, hears: { kind: 'value', asked } });
  const listId = view.lists[0]?.id ?? '';
  return (
    <div className="flex flex-col gap-2.5">
      <WordingEditor label="Asks" wording={step.wording} onChange={(wording) => onChange({ ...step, wording })} />
      <Row label="Listens for">
        <Select
          aria-label="Listens for"
          className="!w-52 !py-1 text-small"
          value={kind}
          onChange={(e) => {
            const type = e.target.value;
            onChange({
              ...step,
              hears:
                type === 'choices'
                  ? { kind: 'choices', choices: [newChoice(newKey(), '1')] }
                  : { kind: 'value', asked: newAsked(type as Asked['type'], listId) },
            });
          }}
        >
          <option value="choices">one of several choices</option>
          {(Object.keys(TYPES) as Asked['type'][])
            .filter((t) => t !== 'listed' || view.lists.length > 0)
            .map((t) => (
              <option key={t} value={t}>
                {TYPES[t]}
              </option>
            ))}
        </Select>
        {hears.kind === 'value' && hears.asked.type === 'whole' && <Bounds asked={hears.asked} onChange={setAsked} />}
        {hears.kind === 'value' && hears.asked.type === 'pattern' && (
          <Pattern asked={hears.asked} onChange={setAsked} />
        )}
        {hears.kind === 'value' && hears.asked.type === 'listed' && (
          <Select
            aria-label="List"
            className="!w-40 !py-1 text-small"
            value={hears.asked.listId}
            onChange={(e) => setAsked({ type: 'listed', listId: e.target.value })}
          >
            {view.lists.map((l) => (
              <option key={l.id} value={l.id}>
                {l.label}
              </option>
            ))}
          </Select>
        )}
        as <IntoInput label="Remember it as" into={step.into} onChange={(into) => onChange({ ...step, into })} />
      </Row>
      {hears.kind === 'choices' && <Choices step={step} choices={hears.choices} onChange={onChange} />}
      <Notices step={step} onChange={onChange} />
      <Row label="Asks">
        <Whole
          label="Tries"
          value={step.tries}
          least={1}
          most={9}
          unit={step.tries === 1 ? 'time,' : 'times,'}
          onChange={(tries) => onChange({ ...step, tries })}
        />{' '}
        silence after{' '}
        <Whole
          label="Seconds of silence"
          value={step.silenceSeconds}
          least={2}
          most={60}
          unit="s,"
          onChange={(silenceSeconds) => onChange({ ...step, silenceSeconds })}
        />{' '}
        anything else{' '}
        <CueSelect
          label="Anything else goes to"
          cue={step.otherwise}
          none="nowhere yet"
          onChange={(otherwise) => onChange({ ...step, otherwise })}
        />
      </Row>
      <details open={Object.values(step.again.text).some(Boolean) || Object.values(step.silent.text).some(Boolean)}>
        <summary className="cursor-pointer text-small text-ink-2">
          Wording when not understood, and after silence
        </summary>
        <div className="mt-1.5 flex flex-col gap-2">
          <WordingEditor
            label="When not understood"
            rows={1}
            wording={step.again}
            onChange={(again) => onChange({ ...step, again })}
          />
          <WordingEditor
            label="After silence"
            rows={1}
            wording={step.silent}
            onChange={(silent) => onChange({ ...step, silent })}
          />
        </div>
      </details>
    </div>
  );
}

function Bounds({ asked, onChange }: { asked: Extract<Asked, { type: 'whole' }>; onChange: (asked: Asked) => void }) {
  const bound = (label: string, key: 'least' | 'most') => (
    <Input
      aria-label={label}
      type="number"
      placeholder={key}
      className="!w-24 !py-1 text-right text-small"
      value={asked[key] ?? ''}
      onChange={(e) =>
        onChange({ ...asked, [key]: Number.isNaN(e.target.valueAsNumber) ? null : Math.round(e.target.valueAsNumber) })
      }
    />
  );
  return (
    <>
      from {bound('At least', 'least')} to {bound('At most', 'most')}
    </>
  );
}
const Pattern = ({
  asked,
  onChange,
}: {
  asked: Extract<Asked, { type: 'pattern' }>;
  onChange: (asked: Asked) => void;
}) => (
  <>
    <Input
      aria-label="Pattern (RE2)"
      className="!w-44 !py-1 font-mono text-small"
      value={asked.pattern}
      onChange={(e) => onChange({ ...asked, pattern: e.target.value })}
    />{' '}
    such as{' '}
    <Input
      aria-label="Example of the pattern"
      className="!w-32 !py-1 text-small"
      value={asked.example}
      onChange={(e) => onChange({ ...asked, example: e.target.value })}
    />
  </>
);

function Choices({
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
                  onChange={(e) =>
                    e.target.value ? setOne(c.id, { intentId: e.target.value }) : without(c, 'intentId')
                  }
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
                onChange={(e) =>
                  e.target.value ? setOne(c.id, { setsLanguage: e.target.value }) : without(c, 'setsLanguage')
                }
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

function Notices({ step, onChange }: { step: Listen; onChange: (step: Step) => void }) {
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
            onChange={(e) =>
              onChange({
                ...step,
                notices: step.notices.map((x, j) => (j === i ? { ...n, listId: e.target.value } : x)),
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
