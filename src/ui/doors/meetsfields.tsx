'use client';

import { isText } from '@/core/channels';
import type { Away, FirstWords, Meets } from '@/core/doors/doorway';
import { languageName } from '@/core/localised';
import type { DoorsView } from '@/services/doors/doors';
import { Button } from '../kit/button';
import { Area, Field, Input } from '../kit/field';
import { options, Select } from '../kit/select';
import type { Draft } from './doordraft';

const WORDS: Readonly<Record<Meets['by'], string>> = {
  bot: 'its bot',
  'first-words': 'a bot by their first words',
  people: 'named people',
};
const AWAY: Readonly<Record<Away['then']['does'], string>> = {
  queue: 'waits for whoever takes the queue',
  message: 'may leave a message',
  callback: 'is offered a call back',
  bot: 'meets a bot',
  end: 'hears the words, then it ends',
};
type People = Extract<Meets, { readonly by: 'people' }>;
type Part = {
  readonly draft: Draft;
  readonly view: DoorsView;
  readonly disabled: boolean;
  readonly onChange: (meets: Meets) => void;
};
const inWords = (text: string) =>
  text
    .split(',')
    .map((w) => w.trim())
    .filter((w) => w !== '');

/** Who meets whoever comes to a door while it is open. */
export function MeetsFields({ draft, view, disabled, fault, onChange }: Part & { readonly fault: string | undefined }) {
  const { meets } = draft;
  const taking = view.queues.filter((q) => q.channels.includes(draft.channel));
  const kinds = (Object.keys(WORDS) as Meets['by'][]).filter(
    (by) =>
      by === meets.by ||
      (by === 'first-words'
        ? isText(draft.channel) && view.bots.length > 1
        : by !== 'people' || (taking.length > 0 && view.people.length > 0)),
  );
  const made = (by: Meets['by']): Meets => {
    switch (by) {
      case 'bot':
        return { by };
      case 'first-words':
        return { by, rules: [{ botId: view.bots.find((b) => b.id !== draft.botId)?.id ?? draft.botId, words: {} }] };
      case 'people':
        return {
          by,
          personIds: [],
          queueId: taking[0]?.id ?? '',
          away: { wording: {}, then: { does: 'message', queueId: taking[0]?.id ?? '' } },
        };
    }
  };
  return (
    <>
      <Field label="While it is open, customers meet" fault={fault}>
        {(p) => (
          <Select {...p} disabled={disabled} value={meets.by} onChange={(by) => onChange(made(by as Meets['by']))}>
            {options(kinds, (k) => WORDS[k])}
          </Select>
        )}
      </Field>
      {meets.by === 'first-words' && (
        <FirstWordsFields
          draft={draft}
          view={view}
          disabled={disabled}
          rules={meets.rules}
          onChange={(rules) => onChange({ by: 'first-words', rules })}
        />
      )}
      {meets.by === 'people' && (
        <PeopleFields draft={draft} view={view} disabled={disabled} meets={meets} onChange={onChange} />
      )}
    </>
  );
}

function FirstWordsFields({
  draft,
  view,
  disabled,
  rules,
  onChange,
}: Omit<Part, 'onChange'> & {
  readonly rules: readonly FirstWords[];
  readonly onChange: (rules: readonly FirstWords[]) => void;
}) {
  const set = (i: number, change: Partial<FirstWords>) =>
    onChange(rules.map((r, j) => (j === i ? { ...r, ...change } : r)));
  return (
    <fieldset disabled={disabled} className="flex flex-col gap-2">
      <legend className="mb-1 text-small font-medium text-ink-2">
        Words that stand in what they write first, and the bot these ask for
      </legend>
      {rules.map((rule, i) => (
        <div
          key={i}
          role="group"
          aria-label={`First words ${i + 1}`}
          className="flex flex-col gap-2 rounded-control bg-sunk p-2"
        >
          <div className="flex items-end gap-2">
            <div className="flex-1">
              <Field label="Bot">
                {(p) => (
                  <Select {...p} disabled={disabled} value={rule.botId} onChange={(botId) => set(i, { botId })}>
                    {options(view.bots)}
                  </Select>
                )}
              </Field>
            </div>
            {rules.length > 1 && (
              <Button
                small
                kind="quiet"
                aria-label={`Remove first words ${i + 1}`}
                onClick={() => onChange(rules.filter((_, j) => j !== i))}
              >
                Remove
              </Button>
            )}
          </div>
          {draft.languages.map((l) => (
            <Field key={l} label={`Words, ${languageName(l)}`} hint={i === 0 ? 'Between commas' : undefined}>
              {(p) => (
                <Input
                  {...p}
                  key={`${rule.botId}${l}`}
                  defaultValue={(rule.words[l] ?? []).join(', ')}
                  onChange={(e) => set(i, { words: { ...rule.words, [l]: inWords(e.target.value) } })}
                />
              )}
            </Field>
          ))}
        </div>
      ))}
      <Button className="self-start" onClick={() => onChange([...rules, { botId: view.bots[0]?.id ?? '', words: {} }])}>
        Add a bot
      </Button>
    </fieldset>
  );
}

function PeopleFields({ draft, view, disabled, meets, onChange }: Part & { readonly meets: People }) {
  const taking = view.queues.filter((q) => q.channels.includes(draft.channel));
  const calling = view.queues.filter((q) => q.channels.includes('voice'));
  const { away } = meets;
  const set = (change: Partial<People>) => onChange({ ...meets, ...change });
  const setAway = (change: Partial<Away>) => set({ away: { ...away, ...change } });
  const nameOf = (id: string) => view.people.find((p) => p.id === id)?.name ?? 'somebody who is gone';
  const then = (does: Away['then']['does']): Away['then'] => {
    switch (does) {
      case 'queue':
      case 'end':
        return { does };
      case 'bot':
        return { does, botId: draft.botId };
      case 'message':
        return { does, queueId: meets.queueId };
      case 'callback':
        return { does, queueId: calling[0]?.id ?? '' };
    }
  };
  const kinds = (Object.keys(AWAY) as Away['then']['does'][]).filter(
    (k) => k === away.then.does || k !== 'callback' || calling.length > 0,
  );
  return (
    <fieldset disabled={disabled} className="flex flex-col gap-3 rounded-control bg-sunk p-2">
      <legend className="sr-only">People it leads to</legend>
      <div>
        <p className="text-small font-medium text-ink-2">The first of these who is on duty</p>
        <ol className="my-1 flex flex-col gap-1 text-small">
          {meets.personIds.map((id, i) => (
            <li key={id} className="flex items-center gap-2">
              <b className="w-4 text-right">{i + 1}</b>
              <span className="flex-1">{nameOf(id)}</span>
              {i > 0 && (
                <Button
                  small
                  kind="quiet"
                  aria-label={`${nameOf(id)} before ${nameOf(meets.personIds[i - 1] ?? '')}`}
                  onClick={() => {
                    const next = meets.personIds.filter((x) => x !== id);
                    set({ personIds: [...next.slice(0, i - 1), id, ...next.slice(i - 1)] });
                  }}
                >
                  Up
                </Button>
              )}
              <Button
                small
                kind="quiet"
                aria-label={`Remove ${nameOf(id)}`}
                onClick={() => set({ personIds: meets.personIds.filter((x) => x !== id) })}
              >
                Remove
              </Button>
            </li>
          ))}
        </ol>
        <Select
          aria-label="Add a person"
          disabled={disabled}
          value=""
          onChange={(id) => id !== '' && set({ personIds: [...meets.personIds, id] })}
        >
          <option value="">Add a person…</option>
          {options(view.people.filter((p) => !meets.personIds.includes(p.id)))}
        </Select>
      </div>
      <Field
        label="Within the queue"
        hint="Its goal and its wait clock count; after 90 s its other people are asked too"
      >
        {(p) => (
          <Select {...p} disabled={disabled} value={meets.queueId} onChange={(queueId) => set({ queueId })}>
            {options(taking)}
          </Select>
        )}
      </Field>
      {draft.languages.map((l) => (
        <Field key={l} label={`Said when none of them is on duty, ${languageName(l)}`}>
          {(p) => (
            <Area
              {...p}
              rows={2}
              disabled={disabled}
              value={away.wording[l] ?? ''}
              onChange={(e) => setAway({ wording: { ...away.wording, [l]: e.target.value } })}
            />
          )}
        </Field>
      ))}
      <div className="flex flex-col gap-3">
        <Field label="Then the customer">
          {(p) => (
            <Select
              {...p}
              disabled={disabled}
              value={away.then.does}
              onChange={(chosen) => setAway({ then: then(chosen as Away['then']['does']) })}
            >
              {options(kinds, (k) => AWAY[k])}
            </Select>
          )}
        </Field>
        {away.then.does === 'bot' && (
          <Field label="Bot when nobody is on duty">
            {(p) => (
              <Select
                {...p}
                disabled={disabled}
                value={away.then.does === 'bot' ? away.then.botId : ''}
                onChange={(botId) => setAway({ then: { does: 'bot', botId } })}
              >
                {options(view.bots)}
              </Select>
            )}
          </Field>
        )}
        {(away.then.does === 'message' || away.then.does === 'callback') && (
          <Field label={away.then.does === 'message' ? 'Message for' : 'Calls are made by'}>
            {(p) => (
              <Select
                {...p}
                disabled={disabled}
                value={'queueId' in away.then ? away.then.queueId : ''}
                onChange={(queueId) => {
                  const { does } = away.then;
                  if (does === 'message' || does === 'callback') setAway({ then: { does, queueId } });
                }}
              >
                {options(away.then.does === 'callback' ? calling : taking)}
              </Select>
            )}
          </Field>
        )}
      </div>
    </fieldset>
  );
}
