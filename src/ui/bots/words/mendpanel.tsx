'use client';

import { useState } from 'react';
import { toast } from 'sonner';
import { CHANNEL_NAMES } from '@/core/channels';
import { languageName } from '@/core/localised';
import type { FoundWords } from '@/services/words/findwords';
import type { Mended } from '@/services/words/mendwords';
import { Button } from '../../kit/button';
import { Refused, sentence, setting } from '../../kit/call';
import { Area, Check, Field } from '../../kit/field';
import { Link } from '../../kit/link';
import { Panel } from '../../kit/panel';

const placeOf = (f: FoundWords): string => JSON.stringify([f.kind, f.id, f.key]);
const called = (f: FoundWords): string =>
  [f.name, f.place, f.part, f.channel && CHANNEL_NAMES[f.channel].name].filter(Boolean).join(' · ');
/** Values that a text shows, such as `{wait}`. */
const valuesIn = (text: string): string[] => [...new Set(text.match(/\{[^{}]*\}/g) ?? [])];

/** What came of it, in a sentence. */
function told({ places, bots }: Mended): string {
  const versions = bots.flatMap((b) => b.versions.map((v) => `version ${v.version} of ${b.name}`));
  const talking = bots.reduce((n, b) => n + b.talking, 0);
  return [
    places === 1 ? 'Mended.' : `Mended in ${places} places.`,
    versions.length > 0 ? `Customers meet ${versions.join(', ')}.` : '',
    talking > 0
      ? `${talking === 1 ? 'One conversation' : `${talking} conversations`} going on ${talking === 1 ? 'meets' : 'meet'} it from the next line.`
      : '',
  ]
    .filter(Boolean)
    .join(' ');
}

/** Words in place of a sentence that was found, there and wherever else the very same stands. */
export function MendPanel({
  open,
  found,
  onMended,
}: {
  open: FoundWords;
  found: readonly FoundWords[];
  onMended: () => void;
}) {
  const [to, setTo] = useState(open.text);
  const alike = found.filter(
    (f) => f.language === open.language && f.text === open.text && placeOf(f) !== placeOf(open),
  );
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  const [busy, setBusy] = useState(false);
  const [fault, setFault] = useState<string>();
  const chosen = [open, ...alike.filter((f) => f.mayMend && !without.has(placeOf(f)))];
  const most = Math.min(...chosen.map((f) => f.most));
  const talking = chosen.reduce((n, f) => n + f.live.reduce((m, l) => m + l.talking, 0), 0);
  const live = chosen.flatMap((f) => f.live);
  const lost = valuesIn(open.text).filter((value) => !to.includes(value));
  const mend = async () => {
    setBusy(true);
    setFault(undefined);
    try {
      const done = await setting<Mended>('mend-words', {
        language: open.language,
        from: open.text,
        to,
        at: chosen.map(({ kind, id, key }) => ({ kind, id, key })),
      });
      toast.success(told(done), { description: 'History takes it back.' });
      onMended();
    } catch (error) {
      setFault(error instanceof Refused ? (error.faults[0]?.what ?? sentence(error)) : sentence(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <Panel label="Mend" className="min-h-0 overflow-y-auto p-4">
      <h2 className="text-panel">{open.name}</h2>
      <p className="mb-3 text-small text-ink-2">
        {[open.place, open.part, open.channel && CHANNEL_NAMES[open.channel].name].filter(Boolean).join(' · ')} ·{' '}
        <Link href={open.path} className="text-plum underline underline-offset-2">
          open it there
        </Link>
      </p>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          void mend();
        }}
      >
        <Field label={`What it says, ${languageName(open.language)}`} fault={fault}>
          {(p) => (
            <Area
              {...p}
              lang={open.language}
              rows={Math.min(12, Math.max(3, Math.ceil(open.text.length / 40) + 1))}
              maxLength={most}
              required
              disabled={!open.mayMend}
              value={to}
              onChange={(e) => setTo(e.target.value)}
            />
          )}
        </Field>
        {alike.length > 0 && (
          <fieldset className="flex flex-col gap-1 text-small">
            <legend className="mb-1 text-ink-2">The very same also stands in</legend>
            {alike.map((f) => (
              <Check
                key={placeOf(f)}
                label={called(f)}
                disabled={!f.mayMend}
                checked={f.mayMend && !without.has(placeOf(f))}
                onChange={(e) => {
                  const next = new Set(without);
                  if (e.target.checked) next.delete(placeOf(f));
                  else next.add(placeOf(f));
                  setWithout(next);
                }}
              />
            ))}
          </fieldset>
        )}
        <ul className="flex flex-col gap-1 text-small text-ink-2">
          {live.length > 0 && (
            <li>
              Said by {[...new Set(live.map((l) => `${l.bot}, version ${l.version}`))].join('; ')}
              {talking > 0 ? `; ${talking} going on now` : ''}. A version of its own takes its place at once.
            </li>
          )}
          {live.length > 0 && !open.inDraft && (
            <li>What is being written says something else there already, and keeps it.</li>
          )}
          {chosen.some((f) => f.recorded) && (
            <li className="text-brass-ink">
              These words are recorded. What you mend is spoken until it is recorded anew.
            </li>
          )}
          {lost.length > 0 && (
            <li className="text-brass-ink">
              {lost.join(', ')} {lost.length === 1 ? 'is' : 'are'} not in it any more.
            </li>
          )}
        </ul>
        {open.mayMend ? (
          <div className="flex gap-2">
            <Button kind="primary" type="submit" disabled={busy || to.trim() === '' || to === open.text}>
              {chosen.length === 1 ? 'Mend it' : `Mend it in ${chosen.length} places`}
            </Button>
            <Button disabled={to === open.text} onClick={() => setTo(open.text)}>
              As it was
            </Button>
          </div>
        ) : (
          <p className="text-small text-ink-2">Your role does not change words here.</p>
        )}
      </form>
    </Panel>
  );
}
