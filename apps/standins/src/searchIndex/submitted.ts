/**
 * Addresses a site tells the index of: new, changed and gone ones in one list, believed where a key stands on the site.
 * The form is the one several search engines share (indexnow.org, from memory): POST of host, key, keyLocation and
 * urlList, at most 10,000; 200 taken, 400 unreadable, 403 the key is not there, 422 addresses of another host.
 */
import express, { Router } from 'express';
import { z } from 'zod';

const submission = z.object({
  host: z.string().min(1).max(260),
  key: z.string().regex(/^[A-Za-z0-9-]{8,128}$/),
  keyLocation: z.url({ protocol: /^https?$/ }),
  urlList: z
    .array(z.url({ protocol: /^https?$/ }))
    .min(1)
    .max(10_000),
});

/** Asks the world for an address; undefined where nobody answers. */
export type Reading = (url: URL) => Promise<{ readonly status: number; readonly body: string } | undefined>;

const AT_ONCE = 8;

export class Submitted {
  /** Addresses that were found, by host. */
  readonly #listed = new Map<string, Set<string>>();
  readonly #read: Reading;

  constructor(read: Reading) {
    this.#read = read;
  }

  listed(host: string): readonly string[] {
    return [...(this.#listed.get(host) ?? [])].sort();
  }

  router(): Router {
    const router = Router();
    router.post('/submitted', express.json({ limit: '4mb' }), async (req, res) => {
      const parsed = submission.safeParse(req.body);
      if (!parsed.success) {
        res.status(400).json({ error: 'this is not a submission' });
        return;
      }
      const { host, key, keyLocation, urlList } = parsed.data;
      const folder = new URL('./', keyLocation).href;
      if (
        new URL(keyLocation).host !== host ||
        urlList.some((url) => new URL(url).host !== host || !url.startsWith(folder))
      ) {
        res.status(422).json({ error: 'these addresses are not below the key’s' });
        return;
      }
      const found = await this.#read(new URL(keyLocation));
      if (found?.status !== 200 || found.body.trim() !== key) {
        res.status(403).json({ error: 'the key is not at its place' });
        return;
      }
      await this.#visit(host, urlList);
      res.status(200).json({ taken: urlList.length });
    });
    return router;
  }

  /** What is told is looked at before it is believed: found, it is listed; gone, it is not any more. */
  async #visit(host: string, urls: readonly string[]): Promise<void> {
    const listed = this.#listed.get(host) ?? new Set<string>();
    this.#listed.set(host, listed);
    const waiting = urls.values();
    await Promise.all(
      Array.from({ length: AT_ONCE }, async () => {
        for (const url of waiting) {
          const found = await this.#read(new URL(url));
          if (found?.status === 200) listed.add(url);
          else if (found) listed.delete(url);
        }
      }),
    );
  }
}
