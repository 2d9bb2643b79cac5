'use client';

import { useState } from 'react';
import type { BotScript } from '@/core/bots/model';
import { type Clip, GO_NEXT, KIND_WORDS, questionsOf } from '@/core/bots/references';
import type { Surroundings } from '@/services/bots/botviews';
import { Button } from '../../kit/button';
import { Dialog } from '../../kit/dialog';
import { Select } from '../../kit/select';
import { thingsOf } from './clip';

/**
 * Before copied lines are put in: each thing they refer to is kept or changed, so that nothing points at the old
 * place unseen.
 */
export function PasteDialog({
  clip,
  view,
  script,
  onPaste,
  onClose,
}: {
  clip: Clip;
  view: Surroundings;
  script: BotScript;
  onPaste: (decided: Readonly<Record<string, string>>) => void;
  onClose: () => void;
}) {
  const questions = questionsOf(clip);
  const things = thingsOf(view, script);
  const [decided, setDecided] = useState<Readonly<Record<string, string>>>({});
  const keyOf = (q: (typeof questions)[number]) => `${q.kind} ${q.id}`;
  const isThere = (q: (typeof questions)[number]) => things[q.kind].some((t) => t.id === q.id);
  const open = questions.filter((q) => decided[keyOf(q)] === undefined);
  const nameOf = (q: (typeof questions)[number]) =>
    clip.names[keyOf(q)] ?? things[q.kind].find((t) => t.id === q.id)?.name ?? 'something that is gone';
  return (
    <Dialog
      open
      onClose={onClose}
      title={`Put in ${clip.steps.length} ${clip.steps.length === 1 ? 'line' : 'lines'}`}
      description={
        questions.length === 0
          ? 'They refer to nothing outside themselves.'
          : 'They refer to these. Keep each or change it; among the lines themselves ways follow by themselves.'
      }
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          onPaste(decided);
        }}
      >
        <ul className="mb-3 max-h-80 overflow-y-auto">
          {questions.map((q, i) => (
            <li
              key={keyOf(q)}
              className="grid grid-cols-[minmax(0,1fr)_200px] items-center gap-2 border-t border-rule py-1.5 text-small"
            >
              <span>
                {KIND_WORDS[q.kind].replace(/^t/, 'T')} <b>{nameOf(q)}</b>
                {!isThere(q) && <span className="text-clay"> is not here</span>}
              </span>
              <Select
                autoFocus={i === 0}
                aria-label={`${KIND_WORDS[q.kind]} ${nameOf(q)}`}
                className="!py-1 text-small"
                value={decided[keyOf(q)] ?? ''}
                onChange={(chosen) => setDecided({ ...decided, [keyOf(q)]: chosen })}
              >
                <option value="" disabled>
                  keep or change?
                </option>
                {isThere(q) && <option value={q.id}>keep {nameOf(q)}</option>}
                {(q.kind === 'line' || q.kind === 'scene') && <option value={GO_NEXT}>go on with the next line</option>}
                {things[q.kind]
                  .filter((t) => t.id !== q.id)
                  .map((t) => (
                    <option key={t.id} value={t.id}>
                      change to {t.name}
                    </option>
                  ))}
              </Select>
            </li>
          ))}
        </ul>
        <div className="flex items-center gap-2">
          <Button kind="primary" type="submit" disabled={open.length > 0}>
            Put in
          </Button>
          {open.some(isThere) && (
            <Button
              onClick={() =>
                setDecided({ ...decided, ...Object.fromEntries(open.filter(isThere).map((q) => [keyOf(q), q.id])) })
              }
            >
              Keep the rest
            </Button>
          )}
          <Button kind="quiet" onClick={onClose}>
            Cancel
          </Button>
          {open.length > 0 && <span className="text-small text-ink-2">{open.length} still open</span>}
        </div>
      </form>
    </Dialog>
  );
}
