import { createHash, randomBytes } from 'node:crypto';

/** What a joined device shows from then on: 256 random bits. */
export const makeToken = (): string => randomBytes(32).toString('base64url');

/** What is kept of a token, hex. It needs no salt: nobody can try all of 2^256. */
export const hashToken = (token: string): string => createHash('sha256').update(token).digest('hex');
