/**
 * What a queue's line on one channel has been like lately. `slotMs` is the time that people on duty who could take it (each
 * counted with as many contacts as fit) spent while somebody waited; `taken` the contacts they took meanwhile: together the
 * rate at which one place becomes free. Counts fade with time. Instants are floor ms.
 */
export type LaneFigures = {
  at: number;
  waiting: number;
  taken: number;
  slotMs: number;
  gaveUp: number;
  waitedMs: number;
  handleMs: number;
  handled: number;
  answerMs: number;
  answered: number;
  slots: number;
  slotsVersion: number;
};
