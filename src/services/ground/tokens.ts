import { createHash, createHmac } from 'node:crypto';

/** How a token that only its holder has is kept here: by its SHA-256, in hexadecimal. */
export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');

/** A token for a thing, made from the server's own key: the same each time, kept nowhere, and made by nobody else. */
export type Seal = (what: string) => string;

/** HMAC-SHA-256 with the server's key, base64url. */
export const sealWith =
  (key: Uint8Array): Seal =>
  (what) =>
    createHmac('sha256', key).update(what).digest('base64url');
