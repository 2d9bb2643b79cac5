import { LEAVE_IT, THANKS } from '../contact/words';
import { newStep } from './edit';
import type { Step } from './model';

/** Scenes that ship with the product, to begin a shared one with. */
export const READY_SCENES = ['empty', 'call-back'] as const;
export type ReadyScene = (typeof READY_SCENES)[number];
export const READY_NAMES: Readonly<Record<ReadyScene, string>> = {
  empty: 'nothing',
  'call-back': 'call back, or leave a message',
};

/** The lines of one; `callsId` is the queue that calls back, `queueId` that of messages. */
export function readyScene(
  scene: ReadyScene,
  { callsId, queueId }: { readonly callsId: string; readonly queueId: string },
  newId: () => string,
): Step[] {
  if (scene === 'empty') return [];
  const none = { connectorId: '', doId: '', sharedId: '' };
  return [
    newStep('call-back', newId(), { ...none, queueId: callsId }),
    { id: newId(), verb: 'take-message', wording: { text: LEAVE_IT }, queueId },
    { id: newId(), verb: 'end', wording: { text: THANKS } },
  ];
}
