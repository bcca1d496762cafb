/** Serves drafts on their own origins. It knows no session, sets no cookie and runs no imported script as ours. */
import { candidateFiles, parseAddress } from '@fastigium/core/address';
import { decide, filesInQuestion, indexRules, type Rule } from '@fastigium/core/redirects';
import { emptyManifest, type ShardHashes } from '@fastigium/core/release';
import express, { type Express, type Response } from 'express';
import { randomBytes } from 'node:crypto';
import type { Deps } from '../../deps.ts';
import { contentBytes } from '../contents.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { compileRemoved, compileWith } from '../draft/compileOne.ts';
import { entriesOf } from '../manifests.ts';
import { rulesOf } from '../releases/serving.ts';
import type { PreviewLinks, PreviewMode } from './links.ts';
import { pointingEdits } from './pointing.ts';

export function createPreviewApp(deps: Deps, links: PreviewLinks, appOrigin: () => string): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((_req, res, next) => {
    res.set({
      'cache-control': 'no-store',
      'referrer-policy': 'no-referrer',
      'x-content-type-options': 'nosniff',
      'x-robots-tag': 'noindex',
    });
    next();
  });
  app.get('/{*path}', async (req, res) => {
    const permitted = links.permitted(req.get('host') ?? '');
    const nonce = randomBytes(16).toString('base64');
    res.set(
      'content-security-policy',
      `${policyOf(permitted?.mode ?? 'still', nonce)}; frame-ancestors ${appOrigin()}`,
    );
    if (permitted === undefined) {
      res.status(403).type('text').send('This preview has ended. Open the page in Fastigium again.');
      return;
    }
    const parsed = parseAddress(req.originalUrl);
    if (!parsed.ok) {
      res.status(400).type('text').send('This is not an address.');
      return;
    }
    if (permitted.mode === 'away') {
      const page = await compileRemoved(deps, permitted.site, candidateFiles(parsed.address.path));
      if (page) {
        res.set('content-type', page.headers['content-type'] ?? 'text/html').send(Buffer.from(page.bytes));
        return;
      }
    }
    const { shards, rules } =
      permitted.mode === 'release'
        ? await releaseToShow(deps, permitted.site, permitted.release)
        : await compileDraft(deps, permitted.site).then((compiled) => ({
            shards: compiled.shards,
            rules: compiled.rules.rules,
          }));
    const index = indexRules(rules);
    const entries = await entriesOf(deps.db, shards, filesInQuestion(parsed.address, index));
    const answer = decide(parsed.address, entries, index);
    if (answer.kind === 'redirect') {
      res.status(answer.status).set('location', answer.location).end();
      return;
    }
    const entry = answer.kind === 'file' ? entries.get(answer.file) : undefined;
    if (!entry) {
      res
        .status(answer.kind === 'gone' ? 410 : 404)
        .type('text')
        .send(answer.kind === 'gone' ? 'Gone for good (410).' : 'Nothing answers here in the draft (404).');
      return;
    }
    res.set('content-type', entry.headers['content-type'] ?? 'application/octet-stream');
    if (permitted.mode === 'pointing') await sendPointing(deps, permitted.site, entry.path, nonce, res);
    if (!res.headersSent) res.send(await contentBytes(deps.db, entry.hash));
  });
  return app;
}

/** A release that is kept; of one that is not, nothing. */
async function releaseToShow(
  { db }: Deps,
  site: string,
  number: number,
): Promise<{ shards: ShardHashes; rules: readonly Rule[] }> {
  const row = await db.maybeOne<{ shards: string[]; rulesHash: string | null }>(
    'select shards, rules_hash as "rulesHash" from release where site_id = $1 and number = $2 and shards is not null',
    [site, number],
  );
  return row ? { shards: row.shards, rules: await rulesOf(db, row.rulesHash) } : { shards: emptyManifest, rules: [] };
}

/** Even opened outside its frame, an imported page gets an origin that is nobody's (HTML standard, sandboxing). */
function policyOf(mode: PreviewMode, nonce: string): string {
  switch (mode) {
    case 'seen':
      return 'sandbox allow-scripts allow-forms allow-popups';
    case 'still':
    case 'away':
    case 'release':
      return `sandbox allow-forms allow-popups; script-src 'none'`;
    // Only our own script: the page's own could say that something was clicked that was not.
    case 'pointing':
      return `sandbox allow-scripts; script-src 'nonce-${nonce}'`;
  }
}

/** Nothing is sent where the file is no page of the draft. */
async function sendPointing(deps: Deps, site: string, path: string, nonce: string, res: Response): Promise<void> {
  const compiled = await compileWith(deps, site, path, (document) => pointingEdits(document, nonce));
  if (compiled) res.send(Buffer.from(compiled));
}
