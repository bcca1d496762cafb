/** The old site as data: what stands at which address. */
import { z } from 'zod';

const address = z.string().startsWith('/');

export const oldSiteSeed = z.object({
  name: z.string(),
  /** The domain it answers at, by which a search index knows it. */
  domain: z.string().default(''),
  navigation: z.array(z.tuple([z.string(), address])).default([]),
  pages: z.array(
    z.object({ address, title: z.string(), body: z.array(z.string()), links: z.array(address).default([]) }),
  ),
  files: z.array(z.object({ address, type: z.string(), base64: z.base64() })).default([]),
  /** Addresses that answer with the page of another one. */
  sameAs: z.record(address, address).default({}),
  moved: z.record(address, address).default({}),
  /** Programs that fail. */
  broken: z.array(address).default([]),
  robots: z.string().default(''),
});
export type OldSiteSeed = z.infer<typeof oldSiteSeed>;

export const NO_OLD_SITE: OldSiteSeed = {
  name: 'The old site',
  domain: '',
  navigation: [],
  files: [],
  sameAs: {},
  moved: {},
  broken: [],
  robots: '',
  pages: [{ address: '/', title: 'The old site', body: ['This is the host the domain pointed to before.'], links: [] }],
};
