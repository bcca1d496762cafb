/** Kinds of settings: each from one line of text. */
import { z } from 'zod';

export const port = z.coerce.number().int().min(0).max(65_535);
export const size = z.coerce.number().int().min(1);
export const seconds = z.coerce.number().positive();

export const parseJson = <T extends z.ZodType>(schema: T) =>
  z
    .string()
    .transform((text, context) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        context.addIssue('not JSON');
        return z.NEVER;
      }
    })
    .pipe(schema);

/** Several of something, with commas between them; an empty text is none. */
export const list = <T>(each: z.ZodType<T>) =>
  z
    .string()
    .transform((text): unknown =>
      text
        .split(',')
        .map((part) => part.trim())
        .filter((part) => part !== ''),
    )
    .pipe(z.array(each));

export const network = z.union([z.cidrv4(), z.cidrv6()]);
export const hostName = z
  .string()
  .regex(/^(\[[0-9a-f:]+\]|[a-z0-9.-]+)$/, 'a name without scheme or port, in small letters');

/** Where people find something: http or https, a host, maybe a port, and nothing behind it. */
export const origin = z
  .url({ protocol: /^https?$/ })
  .refine(
    (text) => new URL(text).pathname === '/' && !text.includes('?') && !text.includes('#'),
    'no path behind the host',
  )
  .transform((text) => text.replace(/\/$/, ''));

/** 256 bits as 64 hexadecimal digits. */
export const sealKey = z
  .string()
  .regex(/^[0-9a-f]{64}$/, '64 hexadecimal digits; make one with:  openssl rand -hex 32');
export const secret = z.string().min(32, 'at least 32 characters; make one with:  openssl rand -hex 32');
