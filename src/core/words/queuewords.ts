import { CALLBACK_PARTS, CALLBACK_SENTENCES } from '../callbacks/sentences';
import { CHANNEL_NAMES, CHANNELS } from '../channels';
import type { Localised } from '../localised';
import type { StageAct } from '../routing/clock';
import type { Onward } from '../routing/onward';
import type { QueueSettings } from '../routing/queue';
import type { Reword, Said } from './said';

type Worded = Pick<QueueSettings, 'clocks' | 'entryRules' | 'connect' | 'callback'>;

const onwardReworded = (onward: Onward, said: Omit<Said, 'texts'>, reword: Reword): Onward =>
  'wording' in onward ? { ...onward, wording: reword({ ...said, texts: onward.wording }) } : onward;

/** A queue with each sentence that its customers meet put through `reword`. */
export function rewordQueue<Q extends Worded>(queue: Q, reword: Reword): Q {
  const usual = { channel: null, needed: false, most: 1000 } as const;
  const act = (one: StageAct, key: string, place: string): StageAct => {
    if (one.does === 'say' || one.does === 'ask') {
      const part = one.does === 'say' ? 'said' : 'question';
      return { ...one, wording: reword({ ...usual, needed: true, key, place, part, texts: one.wording }) };
    }
    return one.does === 'move'
      ? { ...one, onward: onwardReworded(one.onward, { ...usual, key, place, part: 'said when moving on' }, reword) }
      : one;
  };
  const clocks = Object.fromEntries(
    CHANNELS.flatMap((channel) => {
      const stages = queue.clocks[channel];
      if (!stages) return [];
      const named = `wait clock, ${CHANNEL_NAMES[channel].name.toLowerCase()}`;
      return [
        [
          channel,
          stages.map((stage) => ({
            ...stage,
            acts: stage.acts.map((one, i) =>
              act(one, `clock:${channel}:${stage.atSeconds}:${i}`, `${named}, at ${stage.atSeconds} s`),
            ),
          })),
        ],
      ];
    }),
  );
  const wording: Partial<Record<(typeof CALLBACK_SENTENCES)[number], Localised>> = { ...queue.callback.wording };
  for (const id of CALLBACK_SENTENCES) {
    const texts = queue.callback.wording[id];
    if (texts)
      wording[id] = reword({ ...usual, key: `call:${id}`, place: 'call back', part: CALLBACK_PARTS[id].part, texts });
  }
  return {
    ...queue,
    clocks,
    entryRules: queue.entryRules.map((rule, i) => ({
      ...rule,
      then: onwardReworded(
        rule.then,
        { ...usual, key: `rule:${i}`, place: `if it goes wrong, ${i + 1}`, part: 'said' },
        reword,
      ),
    })),
    connect: {
      ...queue.connect,
      toCustomer: reword({
        ...usual,
        key: 'joined',
        place: 'wait clock, joined',
        part: 'said to the customer',
        texts: queue.connect.toCustomer,
      }),
    },
    callback: { ...queue.callback, wording },
  };
}

/** The channel whose customers alone meet a sentence of a queue; null for all of them. */
export const channelOfSaid = ({ key }: Pick<Said, 'key'>) =>
  key.startsWith('clock:') ? (CHANNELS.find((c) => key.startsWith(`clock:${c}:`)) ?? null) : null;
