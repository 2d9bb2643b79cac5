'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { languageName } from '@/core/localised';
import type { ArticlesView } from '@/services/bots/articles';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { Area, Field, Input } from '../../kit/field';
import { ListPanel } from '../../kit/list';
import { useLive } from '../../kit/live';
import { Empty, Panel } from '../../kit/panel';
import { useSaving } from '../../kit/saving';
import { options, Select } from '../../kit/select';
import { StopNav } from '../../lane/stopnav';

type Article = ArticlesView['articles'][number];
type Draft = Omit<Article, 'id'> & { readonly id: string | null };

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
  const [draft, setDraft] = useState<Draft | null>(
    view.articles.find((a) => a.id === open) ?? view.articles[0] ?? null,
  );
  const [question, setQuestion] = useState('');
  const [language, setLanguage] = useState(view.languages[0] ?? 'en');
  const [answer, setAnswer] = useState<{ found: { title: string; text: string } | null } | null>(null);
  const saving = useSaving<{ id: string; revision: number }>('save-article', {
    latest: () => refetch().then((v) => v.data?.articles.find((a) => a.id === draft?.id)),
    nameOf: (id) => id,
    onTheirs: () => setDraft(view.articles.find((a) => a.id === draft?.id) ?? null),
    onSaved: (a) => setDraft(draft && { ...draft, ...a }),
  });
  const save = async () => {
    if (!draft) return;
    const done = await saving.save(draft, `${draft.name} is kept.`);
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
  return (
    <>
      <StopNav stop="Bots" />
      <main className="grid grid-cols-[300px_minmax(0,1fr)_320px] gap-3 p-4">
        <ListPanel
          title="Articles"
          none="A bot that answers from articles says that nothing fits until there is one."
          tools={
            view.mayChange && (
              <Button
                small
                onClick={() =>
                  setDraft({ id: null, revision: 0, name: '', language: view.languages[0] ?? 'en', text: '' })
                }
              >
                New article
              </Button>
            )
          }
          things={view.articles}
          openId={draft?.id}
          onOpen={setDraft}
          line={(a) => (
            <>
              <span className="min-w-0 flex-1 truncate">{a.name}</span>
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
              <fieldset disabled={!view.mayChange} className="flex flex-col gap-3">
                <div className="grid grid-cols-[minmax(0,1fr)_130px] gap-3">
                  <Field label="Title" fault={saving.faults.name}>
                    {(p) => (
                      <Input
                        {...p}
                        required
                        maxLength={120}
                        value={draft.name}
                        onChange={(e) => setDraft({ ...draft, name: e.target.value })}
                      />
                    )}
                  </Field>
                  <Field label="Language">
                    {(p) => (
                      <Select
                        {...p}
                        value={draft.language}
                        onChange={(chosen) => setDraft({ ...draft, language: chosen })}
                      >
                        {options(view.languages, languageName)}
                      </Select>
                    )}
                  </Field>
                </div>
                <Field label="Says the same as" hint="The article in another language, where there is one">
                  {(p) => (
                    <Select
                      {...p}
                      value={draft.of ?? ''}
                      onChange={(chosen) => {
                        const { of: _of, ...rest } = draft;
                        setDraft(chosen === '' ? rest : { ...rest, of: chosen });
                      }}
                    >
                      <option value="">none</option>
                      {view.articles
                        .filter((a) => a.id !== draft.id && a.language !== draft.language && a.of === undefined)
                        .map((a) => (
                          <option key={a.id} value={a.id}>
                            {a.name}
                          </option>
                        ))}
                    </Select>
                  )}
                </Field>
                <Field label="Text" hint="Read out in parts of a few sentences by voice" fault={saving.faults.text}>
                  {(p) => (
                    <Area
                      {...p}
                      required
                      rows={10}
                      maxLength={4000}
                      value={draft.text}
                      onChange={(e) => setDraft({ ...draft, text: e.target.value })}
                    />
                  )}
                </Field>
              </fieldset>
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
    </>
  );
}
