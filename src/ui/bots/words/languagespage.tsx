'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { toast } from 'sonner';
import { CHANNEL_NAMES, type Channel } from '@/core/channels';
import { languageName } from '@/core/localised';
import type { LanguageRead } from '@/services/words/languagefile';
import type { LanguageKind } from '@/services/words/languagerows';
import type { LanguagesView, LanguageThing } from '@/services/words/languages';
import { Button } from '../../kit/button';
import { call, sentence, setting } from '../../kit/call';
import { Dialog } from '../../kit/dialog';
import { doing } from '../../kit/doing';
import { download } from '../../kit/download';
import { FilePick } from '../../kit/filepick';
import { fileText } from '../../kit/fileread';
import { Link } from '../../kit/link';
import { ListPanel, TwoLines } from '../../kit/list';
import { useLive } from '../../kit/live';
import { Empty, Panel, PanelHead, Pill } from '../../kit/panel';
import { options, Select } from '../../kit/select';
import { Table } from '../../kit/table';
import { StopNav } from '../../lane/stopnav';
import { DepthCell, spanOf, WeekGrid } from '../../review/weekgrid';
import { LanguageFile } from './languagefile';

const KIND_NAMES: Readonly<Record<LanguageKind, string>> = {
  door: 'door',
  bot: 'bot',
  'shared-scene': 'shared scene',
  queue: 'queue',
  'stock-set': 'stock replies',
  article: 'article',
  phrases: 'phrases of an intent',
};
/** Languages that the product's own sentences are in; others can be chosen as well. */
const OFFERED = [
  'ar',
  'cs',
  'da',
  'de',
  'el',
  'en',
  'es',
  'fi',
  'fr',
  'hu',
  'it',
  'ja',
  'nl',
  'no',
  'pl',
  'pt',
  'ro',
  'ru',
  'sv',
  'tr',
  'uk',
  'zh',
];

/** Each language as a whole: what it lacks everywhere, out and in as one file, and the doors that are open in it. */
export function LanguagesPage({ initial }: { initial: LanguagesView }) {
  const router = useRouter();
  const address = `/api/read/languages?${new URLSearchParams({ language: initial.language }).toString()}`;
  const { data, refetch } = useLive<LanguagesView>(address, ['settings.changed'], initial);
  const view = data ?? initial;
  const [adding, setAdding] = useState(false);
  const [read, setRead] = useState<{ text: string; read: LanguageRead } | null>(null);
  const [reading, setReading] = useState(false);
  const [all, setAll] = useState(false);
  const { language } = view;
  const named = languageName(language);
  const isFirst = language === view.from;
  const line = view.languages.find((l) => l.tag === language);
  const shown = all ? view.things : view.things.filter((t) => t.lacking > 0);
  const takeOut = async (what: 'all' | 'lacking') => {
    try {
      const asked = new URLSearchParams({ language, what }).toString();
      const file = await call<{ name: string; text: string }>(`/api/read/language-file?${asked}`);
      download(file.name, 'text/csv;charset=utf-8', file.text);
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const bringIn = async (file: File) => {
    if (file.size > 900_000) return void toast.error('The file is larger than 900 KB.');
    setReading(true);
    try {
      const text = await fileText(file);
      setRead({ text, read: await setting<LanguageRead>('read-language', { language, text }) });
    } catch (error) {
      toast.error(sentence(error));
    } finally {
      setReading(false);
    }
  };
  return (
    <>
      <StopNav stop="Bots" />
      <main className="grid grid-cols-[210px_minmax(0,1fr)_350px] items-start gap-3 p-4 max-xl:grid-cols-[180px_minmax(0,1fr)_300px]">
        <ListPanel
          title="Languages"
          none="There is none yet."
          tools={
            view.mayChange && (
              <Button small onClick={() => setAdding(true)}>
                Begin one
              </Button>
            )
          }
          things={view.languages.map((l) => ({ ...l, id: l.tag }))}
          openId={language}
          onOpen={(l) => router.push(`/bots/languages?language=${l.tag}`)}
          line={(l) => (
            <TwoLines name={l.name}>
              {l.lacking === 0 ? 'complete' : `lacks ${l.lacking} of ${l.sentences}`}
              {l.doors > 0 && `, ${l.doors === 1 ? 'a door' : `${l.doors} doors`}`}
            </TwoLines>
          )}
        />
        <Panel label={named} className="min-w-0">
          <PanelHead
            title={named}
            marks={
              line &&
              (line.lacking === 0 ? (
                <Pill tone="good">complete</Pill>
              ) : (
                <Pill tone="warn">
                  lacks {line.lacking} of {line.sentences}
                </Pill>
              ))
            }
          >
            {!isFirst && (
              <>
                <Button small onClick={() => void takeOut(line?.lacking === 0 ? 'all' : 'lacking')}>
                  {line?.lacking === 0 ? 'Take out as CSV' : 'Take out what it lacks'}
                </Button>
                {line && line.lacking > 0 && line.lacking < line.sentences && (
                  <Button small onClick={() => void takeOut('all')}>
                    All of it
                  </Button>
                )}
                {view.mayChange && (
                  <FilePick
                    small
                    kind="primary"
                    label="File of words"
                    accept=".csv,text/csv"
                    onFile={(f) => void bringIn(f)}
                  >
                    {reading ? 'Reading…' : 'Bring in…'}
                  </FilePick>
                )}
              </>
            )}
          </PanelHead>
          {isFirst && (
            <p className="border-b border-rule px-4 py-2 text-small text-ink-2">
              {named} is written first; the other languages are worded from it.
            </p>
          )}
          {shown.length === 0 ? (
            <Empty title={`${named} lacks nothing`}>Everything that is worded anywhere is there in {named}.</Empty>
          ) : (
            <Table<LanguageThing>
              label={`What ${named} lacks`}
              rows={shown}
              idOf={(t) => `${t.kind} ${t.id}`}
              sorted={{ id: 'lacking', falling: true }}
              columns={[
                {
                  id: 'name',
                  head: 'Where',
                  by: (t) => t.name,
                  cell: (t) => (
                    <Link href={t.path} className="text-plum underline-offset-2 hover:underline">
                      {t.name}
                    </Link>
                  ),
                },
                {
                  id: 'kind',
                  head: 'What',
                  by: (t) => KIND_NAMES[t.kind],
                  cell: (t) => KIND_NAMES[t.kind],
                  className: 'text-ink-2',
                },
                {
                  id: 'lacking',
                  head: 'Lacks',
                  figure: true,
                  by: (t) => t.lacking,
                  cell: (t) => (t.lacking === 0 ? <span className="text-ink-3">0</span> : t.lacking),
                },
                {
                  id: 'of',
                  head: 'Of',
                  figure: true,
                  by: (t) => t.sentences,
                  cell: (t) => t.sentences,
                  className: 'text-ink-2',
                },
              ]}
            />
          )}
          {view.things.some((t) => t.lacking === 0) && (
            <div className="border-t border-rule px-4 py-2">
              <Button small kind="quiet" onClick={() => setAll(!all)}>
                {all
                  ? 'Only what lacks something'
                  : `Show the ${view.things.filter((t) => t.lacking === 0).length} that lack nothing`}
              </Button>
            </div>
          )}
        </Panel>
        <div className="flex flex-col gap-3">
          <Doors view={view} onOpened={() => void refetch()} />
          <Speakers view={view} />
        </div>
        <Begin open={adding} view={view} onClose={() => setAdding(false)} />
        {read && (
          <LanguageFile
            language={language}
            from={view.from}
            text={read.text}
            read={read.read}
            onClose={() => setRead(null)}
            onTaken={() => {
              setRead(null);
              void refetch();
            }}
          />
        )}
      </main>
    </>
  );
}

/** Doors with what keeps the language from being open there. */
function Doors({ view, onOpened }: { view: LanguagesView; onOpened: () => void }) {
  const named = languageName(view.language);
  return (
    <Panel label="Doors" className="p-4">
      <h2 className="mb-1 text-panel">Doors in {named}</h2>
      <ul className="flex flex-col">
        {view.doors.map((door) => (
          <li key={door.id} className="border-t border-rule py-1.5 first:border-t-0">
            <div className="flex items-center gap-2 text-small">
              <Link href={`/doors?door=${door.id}`} className="min-w-0 flex-1 truncate hover:underline">
                {door.name} <span className="text-ink-2">{CHANNEL_NAMES[door.channel as Channel].name}</span>
              </Link>
              {door.open ? (
                <Pill tone={door.gaps.length > 0 ? 'warn' : 'good'}>open</Pill>
              ) : (
                view.mayOpen && (
                  <Button
                    small
                    disabled={door.gaps.length > 0}
                    onClick={() =>
                      void doing(
                        'open-language',
                        { id: door.id, revision: door.revision, language: view.language },
                        `${door.name} is open in ${named}.`,
                      ).then((done) => done && onOpened())
                    }
                  >
                    Open
                  </Button>
                )
              )}
            </div>
            {door.gaps.length > 0 && (
              <details className="text-tiny text-ink-2">
                <summary className="cursor-pointer">
                  {door.gaps.length === 1 ? 'one gap' : `${door.gaps.length} gaps`} its customers would meet
                </summary>
                <ul className="mt-1 flex max-h-40 flex-col gap-0.5 overflow-y-auto pl-3">
                  {door.gaps.slice(0, 100).map((gap) => (
                    <li key={gap.what}>
                      <Link href={gap.path} className="text-plum hover:underline">
                        {gap.what}
                      </Link>
                    </li>
                  ))}
                  {door.gaps.length > 100 && <li>and {door.gaps.length - 100} more</li>}
                </ul>
              </details>
            )}
          </li>
        ))}
      </ul>
    </Panel>
  );
}

/** Who speaks it, and how many of them should be on duty at each hour of this week. */
function Speakers({ view }: { view: LanguagesView }) {
  const { skills, people, planned } = view.speakers;
  const at = (day: number, hour: number): number =>
    Math.min(planned[(day - 1) * 48 + hour * 2] ?? 0, planned[(day - 1) * 48 + hour * 2 + 1] ?? 0);
  const most = Math.max(1, ...planned);
  const span = spanOf([...planned.keys()].filter((i) => (planned[i] ?? 0) > 0).map((i) => Math.floor((i % 48) / 2)));
  return (
    <Panel label="Speakers" className="p-4">
      <h2 className="text-panel">Who speaks {languageName(view.language)}</h2>
      <p className="mb-1 text-small text-ink-2">
        {skills.length === 0
          ? 'No skill of people stands for it. A language skill of this name does, or one that a bot’s choice of this language needs.'
          : people === 0
            ? `Nobody has ${skills.join(' or ')}.`
            : `${people === 1 ? 'One person has' : `${people} people have`} ${skills.join(' or ')}. On shift, by the hour of this week:`}
      </p>
      {span.length > 0 && (
        <WeekGrid
          times={{ 1: 1, 2: 1, 3: 1, 4: 1, 5: 1, 6: 1, 7: 1 }}
          span={span}
          cell={(day, hour) => <DepthCell key={hour} depth={at(day, hour) / most} n={at(day, hour)} />}
        />
      )}
    </Panel>
  );
}

function Begin({ open, view, onClose }: { open: boolean; view: LanguagesView; onClose: () => void }) {
  const router = useRouter();
  const there = new Set(view.languages.map((l) => l.tag));
  const names = new Intl.DisplayNames('en', { type: 'language' });
  const offered = OFFERED.filter((tag) => !there.has(tag)).sort((a, b) =>
    (names.of(a) ?? a).localeCompare(names.of(b) ?? b),
  );
  const [tag, setTag] = useState(offered[0] ?? '');
  return (
    <Dialog
      open={open}
      onClose={onClose}
      title="Begin a language"
      description="It can be written everywhere then. No customer meets it before it is opened at a door."
    >
      <Select aria-label="Language" value={tag} onChange={setTag}>
        {options(offered, (t) => names.of(t) ?? t)}
      </Select>
      <div className="mt-3 flex gap-2">
        <Button
          kind="primary"
          onClick={() =>
            void doing('begin-language', { language: tag }, `${names.of(tag) ?? tag} has begun.`).then((done) => {
              if (!done) return;
              onClose();
              router.push(`/bots/languages?language=${tag}`);
            })
          }
        >
          Begin it
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </div>
    </Dialog>
  );
}
