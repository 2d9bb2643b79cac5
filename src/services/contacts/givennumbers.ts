import { randomInt } from 'node:crypto';
import { parsePhoneNumberFromString } from 'libphonenumber-js/max';
import { CODE_DIGITS, CODE_MINUTES, CODE_TRIES, codeText } from '../../core/messages/numbercodes';
import { codesSentTo, givenNumber, writeGivenNumber } from '../../data/givennumbers';
import type { Db } from '../../data/database';
import type { Tx } from '../ground/host';
import type { Outbox } from '../ground/outbox';
import { hashToken } from '../ground/tokens';

/** Codes that one number is sent within an hour, whoever asks for them: nobody is pestered by way of us. */
const MOST_AN_HOUR = 4;
const HOUR_MS = 3_600_000;

const digestOf = (contactId: string, number: string, code: string): string =>
  hashToken(`${contactId}|${number}|${code}`);

/** Sends a code to a number: as a text, or spoken where a number is known to take calls only. */
export function sendNumberCode(tx: Tx, outbox: Outbox, contactId: string, language: string, number: string): void {
  if (codesSentTo(tx.db, number, tx.realAt - HOUR_MS) >= MOST_AN_HOUR) return;
  const code = String(randomInt(10 ** CODE_DIGITS)).padStart(CODE_DIGITS, '0');
  writeGivenNumber(tx.db, contactId, number, {
    codeHash: digestOf(contactId, number, code),
    sent: (givenNumber(tx.db, contactId, number)?.sent ?? 0) + 1,
    sentAt: tx.realAt,
    tries: 0,
    proven: false,
  });
  if (parsePhoneNumberFromString(number)?.getType() === 'FIXED_LINE')
    outbox.call(tx, number, codeText(language, code.split('').join(' ')));
  else outbox.text(tx, number, codeText(language, code));
}

export const isProvenNumber = (db: Db, contactId: string, number: string): boolean =>
  givenNumber(db, contactId, number)?.proven ?? false;

/** Whether a code is the one that was sent to a number, is still good, and was not tried too often. */
export function isNumberCode(db: Db, contactId: string, number: string, code: string, realAt: number): boolean {
  const given = givenNumber(db, contactId, number);
  return (
    given !== undefined &&
    given.tries < CODE_TRIES &&
    realAt - given.sentAt < CODE_MINUTES * 60_000 &&
    given.codeHash === digestOf(contactId, number, code)
  );
}

/** A code was given: the number is theirs, or one try is used up. */
export function numberCodeTried(tx: Tx, contactId: string, number: string, right: boolean): void {
  const given = givenNumber(tx.db, contactId, number);
  if (!given) return;
  writeGivenNumber(
    tx.db,
    contactId,
    number,
    right ? { ...given, codeHash: null, proven: true } : { ...given, tries: given.tries + 1 },
  );
}
