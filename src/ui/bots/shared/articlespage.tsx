'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { languageName } from '@/core/localised';
import type { ArticlesView } from '@/services/bots/articles';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Input } from '../../kit/field';
import { Link } from '../../kit/link';
import { ListPanel } from '../../kit/list';
import { useLive } from '../../kit/live';
import { Empty, Panel, Pill } from '../../kit/panel';
import { useSaving } from '../../kit/saving';
import { options, Select } from '../../kit/select';
import { Tabs } from '../../kit/tabs';
import { StopNav } from '../../lane/stopnav';
import { askedOf, type Draft, written } from './articledraft';
import { ArticleFields } from './articlefields';
import { ArticleQuestions } from './articlequestions';

type Article = ArticlesView['articles'][number];
const TABS = ['Articles', 'Questions asked'] as const;

/** Short answers kept in the workspace, which bots find by the customer's words and quote with their title. */
export function ArticlesPage({
  initial,
  open,
}: {
  initial: ArticlesView;
  /** The article to begin with. */ open: string | null;
}) {
  const { data, refetch } = useLive<ArticlesView>('/api/read/articles', ['settings.changed'], initial);
  const view = data ?? initial;
  const [draft, setDraft] = useState<Draft | null>(() => {
    const first = view.articles.find((a) => a.id === open) ?? view.articles[0];
    return first ? written(first) : null;
  });
  const [tab, setTab] = useState<(typeof TABS)[number]>('Articles');
  const begun: Draft = { id: null, revision: 0, name: '', language: view.languages[0] ?? 'en', text: '' };
  const [question, setQuestion] = useState('');
  const [language, setLanguage] = useState(view.languages[0] ?? 'en');
  const [answer, setAnswer] = useState<{ found: { title: string; text: string } | null } | null>(null);
  const saving = useSaving<{ id: string; revision: number }>('save-article', {
    latest: () =>
      refetch().then((v) => {
        const now = v.data?.articles.find((a) => a.id === draft?.id);
        return now && written(now);
      }),
    nameOf: (id) => id,
    onTheirs: () => {
      const theirs = view.articles.find((a) => a.id === draft?.id);
      setDraft(theirs ? written(theirs) : null);
    },
    onSaved: (a) => setDraft(draft && { ...draft, ...a }),
  });
  const save = async () => {
    if (!draft) return;
    const asks = askedOf(draft);
    const done = await saving.save({ ...draft, asks }, `${draft.name} is kept.`);
    if (done) {
      setDraft({ ...draft, ...done });
      void refetch();
    }
  };
  const remove = async (article: Article) => {
    try {
      await setting('remove-bot-part', { kind: 'article', id: article.id });
      toast.success(`${article.name} is gone.`);
      setDraft(null);
      void refetch();
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const ask = async () => {
    try {
      setAnswer(await setting('ask-articles', { question: question.trim(), language }));
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const show = (article: Draft) => {
    setDraft(article);
    setTab('Articles');
  };
  const write = (asked: string, of: string) =>
    show({ ...begun, name: asked.charAt(0).toUpperCase() + asked.slice(1, 120), language: of });
  return (
    <>
      <StopNav stop="Bots" />
      <Tabs label="Parts of the articles" of={TABS} shown={tab} onShow={setTab} className="pt-3" />
      {tab === 'Questions asked' ? (
        <main className="p-4 pt-3">
          <ArticleQuestions
            onOpen={(id) => {
              const article = view.articles.find((a) => a.id === id);
              if (article) show(written(article));
            }}
            onWrite={view.mayChange ? write : null}
          />
        </main>
      ) : (
        <main className="grid grid-cols-[300px_minmax(0,1fr)_320px] gap-3 p-4 pt-3">
          <ListPanel
            title="Articles"
            none="A bot that answers from articles says that nothing fits until there is one."
            tools={
              view.mayChange && (
                <Button small onClick={() => setDraft(begun)}>
                  New article
                </Button>
              )
            }
            things={view.articles}
            openId={draft?.id}
            onOpen={(a) => setDraft(written(a))}
            line={(a) => (
              <>
                <span className="min-w-0 flex-1 truncate">{a.name}</span>
                {a.due && <Pill tone="warn">look again</Pill>}
                <span className="text-tiny text-ink-2">{a.language}</span>
              </>
            )}
          />
          <Panel label="Article" className="self-start p-4">
            {!draft ? (
              <Empty title="Choose an article" />
            ) : (
              <form
                className="flex flex-col gap-3"
                onSubmit={(e) => {
                  e.preventDefault();
                  void save();
                }}
              >
                <ArticleFields
                  draft={draft}
                  view={view}
                  faults={saving.faults}
                  onDraft={setDraft}
                  onOpen={(a) => setDraft(written(a))}
                />
                {view.mayChange && (
                  <div className="flex gap-2">
                    <Button kind="primary" type="submit" disabled={saving.busy}>
                      Keep the article
                    </Button>
                    {draft.id !== null && (
                      <Button
                        kind="danger"
                        onClick={() => {
                          const there = view.articles.find((a) => a.id === draft.id);
                          if (there) void remove(there);
                        }}
                      >
                        Remove
                      </Button>
                    )}
                    {draft.id !== null && (
                      <Link className="self-center text-small text-plum underline" href={`/history?thing=${draft.id}`}>
                        Earlier versions
                      </Link>
                    )}
                  </div>
                )}
              </form>
            )}
          </Panel>
          <Panel label="Ask" className="self-start p-4">
            <h2 className="mb-2 text-panel">Ask like a customer</h2>
            <form
              className="flex flex-col gap-2"
              onSubmit={(e) => {
                e.preventDefault();
                if (question.trim()) void ask();
              }}
            >
              <Input
                aria-label="Question"
                placeholder="when do I get my deposit back"
                value={question}
                maxLength={300}
                onChange={(e) => setQuestion(e.target.value)}
              />
              <div className="flex gap-2">
                <Select
                  aria-label="Language of the question"
                  className="!w-32"
                  value={language}
                  onChange={(chosen) => setLanguage(chosen)}
                >
                  {options(view.languages, languageName)}
                </Select>
                <Button type="submit" disabled={!question.trim()}>
                  Ask
                </Button>
              </div>
            </form>
            {answer && (
              <div aria-live="polite" className="mt-3 rounded-control bg-sunk p-3 text-small">
                {answer.found ? (
                  <>
                    <b className="block">{answer.found.title}</b>
                    {answer.found.text}
                  </>
                ) : (
                  'Nothing fits. The bot says so, and goes on.'
                )}
              </div>
            )}
          </Panel>
          {saving.conflict}
        </main>
      )}
    </>
  );
}
