'use client';

import { clsx } from 'clsx';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { CHANNEL_NAMES } from '@/core/channels';
import { languageName } from '@/core/localised';
import { folded, searchedWords } from '@/core/wordsearch';
import type { FoundWords, FoundWordsView } from '@/services/words/findwords';
import { Button } from '../../kit/button';
import { Input } from '../../kit/field';
import { useLive } from '../../kit/live';
import { Empty, Panel, PanelHead, Pill } from '../../kit/panel';
import { StopNav } from '../../lane/stopnav';
import { MendPanel } from './mendpanel';

const idOf = (f: FoundWords): string => [f.kind, f.id, f.key, f.language, f.text].join('\n');
/** Where it is met, in a word or two. */
const standing = ({ kind, live, inDraft }: FoundWords): { tone: 'good' | 'plain' | 'warn'; says: string } => {
  if (kind !== 'bot' && kind !== 'shared-scene') return { tone: 'good', says: 'met now' };
  if (live.length === 0) return { tone: 'plain', says: 'only being written' };
  return inDraft ? { tone: 'good', says: 'met now' } : { tone: 'warn', says: 'met now, written otherwise' };
};

/** Finds words wherever customers meet them, and mends them there. */
export function WordsPage({ find }: { find: string }) {
  const router = useRouter();
  const [typed, setTyped] = useState(find);
  const [openId, setOpenId] = useState<string | null>(null);
  const asked = `/api/read/words?${new URLSearchParams({ find }).toString()}`;
  const { data, error, refetch } = useLive<FoundWordsView>(asked, ['settings.changed']);
  const found = data?.found ?? [];
  const open = found.find((f) => idOf(f) === openId) ?? found[0];
  const words = searchedWords(find);
  return (
    <>
      <StopNav stop="Bots" />
      <main className="grid h-[calc(100vh-100px)] min-h-[480px] grid-cols-[minmax(0,1fr)_400px] gap-3 p-4 max-xl:grid-cols-[minmax(0,1fr)_340px]">
        <Panel label="Words" className="flex min-h-0 flex-col">
          <PanelHead
            title="Words customers meet"
            marks={
              data && words.length > 0 && data.total > 0 ? (
                <span className="text-small text-ink-2">
                  {data.total === 1 ? 'one sentence' : `${data.total} sentences`}
                  {data.total > found.length && `, the first ${found.length} shown`}
                </span>
              ) : null
            }
          />
          <form
            role="search"
            className="flex gap-2 border-b border-rule px-4 py-2.5"
            onSubmit={(e) => {
              e.preventDefault();
              router.push(`/bots/words?${new URLSearchParams({ find: typed.trim() }).toString()}`);
            }}
          >
            <Input
              aria-label="Words to find"
              placeholder="Some words, or “several together”, in any language"
              autoFocus
              maxLength={200}
              value={typed}
              onChange={(e) => setTyped(e.target.value)}
            />
            <Button type="submit" kind="primary">
              Find
            </Button>
          </form>
          <div className="min-h-0 flex-1 overflow-y-auto" aria-busy={words.length > 0 && !data && !error}>
            {words.length === 0 ? (
              <Empty title="What is wrong, or has changed?">
                Bots, shared scenes, doors, wait clocks, calls back, stock replies and articles are looked through, as
                they are written and as customers meet them.
              </Empty>
            ) : error ? (
              <Empty title="This could not be looked for">
                <Button small onClick={() => void refetch()}>
                  Look again
                </Button>
              </Empty>
            ) : !data ? (
              <p className="px-4 py-6 text-ink-2">Looking…</p>
            ) : found.length === 0 ? (
              <Empty title={`No customer meets “${find}”`}>
                Each word has to stand in one sentence. Fewer words find more.
              </Empty>
            ) : (
              <ul aria-label="Sentences">
                {found.map((f) => {
                  const { tone, says } = standing(f);
                  const chosen = open && idOf(f) === idOf(open);
                  return (
                    <li key={idOf(f)} className="border-b border-rule last:border-b-0">
                      <button
                        type="button"
                        aria-pressed={chosen}
                        onClick={() => setOpenId(idOf(f))}
                        className={clsx('block w-full px-4 py-2 text-left', chosen ? 'bg-chosen' : 'hover:bg-sunk')}
                      >
                        <span lang={f.language} className="line-clamp-2">
                          <Marked text={f.text} words={words} />
                        </span>
                        <span className="mt-0.5 flex flex-wrap items-center gap-x-2 text-tiny text-ink-2">
                          <b className="font-medium text-ink">{f.name}</b>
                          <span>
                            {[f.kindName.toLowerCase(), f.place, f.part].filter(Boolean).join(' · ')}
                            {f.channel && ` · ${CHANNEL_NAMES[f.channel].name}`}
                          </span>
                          <span>{languageName(f.language)}</span>
                          <Pill tone={tone} className="ml-auto">
                            {says}
                          </Pill>
                        </span>
                      </button>
                    </li>
                  );
                })}
              </ul>
            )}
          </div>
        </Panel>
        {open ? (
          <MendPanel key={idOf(open)} open={open} found={found} onMended={() => void refetch()} />
        ) : (
          <Panel label="Mend" className="p-4 text-small text-ink-2">
            <h2 className="mb-2 text-panel text-ink">Mending a sentence</h2>
            <p>
              A sentence of a live bot is mended by a version of its own, made from the live one: nothing else that is
              being written goes out with it. Conversations that are going on meet it from their next line. The draft
              has it too.
            </p>
          </Panel>
        )}
      </main>
    </>
  );
}

/** A text with what was looked for marked, as far as folding it leaves its letters where they are. */
function Marked({ text, words }: { text: string; words: readonly string[] }) {
  const plain = [...text].map((char) => folded(char) || char).join('');
  if (plain.length !== text.length) return text;
  const marks = new Array<boolean>(text.length).fill(false);
  for (const word of words)
    for (let at = plain.indexOf(word); at >= 0; at = plain.indexOf(word, at + 1))
      marks.fill(true, at, at + word.length);
  const runs: { text: string; marked: boolean }[] = [];
  [...marks.keys()].forEach((i) => {
    const last = runs.at(-1);
    const marked = marks[i] ?? false;
    if (last?.marked === marked) last.text += text[i] ?? '';
    else runs.push({ text: text[i] ?? '', marked });
  });
  return runs.map((run, i) =>
    run.marked ? (
      <mark key={i} className="rounded-sm bg-brass-wash text-ink">
        {run.text}
      </mark>
    ) : (
      run.text
    ),
  );
}
