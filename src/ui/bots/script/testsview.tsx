'use client';

import { useRef, useState } from 'react';
import { toast } from 'sonner';
import type { BotScript } from '@/core/bots/model';
import type { Trial, TrialResult } from '@/core/bots/trial';
import { languageName } from '@/core/localised';
import type { BotView } from '@/services/bots/botviews';
import { Button } from '../../kit/button';
import { sentence, setting } from '../../kit/call';
import { ChannelMark } from '../../kit/channelmark';
import { Empty, Pill } from '../../kit/panel';
import { Progress } from '../../kit/progress';

const WHERE = {
  person: 'ends with a person',
  promise: 'ends with a call promised',
  end: 'ends by itself',
  listening: 'still listens',
} as const;

/** Tried conversations that were kept: all are run when the bot is published, and here as often as wanted. */
export function TestsView({ view, script, onChanged }: { view: BotView; script: BotScript; onChanged: () => void }) {
  const [results, setResults] = useState<ReadonlyMap<string, TrialResult>>(new Map());
  const [running, setRunning] = useState<{ done: number; of: number } | null>(null);
  const [opened, setOpened] = useState<string | null>(null);
  const stopped = useRef(false);
  const run = async (tests: readonly Trial[]) => {
    stopped.current = false;
    setRunning({ done: 0, of: tests.length });
    try {
      for (const [i, test] of tests.entries()) {
        if (stopped.current) break;
        const result = await setting<TrialResult>('run-bot-test', { id: test.id, script });
        setResults((was) => new Map([...was, [test.id, result]]));
        setRunning({ done: i + 1, of: tests.length });
      }
    } catch (error) {
      toast.error(sentence(error));
    } finally {
      setRunning(null);
    }
  };
  /** What the bot does now is right: the test expects it from now on. */
  const expectNow = async (test: Trial, { now }: TrialResult) => {
    try {
      await setting('keep-bot-test', {
        contactId: null,
        botId: view.bot.id,
        id: test.id,
        name: test.name,
        setting: test.setting,
        ...now,
      });
      setResults((was) => new Map([...was, [test.id, { passed: true, otherwise: [], turn: null, now }]]));
      toast.success(`${test.name} expects what the bot does now. What it expected can be brought back in History.`);
      onChanged();
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const remove = async (test: Trial) => {
    try {
      await setting('remove-bot-test', { id: test.id });
      toast.success(`The test ${test.name} is gone. It can be brought back in History.`);
      onChanged();
    } catch (error) {
      toast.error(sentence(error));
    }
  };
  const failed = [...results.values()].filter((r) => !r.passed).length;
  if (view.tests.length === 0)
    return <Empty title="No test yet">Try the bot beside this, then press “Keep as test”.</Empty>;
  return (
    <div className="p-4">
      <div className="mb-2 flex items-center gap-2">
        <Button kind="primary" disabled={running !== null} onClick={() => void run(view.tests)}>
          Run all {view.tests.length}
        </Button>
        {running && (
          <>
            <Progress says={`${running.done} of ${running.of}`} done={running.done} total={running.of} />
            <Button
              small
              onClick={() => {
                stopped.current = true;
              }}
            >
              Stop
            </Button>
          </>
        )}
        {!running && results.size > 0 && (
          <span role="status" className="text-small">
            {failed === 0 ? (
              <Pill tone="good">{results.size} pass</Pill>
            ) : (
              <Pill tone="bad">
                {failed} of {results.size} fail
              </Pill>
            )}
          </span>
        )}
        {!running && results.size === 0 && (
          <span className="text-small text-ink-2">
            A conversation tried beside this becomes another with “Keep as test”.
          </span>
        )}
      </div>
      <ul>
        {view.tests.map((test) => {
          const result = results.get(test.id);
          return (
            <li key={test.id} className="border-t border-rule py-2">
              <div className="flex items-center gap-2">
                <ChannelMark channel={test.setting.channel} size={18} />
                <b className="min-w-0 truncate font-medium">{test.name}</b>
                <span className="text-small text-ink-2">
                  {languageName(test.setting.language)} · {test.turns.length - 1}{' '}
                  {test.turns.length === 2 ? 'answer' : 'answers'} · {WHERE[test.ending.where]}
                  {test.ending.queueId &&
                    ` in ${view.queues.find((q) => q.id === test.ending.queueId)?.name ?? 'a queue that is gone'}`}
                </span>
                <span className="ml-auto flex items-center gap-1.5">
                  {result && <Pill tone={result.passed ? 'good' : 'bad'}>{result.passed ? 'passes' : 'fails'}</Pill>}
                  <Button
                    small
                    kind="quiet"
                    aria-expanded={opened === test.id}
                    onClick={() => setOpened(opened === test.id ? null : test.id)}
                  >
                    {opened === test.id ? 'Close' : 'Open'}
                  </Button>
                  <Button
                    small
                    disabled={running !== null}
                    aria-label={`Run ${test.name}`}
                    onClick={() => void run([test])}
                  >
                    Run
                  </Button>
                  {view.mayChange && (
                    <Button small kind="quiet" aria-label={`Remove ${test.name}`} onClick={() => void remove(test)}>
                      Remove
                    </Button>
                  )}
                </span>
              </div>
              {result && !result.passed && (
                <div className="mt-1 flex items-start gap-3 pl-7 text-small">
                  <ul className="min-w-0 flex-1 text-clay">
                    {result.otherwise.map((o, i) => (
                      <li key={i}>{o}</li>
                    ))}
                  </ul>
                  {view.mayChange && (
                    <Button
                      small
                      aria-label={`Expect this of ${test.name}`}
                      onClick={() => void expectNow(test, result)}
                    >
                      Expect this from now on
                    </Button>
                  )}
                </div>
              )}
              {opened === test.id && (
                <ol className="mt-1.5 flex flex-col gap-1 rounded-control bg-sunk p-2 text-small">
                  {test.turns.map((t, i) => (
                    <li key={i} className={result?.turn === i ? 'rounded bg-clay-wash px-1' : undefined}>
                      {t.input.type !== 'start' && (
                        <b className="block text-tide">
                          {t.input.type === 'text'
                            ? `“${t.input.text}”`
                            : t.input.type === 'key'
                              ? `key ${t.input.key}`
                              : t.input.type}
                        </b>
                      )}
                      {t.says.map((s, j) => (
                        <span key={j} className="block whitespace-pre-wrap">
                          {s}
                        </span>
                      ))}
                    </li>
                  ))}
                </ol>
              )}
            </li>
          );
        })}
      </ul>
    </div>
  );
}
