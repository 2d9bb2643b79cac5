import { type CountryCode, isSupportedCountry } from 'libphonenumber-js';

/**
 * A workspace's country as numbers are read by; undefined where none is set, so that only international ones are
 * read.
 */
export const countryOf = (code: string): CountryCode | undefined => (isSupportedCountry(code) ? code : undefined);
