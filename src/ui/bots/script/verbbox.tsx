'use client';

import { clsx } from 'clsx';
import { useId, useState } from 'react';
import { VERB_NAMES, VERBS, type Verb } from '@/core/bots/model';

const HINTS: Readonly<Record<Verb, string>> = {
  say: 'words, variants, a link, a picture',
  listen: 'a choice, an intent or a value',
  branch: 'by values, hours, figures',
  'look-up': 'in a connector or a table',
  do: 'change something outside',
  count: 'people and waits of a queue',
  remember: 'a value',
  identify: 'the customer',
  hours: 'open or closed',
  'text-them': 'an SMS now or after',
  'hand-over': 'to a queue, group, person',
  'call-back': 'a number, a time, a promise',
  'take-message': 'work for a queue',
  articles: 'short answers',
  play: 'a shared scene and back',
  'go-to': 'a line or scene',
  end: 'the conversation',
};

/** A new line begins by typing its verb: Enter takes the one marked, arrows choose another, Escape leaves. */
export function VerbBox({
  label,
  onVerb,
  onLeave,
}: {
  label: string;
  onVerb: (verb: Verb) => void;
  onLeave: () => void;
}) {
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const list = useId();
  const fitting = VERBS.filter((v) => VERB_NAMES[v].toLowerCase().startsWith(typed.trim().toLowerCase())).concat(
    VERBS.filter(
      (v) =>
        typed.trim() !== '' &&
        !VERB_NAMES[v].toLowerCase().startsWith(typed.trim().toLowerCase()) &&
        `${VERB_NAMES[v]} ${HINTS[v]}`.toLowerCase().includes(typed.trim().toLowerCase()),
    ),
  );
  const marked = fitting[Math.min(at, fitting.length - 1)];
  return (
    <div className="border-b border-rule bg-chosen px-4 py-1.5 pl-[60px]">
      <input
        autoFocus
        role="combobox"
        aria-expanded
        aria-controls={list}
        aria-activedescendant={marked ? `${list}-${marked}` : undefined}
        aria-label={label}
        placeholder="type a verb: say, listen, hand over…"
        value={typed}
        className="w-72 rounded-control border border-rule-strong bg-sheet px-2 py-1"
        onChange={(e) => {
          setTyped(e.target.value);
          setAt(0);
        }}
        onBlur={onLeave}
        onKeyDown={(e) => {
          if (e.key === 'Escape') {
            e.preventDefault();
            e.stopPropagation();
            onLeave();
          } else if (e.key === 'Enter') {
            e.preventDefault();
            if (marked) onVerb(marked);
          } else if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
            e.preventDefault();
            setAt(
              (was) =>
                (Math.min(was, fitting.length - 1) + (e.key === 'ArrowDown' ? 1 : -1) + fitting.length) %
                Math.max(1, fitting.length),
            );
          }
        }}
      />
      <ul id={list} role="listbox" aria-label="Verbs" className="mt-1 flex flex-wrap gap-1">
        {fitting.length === 0 && <li className="text-small text-clay">No verb begins like that.</li>}
        {fitting.map((v) => (
          <li
            key={v}
            id={`${list}-${v}`}
            role="option"
            aria-selected={v === marked}
            title={HINTS[v]}
            onMouseDown={(e) => {
              e.preventDefault();
              onVerb(v);
            }}
            className={clsx(
              'cursor-pointer rounded-control px-2 py-0.5 text-small',
              v === marked ? 'bg-plum text-on-plum' : 'bg-sheet hover:bg-sunk',
            )}
          >
            {VERB_NAMES[v]}
          </li>
        ))}
      </ul>
      {marked && (
        <p className="mt-0.5 text-tiny text-ink-2">
          {VERB_NAMES[marked]}: {HINTS[marked]}
        </p>
      )}
    </div>
  );
}
