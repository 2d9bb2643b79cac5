import { useState } from 'react';
import type { BotFault } from '@/core/bots/faults';
import type { BotScript } from '@/core/bots/model';
import type { BotView } from '@/services/bots/botviews';
import { call, setting } from '../../kit/call';
import { type Autosave, useAutosave } from './autosave';

export type Draft = Omit<Autosave<unknown>, 'value' | 'change'> & {
  readonly script: BotScript;
  readonly name: string;
  readonly faults: readonly BotFault[];
  readonly change: (next: BotScript) => void;
  readonly rename: (name: string) => void;
};

/** A bot's draft as it is written: kept by itself, and with what the checks say of it. */
export function useDraft({ bot, faults: first }: BotView): Draft {
  const [faults, setFaults] = useState<readonly BotFault[]>(first);
  const { value, change, ...saving } = useAutosave(
    { script: bot.draft, name: bot.name },
    bot.revision,
    async ({ script, name }, revision) => {
      const done = await setting<{ revision: number; faults: BotFault[] }>('save-bot', {
        id: bot.id,
        revision,
        name,
        draft: script,
      });
      setFaults(done.faults);
      return done.revision;
    },
    async () => {
      const theirs = (await call<BotView>(`/api/read/bot?id=${bot.id}`)).bot;
      return { value: { script: theirs.draft, name: theirs.name }, revision: theirs.revision };
    },
  );
  return {
    ...saving,
    ...value,
    faults,
    change: (script) => change({ ...value, script }),
    rename: (name) => change({ ...value, name }, false),
  };
}
