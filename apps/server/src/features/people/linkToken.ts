import { randomBytes } from 'node:crypto';

/** 192 bits: nobody guesses a link (RFC 4086 section 8.2 asks for 128). What is kept of it is its hash. */
export const createLinkToken = (): string => randomBytes(24).toString('base64url');
