'use client';

import type { Cue, Given as GivenValue, Step, Taken } from '@/core/bots/model';
import { localised } from '@/core/localised';
import { useAround } from './around';
import { useCueWords } from './cueselect';
import { Value, Worded } from './wordingeditor';

type Shown = { readonly label: string; readonly cue: Cue | null };

export function Cues({ cues }: { cues: readonly Shown[] }) {
  const words = useCueWords();
  return (
    <ul className="mt-0.5">
      {cues.map((c, i) => {
        const to = c.cue && words(c.cue);
        return (
          <li key={i} className="grid grid-cols-[minmax(0,210px)_20px_minmax(0,1fr)] text-small">
            <span className="truncate font-semibold" title={c.label}>
              {c.label}
            </span>
            <span className="text-ink-3">→</span>
            <span>
              {c.cue === null ? (
                <span className="text-clay">nowhere yet</span>
              ) : to === null ? (
                <span className="text-clay">gone</span>
              ) : c.cue.to === 'next' ? (
                <span className="text-ink-2">next line</span>
              ) : (
                <span className="rounded bg-plum-wash px-1.5 text-plum">{to}</span>
              )}
            </span>
          </li>
        );
      })}
    </ul>
  );
}

export const TYPES = {
  text: 'whatever they say',
  whole: 'a whole number',
  date: 'a date',
  time: 'a time',
  'yes-no': 'yes or no',
  telephone: 'a telephone number',
  email: 'a mail address',
  pattern: 'such as',
  listed: 'one of',
} as const;

export const Gone = ({ what }: { what: string }) => (
  <span className="text-clay underline decoration-wavy">{what} that is gone</span>
);

export const Inputs = ({ inputs }: { inputs: readonly GivenValue[] }) => (
  <>
    {inputs.map((g, i) => (
      <span key={g.name}>
        {i > 0 && ', '}
        <Worded text={g.value} />
      </span>
    ))}
  </>
);

export const Outputs = ({ outputs }: { outputs: readonly Taken[] }) =>
  outputs.length === 0 ? null : (
    <>
      {' '}
      →{' '}
      {outputs.map((o) => (
        <span key={o.name} className="mr-1">
          <Value name={o.into.name} />
        </span>
      ))}
    </>
  );

export function SlowNote({ step }: { step: Extract<Step, { verb: 'look-up' | 'do' }> }) {
  const { script } = useAround();
  const text = localised(step.slow.text, script.languages[0] ?? 'en', script.languages);
  return text ? (
    <span className="float-right text-tiny text-ink-2">
      “{text}” after {step.slowAfterSeconds} s
    </span>
  ) : null;
}
