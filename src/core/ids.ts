import type { Chance } from './chance';

/** Makes a new opaque id with a readable prefix, e.g. `contact_8f3k2m1q`. */
export type IdSource = (prefix: string) => string;

const LETTERS = '0123456789abcdefghjkmnpqrstvwxyz';

/** Ids from a random-number source (`[0, 1)`); 12 letters of 5 bits make a clash among millions unlikely. */
export const idsFrom =
  (random: () => number): IdSource =>
  (prefix) => {
    let id = '';
    for (let i = 0; i < 12; i++) id += LETTERS[Math.floor(random() * 32)];
    return `${prefix}_${id}`;
  };

/** Ids that come out the same for the same seed. */
export const seededIds = (chance: Chance): IdSource => idsFrom(chance.next);
