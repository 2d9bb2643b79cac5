'use client';

import { wordingSpeech } from '@/core/messages/ssml';
import { clsx } from 'clsx';
import { useState } from 'react';
import { toast } from 'sonner';
import type { BotScript } from '@/core/bots/model';
import { type Channel, CHANNEL_NAMES } from '@/core/channels';
import { languageName } from '@/core/localised';
import { lineOfSaid } from '@/core/words/botwords';
import { readWordsCsv, wordsCsv, type WordsRead } from '@/core/words/file';
import { lacks } from '@/core/words/said';
import { saidIn, withSaid, withTexts } from '@/core/words/wordings';
import { hush, speak } from '../../handset/tones';
import { Button } from '../../kit/button';
import { Dialog } from '../../kit/dialog';
import { download, fileName } from '../../kit/download';
import { Check } from '../../kit/field';
import { FilePick } from '../../kit/filepick';
import { fileText } from '../../kit/fileread';
import { Empty } from '../../kit/panel';
import { options, Select } from '../../kit/select';
import { Table } from '../../kit/table';
import { Lengths } from './wordingeditor';

/**
 * Every sentence in every language in one grid; what is missing stands out, lengths are counted, files go out and
 * come in per language.
 */
export function WordingTable({
  script,
  channels,
  mayChange,
  onChange,
  onLine,
}: {
  script: BotScript;
  channels: readonly Channel[];
  mayChange: boolean;
  onChange: (script: BotScript) => void;
  onLine: (lineId: string) => void;
}) {
  const [onlyMissing, setOnlyMissing] = useState(false);
  const [language, setLanguage] = useState(script.languages[1] ?? script.languages[0] ?? 'en');
  const [read, setRead] = useState<WordsRead | null>(null);
  const all = saidIn('bot', script).map((said) => ({ ...said, id: said.key }));
  const from = script.languages[0] ?? 'en';
  // A sentence that is being typed stays, although it is missing no more.
  const rows = onlyMissing ? all.filter((r) => script.languages.some((l) => lacks(r, l))) : all;
  const bring = async (picked: File) => {
    if (picked.size > 2_000_000) return void toast.error('The file is larger than 2 MB.');
    setRead(readWordsCsv(all, from, language, await fileText(picked)));
  };
  const hear = (text: string, l: string) => {
    hush();
    speak(wordingSpeech(text), l);
  };
  return (
    <div className="p-4">
      <div className="mb-2 flex flex-wrap items-center gap-2 text-small">
        {script.languages.map((l) => {
          const n = all.filter((r) => lacks(r, l)).length;
          return (
            <span
              key={l}
              className={clsx(
                'rounded-full px-2 py-px text-tiny',
                n > 0 ? 'bg-clay-wash text-clay' : 'bg-moss-wash text-moss',
              )}
            >
              {languageName(l)}: {n > 0 ? `${n} missing` : 'complete'}
            </span>
          );
        })}
        <Check label="only what is missing" checked={onlyMissing} onChange={(e) => setOnlyMissing(e.target.checked)} />
        <span className="ml-auto flex items-center gap-1.5">
          <Select
            aria-label="Language of the file"
            className="!w-28 !py-1 text-small"
            value={language}
            onChange={(chosen) => setLanguage(chosen)}
          >
            {options(script.languages, languageName)}
          </Select>
          <Button
            small
            onClick={() =>
              download(
                `${fileName(script.shownName)}-${language}.csv`,
                'text/csv;charset=utf-8',
                wordsCsv(all, from, language),
              )
            }
          >
            Take out as CSV
          </Button>
          {mayChange && (
            <FilePick small label="Wording file" accept=".csv,text/csv" onFile={(f) => void bring(f)}>
              Bring in…
            </FilePick>
          )}
        </span>
      </div>
      {rows.length === 0 ? (
        <Empty title={onlyMissing ? 'Nothing is missing' : 'No wording yet'} />
      ) : (
        <table className="w-full table-fixed border-collapse text-left text-small">
          <colgroup>
            <col className="w-14" />
            <col className="w-32" />
            {script.languages.map((l) => (
              <col key={l} />
            ))}
          </colgroup>
          <thead className="sticky top-0 z-[1] bg-sheet text-tiny text-ink-2">
            <tr>
              <th className="py-1 font-medium">Line</th>
              <th className="font-medium">Part</th>
              {script.languages.map((l) => (
                <th key={l} className="px-1 font-medium">
                  {languageName(l)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((r) => (
              <tr key={r.id} className="border-t border-rule align-top">
                <td className="py-1.5">
                  {lineOfSaid(r) === null ? (
                    <span className="text-ink-3">all</span>
                  ) : (
                    <button
                      type="button"
                      className="text-plum underline-offset-2 hover:underline"
                      onClick={() => onLine(lineOfSaid(r) ?? '')}
                    >
                      {r.place}
                    </button>
                  )}
                </td>
                <td className="py-1.5 pr-2 text-ink-2">
                  {r.part}
                  {r.channel && <b className="block font-medium text-ink">{CHANNEL_NAMES[r.channel].name}</b>}
                </td>
                {script.languages.map((l) => {
                  const text = r.texts[l] ?? '';
                  return (
                    <td key={l} className={clsx('px-1 py-1', lacks(r, l) && 'bg-clay-wash')}>
                      <textarea
                        aria-label={`${r.place || 'All'}, ${r.part}, ${languageName(l)}`}
                        lang={l}
                        disabled={!mayChange}
                        rows={Math.max(
                          1,
                          Math.min(5, Math.ceil(text.length / (script.languages.length > 2 ? 26 : 42))),
                        )}
                        maxLength={r.most}
                        placeholder={lacks(r, l) ? 'missing' : ''}
                        value={text}
                        onChange={(e) => onChange(withSaid('bot', script, r.key, l, e.target.value))}
                        className={clsx(
                          'block w-full resize-none rounded-control border border-transparent bg-transparent px-1',
                          'hover:border-rule focus:border-rule-strong focus:bg-sheet',
                        )}
                      />
                      {(r.channel ? [r.channel] : channels).some((c) => c === 'voice' || c === 'sms') && (
                        <span className="flex items-baseline gap-2 px-1">
                          <Lengths text={text} channels={r.channel ? [r.channel] : channels} />
                          {text && channels.includes('voice') && (r.channel === null || r.channel === 'voice') && (
                            <button
                              type="button"
                              aria-label={`Hear ${r.place || 'it'} in ${languageName(l)}`}
                              className="text-tiny text-plum hover:underline"
                              onClick={() => hear(text, l)}
                            >
                              hear
                            </button>
                          )}
                        </span>
                      )}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <Dialog
        open={read !== null}
        onClose={() => setRead(null)}
        title={`Wording in ${languageName(language)}`}
        description={
          read?.faults.length
            ? 'The file has faults, so nothing is taken from it.'
            : `${read?.changes.length ?? 0} sentences would change.`
        }
        wide
      >
        {read && read.faults.length > 0 ? (
          <ul className="max-h-80 overflow-y-auto text-small text-clay" role="alert">
            {read.faults.slice(0, 50).map((f, i) => (
              <li key={i}>
                Row {f.row}: {f.what}
              </li>
            ))}
          </ul>
        ) : (
          <>
            <Table
              compact
              label="What the file changes"
              rows={read?.changes.slice(0, 100) ?? []}
              idOf={(c) => c.id}
              rowClass={() => 'align-top'}
              columns={[
                { id: 'line', head: 'Line', cell: (c) => c.place },
                { id: 'now', head: 'Now', cell: (c) => c.from || '–', className: 'text-ink-2' },
                { id: 'then', head: 'Then', cell: (c) => c.to || '–' },
              ]}
            />
            <div className="mt-3 flex gap-2">
              <Button
                kind="primary"
                disabled={read?.changes.length === 0}
                onClick={() => {
                  if (read)
                    onChange(withTexts('bot', script, language, new Map(read.changes.map((c) => [c.id, c.to]))));
                  setRead(null);
                  toast.success('Taken into the draft. Undo takes it back.');
                }}
              >
                Take it into the draft
              </Button>
              <Button onClick={() => setRead(null)}>Cancel</Button>
            </div>
          </>
        )}
      </Dialog>
    </div>
  );
}
