'use client';

import { languageName } from '@/core/localised';
import type { ArticlesView } from '@/services/bots/articles';
import { DateField } from '../../kit/datefield';
import { Area, Field, Input } from '../../kit/field';
import { options, Select } from '../../kit/select';
import type { Draft } from './articledraft';
import { ArticleEffectOf } from './articleeffect';

type Article = ArticlesView['articles'][number];

/** What says the same in other languages, to be read beside what is written. */
function InOtherLanguages({
  articles,
  id,
  of,
  onOpen,
}: {
  articles: readonly Article[];
  id: string;
  of: string | undefined;
  onOpen: (article: Article) => void;
}) {
  const first = of ?? id;
  const others = articles.filter((a) => a.id !== id && (a.id === first || a.of === first));
  if (others.length === 0) return null;
  return (
    <section aria-label="In other languages" className="grid grid-cols-2 gap-2">
      {others.map((a) => (
        <div key={a.id} lang={a.language} className="rounded-control border border-rule px-3 py-2 text-small">
          <button type="button" className="font-medium hover:underline" onClick={() => onOpen(a)}>
            {a.name}
          </button>
          <span className="ml-2 text-tiny text-ink-2">{languageName(a.language)}</span>
          <p className="mt-1 whitespace-pre-wrap">{a.text}</p>
        </div>
      ))}
    </section>
  );
}

/** All that is written of an article, with what it does to kept questions and what says the same in other languages. */
export function ArticleFields({
  draft,
  view,
  faults,
  onDraft,
  onOpen,
}: {
  draft: Draft;
  view: ArticlesView;
  faults: Readonly<Record<string, string | undefined>>;
  onDraft: (draft: Draft) => void;
  onOpen: (article: Article) => void;
}) {
  return (
    <>
      <fieldset disabled={!view.mayChange} className="flex flex-col gap-3">
        <div className="grid grid-cols-[minmax(0,1fr)_130px] gap-3">
          <Field label="Title" fault={faults.name}>
            {(p) => (
              <Input
                {...p}
                required
                maxLength={120}
                value={draft.name}
                onChange={(e) => onDraft({ ...draft, name: e.target.value })}
              />
            )}
          </Field>
          <Field label="Language">
            {(p) => (
              <Select {...p} value={draft.language} onChange={(chosen) => onDraft({ ...draft, language: chosen })}>
                {options(view.languages, languageName)}
              </Select>
            )}
          </Field>
        </div>
        <Field label="Text" hint="Read out in parts of a few sentences by voice" fault={faults.text}>
          {(p) => (
            <Area
              {...p}
              required
              rows={6}
              maxLength={4000}
              value={draft.text}
              onChange={(e) => onDraft({ ...draft, text: e.target.value })}
            />
          )}
        </Field>
        <Field label="Questions it should answer" hint="One a line, as customers ask them: kept to see what changes do">
          {(p) => (
            <Area
              {...p}
              rows={3}
              value={(draft.asks ?? []).join('\n')}
              onChange={(e) => onDraft({ ...draft, asks: e.target.value === '' ? [] : e.target.value.split('\n') })}
            />
          )}
        </Field>
        <ArticleEffectOf draft={draft} />
        <div className="grid grid-cols-[minmax(0,1fr)_190px] gap-3">
          <Field label="Says the same as" hint="The article in another language, where there is one">
            {(p) => (
              <Select
                {...p}
                value={draft.of ?? ''}
                onChange={(chosen) => {
                  const { of: _of, ...rest } = draft;
                  onDraft(chosen === '' ? rest : { ...rest, of: chosen });
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
          <Field label="Look at it again on" hint="Stands in To fix from then on">
            {(p) => (
              <DateField
                {...p}
                value={draft.lookAgain ?? ''}
                onChange={(day) => {
                  const { lookAgain: _day, ...rest } = draft;
                  onDraft(day === '' ? rest : { ...rest, lookAgain: day });
                }}
              />
            )}
          </Field>
        </div>
      </fieldset>
      {draft.id !== null && <InOtherLanguages articles={view.articles} id={draft.id} of={draft.of} onOpen={onOpen} />}
    </>
  );
}
