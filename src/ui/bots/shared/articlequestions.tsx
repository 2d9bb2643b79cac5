'use client';

import { useState } from 'react';
import { languageName } from '@/core/localised';
import type { ArticleAsked, ArticleQuestionsView } from '@/services/bots/articlequestions';
import { Button } from '../../kit/button';
import { useLive } from '../../kit/live';
import { Empty, Panel, PanelHead, Pill } from '../../kit/panel';
import { Select } from '../../kit/select';
import { type Column, Table } from '../../kit/table';

const DAYS = ['7', '28', '90'] as const;

/** A figure with the share it is of what was asked. */
const share = (n: number, of: number) => (
  <>
    {n}
    <span className="ml-1.5 inline-block w-9 text-tiny text-ink-2">
      {of === 0 ? '' : `${Math.round((100 * n) / of)}%`}
    </span>
  </>
);

/** What customers asked of the articles, which answered and what followed; below, what none fitted, to be written. */
export function ArticleQuestions({
  onOpen,
  onWrite,
}: {
  onOpen: (articleId: string) => void;
  /** Null for whoever may not change articles. */
  onWrite: ((question: string, language: string) => void) | null;
}) {
  const [days, setDays] = useState<string>('28');
  const { data, error } = useLive<ArticleQuestionsView>(`/api/read/article-questions?days=${days}`, []);
  const columns: readonly Column<ArticleAsked>[] = [
    {
      id: 'article',
      head: 'Article',
      by: (a) => a.title ?? '',
      cell: (a) => (
        <>
          {a.title === null ? (
            <span className="text-ink-2">removed since</span>
          ) : (
            <button type="button" className="text-left font-medium hover:underline" onClick={() => onOpen(a.id)}>
              {a.title}
            </button>
          )}
          <span
            className="block max-w-[46ch] truncate text-tiny text-ink-2"
            title={a.questions.map((q) => q.text).join('\n')}
          >
            {a.questions.map((q) => `“${q.text}”${q.times > 1 ? ` ×${q.times}` : ''}`).join(' · ')}
          </span>
        </>
      ),
    },
    { id: 'language', head: 'Language', by: (a) => a.language, cell: (a) => languageName(a.language) },
    { id: 'asked', head: 'Answered with it', figure: true, by: (a) => a.asked, cell: (a) => a.asked },
    {
      id: 'again',
      head: 'then asked again',
      figure: true,
      by: (a) => a.followed['asked-again'] / a.asked,
      cell: (a) => share(a.followed['asked-again'], a.asked),
    },
    {
      id: 'person',
      head: 'then a person',
      figure: true,
      by: (a) => a.followed.person / a.asked,
      cell: (a) => share(a.followed.person, a.asked),
    },
    {
      id: 'ended',
      head: 'then over',
      figure: true,
      by: (a) => a.followed.ended / a.asked,
      cell: (a) => share(a.followed.ended, a.asked),
    },
  ];
  return (
    <div className="flex flex-col gap-3">
      <Panel label="Questions asked">
        <PanelHead
          as="h2"
          title="Which article answered"
          marks={data && <Pill>{data.asked === 1 ? '1 question' : `${data.asked} questions`}</Pill>}
        >
          <Select aria-label="How far back" value={days} onChange={setDays} compact>
            {DAYS.map((d) => (
              <option key={d} value={d}>
                last {d} days
              </option>
            ))}
          </Select>
        </PanelHead>
        {error ? (
          <p role="alert" className="px-4 py-3 text-small text-clay">
            What was asked could not be read. It is tried again when something changes.
          </p>
        ) : !data ? (
          <p role="status" className="px-4 py-6 text-small text-ink-2">
            Reading what was asked…
          </p>
        ) : data.articles.length === 0 ? (
          <Empty title="No article has answered yet">
            What customers ask of a bot that answers from articles stands here, with what followed.
          </Empty>
        ) : (
          <Table label="Articles by what was asked" rows={data.articles} columns={columns} idOf={(a) => a.id} />
        )}
        {data?.cut && <p className="px-4 py-2 text-tiny text-ink-2">The newest {data.asked} questions are counted.</p>}
      </Panel>
      {data && data.asked > 0 && (
        <Panel label="Nothing fitted">
          <PanelHead
            as="h2"
            title="Nothing fitted"
            marks={<Pill tone={data.nothingTotal > 0 ? 'warn' : 'plain'}>{data.nothingTotal}</Pill>}
          />
          {data.nothing.length === 0 ? (
            <Empty title="Every question was answered">
              What no article fits is put together here by what it asks for.
            </Empty>
          ) : (
            <ul>
              {data.nothing.map((group) => {
                const [first] = group.questions;
                if (!first) return null;
                return (
                  <li
                    key={`${group.language} ${first.text}`}
                    className="flex items-center gap-3 border-t border-rule px-4 py-2 first:border-t-0"
                  >
                    <span className="w-10 text-right font-medium tabular-nums">{group.times}</span>
                    <span className="min-w-0 flex-1">
                      <span className="block truncate font-medium">“{first.text}”</span>
                      {group.questions.length > 1 && (
                        <span className="block truncate text-tiny text-ink-2">
                          {group.questions
                            .slice(1)
                            .map((q) => `“${q.text}”`)
                            .join(' · ')}
                        </span>
                      )}
                    </span>
                    <span className="text-tiny text-ink-2">{languageName(group.language)}</span>
                    {onWrite && (
                      <Button small onClick={() => onWrite(first.text, group.language)}>
                        Write one
                      </Button>
                    )}
                  </li>
                );
              })}
            </ul>
          )}
        </Panel>
      )}
    </div>
  );
}
