/** Serves drafts on their own origins. It knows no session, sets no cookie and runs no imported script as ours. */
import { candidateFiles, parseAddress } from '@fastigium/core/address';
import { decide, indexRules } from '@fastigium/core/redirects';
import express, { type Express } from 'express';
import type { Deps } from '../../deps.ts';
import { contentBytes } from '../contents.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { entriesOf } from '../manifests.ts';
import type { PreviewLinks } from './links.ts';

export function createPreviewApp(deps: Deps, links: PreviewLinks, appOrigin: () => string): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((_req, res, next) => {
    // Even opened outside its frame, an imported page gets an origin that is nobody's (HTML standard, sandboxing).
    res.set({
      'content-security-policy': `sandbox allow-scripts allow-forms allow-popups; frame-ancestors ${appOrigin()}`,
      'cache-control': 'no-store', 'referrer-policy': 'no-referrer', 'x-content-type-options': 'nosniff', 'x-robots-tag': 'noindex',
    });
    next();
  });
  app.get('/{*path}', async (req, res) => {
    const site = links.siteOf(req.get('host') ?? '');
    if (site === undefined) {
      res.status(403).type('text').send('This preview has ended. Open the page in Fastigium again.');
      return;
    }
    const parsed = parseAddress(req.originalUrl);
    if (!parsed.ok) {
      res.status(400).type('text').send('This is not an address.');
      return;
    }
    const { shards, rules } = await compileDraft(deps, site);
    const { path } = parsed.address;
    const entries = await entriesOf(deps.db, shards, [...candidateFiles(path), ...candidateFiles(`${path}/`)]);
    const answer = decide(parsed.address, entries, indexRules(rules.rules));
    if (answer.kind === 'redirect') {
      res.status(answer.status).set('location', answer.location).end();
      return;
    }
    const entry = answer.kind === 'file' ? entries.get(answer.file) : undefined;
    if (!entry) {
      res.status(answer.kind === 'gone' ? 410 : 404).type('text').send(answer.kind === 'gone' ? 'Gone for good (410).' : 'Nothing answers here in the draft (404).');
      return;
    }
    const bytes = await contentBytes(deps.db, entry.hash);
    res.set('content-type', entry.headers['content-type'] ?? 'application/octet-stream').send(bytes);
  });
  return app;
}
