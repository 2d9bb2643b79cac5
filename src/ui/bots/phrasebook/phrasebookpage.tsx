'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { languageName } from '@/core/localised';
import { type Intent, type Phrasebook, withoutIntent } from '@/core/phrases/book';
import type { BookRead } from '@/core/phrases/bookfile';
import type { PhrasebookView } from '@/services/bots/phrasebook';
import { Button } from '../../kit/button';
import { type Shape, useGathered } from '../../drafts/usegathered';
import { call, sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { download } from '../../kit/download';
import { Area, Field, Input } from '../../kit/field';
import { FilePick } from '../../kit/filepick';
import { fileText } from '../../kit/fileread';
import { useLive } from '../../kit/live';
import { Empty, Panel, PanelHead, Pill } from '../../kit/panel';
import { Tabs } from '../../kit/tabs';
import { StopNav } from '../../lane/stopnav';
import { useHolds } from '../../lane/viewer';
import { Ask } from './ask';
import { AsideView } from './asideview';
import { Learning } from './learning';
import { NotUnderstood } from './notunderstood';
import { OtherWordsView } from './otherwordsview';
import { QualityView } from './qualityview';
import { SuggestedWords } from './suggestedwords';
import { ThingsView } from './thingsview';

/** There is one book. */
const BOOK = 'phrasebook';
type BookDraft = { readonly id: string | null; readonly revision: number; readonly book: Phrasebook };
const BOOK_SHAPE: Shape<BookDraft> = {
  valueOf: ({ book }) => book,
  draftOf: (id, revision, value) => ({ id, revision, book: value as Phrasebook }),
  labelOf: () => 'Phrasebook',
  bodyOf: ({ revision, book }) => ({ revision, book }),
};

const TABS = ['Intents', 'Other words', 'Things to recognise', 'Not understood', 'Kept aside', 'Quality'] as const;

const lines = (text: string): string[] => [
  ...new Set(
    text
      .split('\n')
      .map((x) => x.trim())
      .filter(Boolean),
  ),
];

/**
 * The intents and the phrases that teach them, what is recognised within phrases, what was not understood, and how
 * well it goes.
 */
export function PhrasebookPage({ initial, zone }: { initial: PhrasebookView; zone: string }) {
  const { data, refetch } = useLive<PhrasebookView>('/api/read/phrasebook', ['settings.changed', 'bot.heard'], initial);
  const view = data ?? initial;
  const [tab, setTab] = useState<(typeof TABS)[number]>('Intents');
  const gathered = useGathered<BookDraft>({
    kind: 'phrasebook',
    act: 'save-phrasebook',
    things: [{ id: BOOK, revision: view.revision, book: view.book }],
    shape: BOOK_SHAPE,
    first: BOOK,
    refetch,
    nameOf: (id) =>
      view.languages.includes(id) ? languageName(id) : (view.book.intents.find((i) => i.id === id)?.label ?? id),
  });
  const holds = useHolds();
  const { changed, busy } = gathered;
  const book = gathered.draft?.book ?? view.book;
  const [past, setPast] = useState<readonly Phrasebook[]>([]);
  const [chosen, setChosen] = useState(initial.book.intents[0]?.id ?? '');
  const [read, setRead] = useState<BookRead | null>(null);
  const put = (next: Phrasebook) => gathered.set({ id: BOOK, revision: view.revision, book: next });
  const change = (next: Phrasebook) => {
    setPast([...past.slice(-99), book]);
    put(next);
  };
  const save = async () => {
    if (await gathered.apply('Kept and learnt. Bots use it from when they are published next.')) setPast([]);
  };
  const take = async (kind: 'json' | 'csv' | 'other-words') => {
    try {
      const out = await call<{ name: string; text: string }>(`/api/read/phrasebook-file?kind=${kind}`);
      download(out.name, kind === 'json' ? 'application/json' : 'text/csv;charset=utf-8', out.text);
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const bring = async (picked: File) => {
    try {
      setRead(
        await setting<BookRead>('read-phrasebook-file', {
          kind: /\.csv$/i.test(picked.name) ? 'csv' : 'json',
          text: await fileText(picked),
        }),
      );
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const count = (i: Intent) => Object.values(i.examples).reduce((n, texts) => n + texts.length, 0);
  const intent = book.intents.find((i) => i.id === chosen);
  const setIntent = (next: Intent) =>
    change({ ...book, intents: book.intents.map((i) => (i.id === next.id ? next : i)) });
  const fresh = (): string => {
    for (let n = book.intents.length + 1; ; n++)
      if (!book.intents.some((i) => i.id === `intent_${n}`)) return `intent_${n}`;
  };
  return (
    <>
      <StopNav stop="Bots" />
      <main className="grid grid-cols-[minmax(0,1fr)_320px] gap-3 p-4">
        <Panel label="Phrasebook" className="self-start">
          <PanelHead
            title="Phrasebook"
            marks={
              <>
                <Pill>{book.intents.length} intents</Pill>
                <Pill>{book.intents.reduce((n, i) => n + count(i), 0)} phrases</Pill>
              </>
            }
          >
            <Button small onClick={() => void take('json')}>
              Take out (JSON)
            </Button>
            <Button small onClick={() => void take(tab === 'Other words' ? 'other-words' : 'csv')}>
              {tab === 'Other words' ? 'Other words (CSV)' : 'Phrases (CSV)'}
            </Button>
            {view.mayChange && (
              <>
                <FilePick small label="Phrasebook file" accept=".json,.csv" onFile={(f) => void bring(f)}>
                  Bring in…
                </FilePick>
                <Button
                  small
                  kind="quiet"
                  disabled={past.length === 0}
                  onClick={() => {
                    const before = past.at(-1);
                    if (before) {
                      put(before);
                      setPast(past.slice(0, -1));
                    }
                  }}
                >
                  Undo
                </Button>
                {changed && (
                  <Button
                    small
                    kind="quiet"
                    onClick={() => {
                      gathered.undo();
                      setPast([]);
                    }}
                  >
                    Forget my changes
                  </Button>
                )}
                <Button kind="primary" small disabled={!changed || busy} onClick={() => void save()}>
                  {busy ? 'Learning…' : 'Keep and learn'}
                </Button>
              </>
            )}
          </PanelHead>
          {busy && (
            <div className="border-b border-rule px-4 py-2">
              <Learning />
            </div>
          )}
          {gathered.notes}
          <Tabs
            label="Parts of the phrasebook"
            of={TABS}
            shown={tab}
            onShow={setTab}
            count={(name) => (name === 'Not understood' ? view.unheardTotal : 0)}
            className="border-b border-rule py-1.5"
          />
          {tab === 'Intents' && (
            <div className="grid grid-cols-[250px_minmax(0,1fr)]">
              <ul className="border-r border-rule">
                {book.intents.map((i) => (
                  <li key={i.id}>
                    <button
                      type="button"
                      aria-current={i.id === chosen}
                      onClick={() => setChosen(i.id)}
                      className={
                        `flex w-full items-baseline gap-2 border-b border-rule px-4 py-1.5 text-left hover:bg-sunk ` +
                        `${i.id === chosen ? 'bg-chosen' : ''}`
                      }
                    >
                      <span className="min-w-0 flex-1 truncate">{i.label}</span>
                      <span className="text-tiny text-ink-2">{count(i)}</span>
                    </button>
                  </li>
                ))}
                {view.mayChange && (
                  <li className="p-2">
                    <Button
                      small
                      onClick={() => {
                        const id = fresh();
                        change({
                          ...book,
                          intents: [...book.intents, { id, label: 'New intent', description: '', examples: {} }],
                        });
                        setChosen(id);
                      }}
                    >
                      New intent
                    </Button>
                  </li>
                )}
              </ul>
              {!intent ? (
                <Empty title={book.intents.length === 0 ? 'No intent yet' : 'Choose an intent'}>
                  An intent is one thing customers want, taught by what they say.
                </Empty>
              ) : (
                <fieldset disabled={!view.mayChange} className="flex flex-col gap-3 p-4">
                  <div className="grid grid-cols-2 gap-3">
                    <Field label="Label">
                      {(p) => (
                        <Input
                          {...p}
                          maxLength={60}
                          value={intent.label}
                          onChange={(e) => setIntent({ ...intent, label: e.target.value })}
                        />
                      )}
                    </Field>
                    <Field label="What it means">
                      {(p) => (
                        <Input
                          {...p}
                          maxLength={300}
                          value={intent.description}
                          onChange={(e) => setIntent({ ...intent, description: e.target.value })}
                        />
                      )}
                    </Field>
                  </div>
                  <div className="grid gap-3 xl:grid-cols-2">
                    {[...new Set([...view.languages, ...Object.keys(intent.examples)])].map((l) => (
                      <Field
                        key={`${intent.id}${l}`}
                        label={`Phrases, ${languageName(l)}`}
                        hint={`${intent.examples[l]?.length ?? 0} phrases, one a line`}
                      >
                        {(p) => (
                          <Area
                            {...p}
                            rows={view.languages.length > 2 ? 8 : 12}
                            lang={l}
                            key={(intent.examples[l] ?? []).join('\n')}
                            defaultValue={(intent.examples[l] ?? []).join('\n')}
                            onBlur={(e) => {
                              const next = lines(e.target.value);
                              if (next.join('\n') !== (intent.examples[l] ?? []).join('\n'))
                                setIntent({ ...intent, examples: { ...intent.examples, [l]: next } });
                            }}
                          />
                        )}
                      </Field>
                    ))}
                  </div>
                  <div className="flex items-center gap-2 text-small text-ink-2">
                    <span>
                      {(view.usedBy[`intent ${intent.id}`] ?? []).length === 0
                        ? 'No choice of a bot means it.'
                        : `Meant by choices of ${(view.usedBy[`intent ${intent.id}`] ?? []).join(', ')}.`}
                    </span>
                    {view.mayChange && (
                      <Button
                        small
                        kind="danger"
                        className="ml-auto"
                        disabled={(view.usedBy[`intent ${intent.id}`] ?? []).length > 0}
                        onClick={() => {
                          change(withoutIntent(book, intent.id));
                          setChosen('');
                        }}
                      >
                        Take the intent out
                      </Button>
                    )}
                  </div>
                </fieldset>
              )}
            </div>
          )}
          {tab === 'Other words' && (
            <OtherWordsView
              book={book}
              languages={view.languages}
              mayChange={view.mayChange}
              onChange={change}
              suggested={
                view.mayChange &&
                holds('conversations.view') && (
                  <SuggestedWords
                    book={book}
                    revision={view.revision}
                    touched={changed}
                    onTaught={() => void refetch()}
                  />
                )
              }
            />
          )}
          {tab === 'Kept aside' && (
            <AsideView book={book} languages={view.languages} mayChange={view.mayChange} onChange={change} />
          )}
          {tab === 'Things to recognise' && (
            <ThingsView
              book={book}
              languages={view.languages}
              usedBy={view.usedBy}
              mayChange={view.mayChange}
              onChange={change}
            />
          )}
          {tab === 'Not understood' && (
            <NotUnderstood
              view={view}
              book={book}
              revision={view.revision}
              touched={changed}
              zone={zone}
              onTaught={() => void refetch()}
            />
          )}
          {tab === 'Quality' && (
            <QualityView
              book={book}
              revision={view.revision}
              mayChange={view.mayChange}
              onWish={(language, wish) => change({ ...book, wishes: { ...book.wishes, [language]: wish } })}
              onIntent={(id) => {
                setChosen(id);
                setTab('Intents');
              }}
            />
          )}
        </Panel>
        <Ask languages={view.languages} touched={changed} />
        <Dialog
          open={read !== null}
          onClose={() => setRead(null)}
          title="Bring in a phrasebook"
          description={
            read && 'faults' in read
              ? 'The file has faults, so nothing is taken from it.'
              : 'It takes the place of what is here. Nothing is kept before you press Keep and learn.'
          }
        >
          {read && 'faults' in read ? (
            <ul role="alert" className="max-h-72 overflow-y-auto text-small text-clay">
              {read.faults.slice(0, 40).map((f, i) => (
                <li key={i}>
                  Line {f.line}: {f.what}
                </li>
              ))}
            </ul>
          ) : (
            read && (
              <>
                <p className="text-small">
                  {read.book.intents.length} intents with {read.book.intents.reduce((n, i) => n + count(i), 0)} phrases,{' '}
                  {read.book.recognised.length} things to recognise, {read.book.otherWords.length} words with others.{' '}
                  {book.intents.filter((i) => !read.book.intents.some((x) => x.id === i.id)).length} intents of now are
                  not in it.
                </p>
                <div className="mt-3 flex gap-2">
                  <Button
                    kind="primary"
                    onClick={() => {
                      change(read.book);
                      setChosen(read.book.intents[0]?.id ?? '');
                      setRead(null);
                    }}
                  >
                    Take it in
                  </Button>
                  <Button onClick={() => setRead(null)}>Cancel</Button>
                </div>
              </>
            )
          )}
        </Dialog>
      </main>
    </>
  );
}
