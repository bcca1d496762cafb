/** What accounts of several kinds of hosts have. */
import { z } from 'zod';

/** Where the web server there writes its access log. */
export const accessLogPath = z
  .string()
  .trim()
  .regex(/^\//, 'write the whole path of the log, from / on')
  .max(1000)
  .optional();
/** Where the site answers from there. */
export const answersAt = z.url({ protocol: /^https?$/ }).optional();
export const folderPath = z.string().trim().min(1).max(1000);
