import { parsePhoneNumberFromString } from 'libphonenumber-js';

/** A number as it is read back, in groups: "+353 20 911 0100". */
export const spokenNumber = (number: string): string =>
  parsePhoneNumberFromString(number)?.formatInternational() ?? number;
