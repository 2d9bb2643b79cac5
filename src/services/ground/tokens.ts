import { createHash } from 'node:crypto';

/** How a token that only its holder has is kept here: by its SHA-256, in hexadecimal. */
export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');
