import { z } from 'zod';
import { defineEndpoint } from '../define.ts';
import { siteParams } from './common.ts';

/** By the path of the published page: the SHA-256 of its picture. */
const byPath = z.record(z.string(), z.string());

export const pictures = z.object({ draft: byPath, live: byPath });
export type Pictures = z.infer<typeof pictures>;

export const picturesApi = {
  list: defineEndpoint('GET /sites/:site/pictures', {
    summary: 'Which pages there are pictures of, as in the draft and as live',
    access: 'reviewer',
    params: siteParams,
    answer: pictures,
  }),
  picture: defineEndpoint('GET /sites/:site/pictures/:picture', {
    summary: 'A picture of a page, JPEG, 640 pixels wide',
    access: 'reviewer',
    params: siteParams.extend({ picture: z.string().regex(/^[0-9a-f]{64}$/) }),
    answer: z.never(),
    gives: 'image/jpeg',
  }),
};
