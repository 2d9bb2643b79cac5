import { hash32 } from '../core/chance';

/**
 * The stand-in for the outside telephone network: it says, for a number and a call, whether and after how many
 * seconds somebody answers, and how long they talk. The same call always goes the same way. Customers' calls are
 * answered by the Handset or the simulated crowd instead; this answers for partner desks.
 */
export type OutsideTelephone = {
  readonly answersAfter: (address: string, callId: string) => number | null;
  readonly talksFor: (callId: string) => number;
};

export const createStandInTelephone = (): OutsideTelephone => ({
  answersAfter: (address, callId) => {
    const lot = hash32(`${address}|${callId}`);
    return lot % 8 === 0 ? null : 3 + (lot % 7);
  },
  talksFor: (callId) => 60 + (hash32(callId) % 180),
});
