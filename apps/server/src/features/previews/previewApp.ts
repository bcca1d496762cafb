/** Serves drafts on their own origins. It knows no session, sets no cookie and runs no imported script as ours. */
import { listCandidateFiles, isPageFile, parseAddress } from '@fastigium/core/address';
import { decide, listFilesInQuestion, indexRules, type Rule } from '@fastigium/core/redirects';
import { emptyManifest, type ShardHashes } from '@fastigium/core/release';
import { DomainError, ERRORS } from '@fastigium/contracts/errors';
import { preview } from '@fastigium/contracts/messages/letter';
import express, { type ErrorRequestHandler, type Express, type Response } from 'express';
import { LRUCache } from 'lru-cache';
import { randomBytes } from 'node:crypto';
import type { Logger } from 'pino';
import type { Deps } from '../../deps.ts';
import { readContent } from '../shared/contents.ts';
import { compileDraft } from '../draft/compileDraft.ts';
import { compileRemoved, compileWith } from '../draft/compileOne.ts';
import { readEntries } from '../shared/manifests.ts';
import { readRules } from '../shared/serving.ts';
import { DOCUMENT_PICTURES, writeDocumentPage, editEmbedded, isDocument, isEmbedded, mayEmbed } from './embedded.ts';
import type { ShownDocument } from '../../threads/documentPages.ts';
import type { Permission, PreviewLinks, PreviewMode } from './links.ts';
import { editForPointing } from './pointing.ts';
import { editPage, editRooted, placeStyleUnder, placeUnderPath } from './underPath.ts';
import { speak } from '../../words.ts';

export function createPreviewApp(deps: Deps, links: PreviewLinks): Express {
  const app = express();
  /** By content; a page that shows one twice, or is looked at again, does not have it drawn again. */
  const drawn = new LRUCache<string, Promise<ShownDocument | undefined>>({ max: MOST_DRAWN });
  function shownDocument(hash: string): Promise<ShownDocument | undefined> {
    let shown = drawn.get(hash);
    if (!shown) {
      shown = readContent(deps.db, hash).then((bytes) => deps.threads.drawDocument({ bytes, ...DOCUMENT_PICTURES }));
      drawn.set(hash, shown);
      shown.catch(() => drawn.delete(hash));
    }
    return shown;
  }
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
    const permitted = links.permitted(req.get('host') ?? '', req.path);
    const nonce = randomBytes(16).toString('base64');
    // Frames of the page itself are previews too, and the page has an origin that is nobody's, so that who may frame
    // cannot be said by origin. The name is the permission: whoever does not have it has nothing to frame.
    res.set('content-security-policy', writePolicy(permitted?.mode ?? 'still', nonce));
    if (permitted === undefined) {
      res
        .status(403)
        .type('text')
        .send(speak(preview('ended')));
      return;
    }
    if (!(await deps.db.maybeOne('select 1 from site where id = $1 and deleted_at is null', [permitted.site]))) {
      res
        .status(410)
        .type('text')
        .send(speak(preview('site-deleted')));
      return;
    }
    const parsed = parseAddress(req.originalUrl.slice(permitted.under.length) || '/');
    if (!parsed.ok) {
      res
        .status(400)
        .type('text')
        .send(speak(preview('no-address')));
      return;
    }
    if (permitted.mode === 'away') {
      const page = await compileRemoved(deps, permitted.site, listCandidateFiles(parsed.address.path));
      if (page) {
        res
          .set('content-type', page.headers['content-type'] ?? 'text/html')
          .send(Buffer.from(asShown(page.path, page.bytes, permitted.under)));
        return;
      }
    }
    const { shards, rules } =
      permitted.mode === 'release'
        ? await readReleaseToShow(deps, permitted.site, permitted.release)
        : await compileDraft(deps, permitted.site).then((compiled) => ({
            shards: compiled.shards,
            rules: compiled.rules.rules,
          }));
    const index = indexRules(rules);
    const entries = await readEntries(deps.db, shards, listFilesInQuestion(parsed.address, index));
    const answer = decide(parsed.address, entries, index);
    if (answer.kind === 'redirect') {
      res.status(answer.status).set('location', placeUnderPath(permitted.under, answer.location)).end();
      return;
    }
    const entry = answer.kind === 'file' ? entries.get(answer.file) : undefined;
    if (!entry) {
      res
        .status(answer.kind === 'gone' ? 410 : 404)
        .type('text')
        .send(speak(preview(answer.kind === 'gone' ? 'gone' : 'nothing')));
      return;
    }
    const type = entry.headers['content-type'] ?? 'application/octet-stream';
    res.set('content-type', type);
    if (isDocument(type) && isEmbedded(req.get('sec-fetch-dest'))) {
      res.type('html').send(writeDocumentPage(entry.path, await shownDocument(entry.hash)));
      return;
    }
    if (permitted.mode === 'pointing') await sendPointing(deps, permitted, entry.path, nonce, res);
    if (!res.headersSent)
      res.send(Buffer.from(asShown(entry.path, await readContent(deps.db, entry.hash), permitted.under)));
  });
  app.use(sayInWords(deps.log));
  return app;
}

/** Each a few hundred kilobytes. */
const MOST_DRAWN = 16;

/** A release that is kept; of one that is not, nothing. */
async function readReleaseToShow(
  { db }: Deps,
  site: string,
  number: number,
): Promise<{ shards: ShardHashes; rules: readonly Rule[] }> {
  const row = await db.maybeOne<{ shards: string[]; rulesHash: string | null }>(
    'select shards, rules_hash as "rulesHash" from release where site_id = $1 and number = $2 and shards is not null',
    [site, number],
  );
  return row ? { shards: row.shards, rules: await readRules(db, row.rulesHash) } : { shards: emptyManifest, rules: [] };
}

/** Even opened outside its frame, an imported page gets an origin that is nobody's (HTML standard, sandboxing). */
function writePolicy(mode: PreviewMode, nonce: string): string {
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

/** A preview stands in a frame, where only text is read. */
const sayInWords =
  (log: Logger): ErrorRequestHandler =>
  (error: unknown, _req, res, next) => {
    if (res.headersSent) {
      next(error);
      return;
    }
    const known = error instanceof DomainError ? error : undefined;
    if (!known) log.error({ err: error }, 'preview failed');
    res
      .status(known ? ERRORS[known.code].status : 500)
      .type('text')
      .send(known ? speak(known.told) : 'The preview could not be made. Open the page in Fastigium again.');
  };

/**
 * What a page embeds as a document is asked for as a page here, and where previews share a name, what is said from the
 * root is said from their folder; every other byte is as it will be published.
 */
function asShown(path: string, bytes: Uint8Array, under: string): Uint8Array {
  if (path.endsWith('.css')) return placeStyleUnder(bytes, under);
  if (!isPageFile(path) || (under === '' && !mayEmbed(bytes))) return bytes;
  return editPage(bytes, (document) => [...editEmbedded(document), ...editRooted(document, under)]);
}

/** Nothing is sent where the file is no page of the draft. */
async function sendPointing(
  deps: Deps,
  { site, under }: Permission,
  path: string,
  nonce: string,
  res: Response,
): Promise<void> {
  const compiled = await compileWith(deps, site, path, (document) => [
    ...editEmbedded(document),
    ...editRooted(document, under),
    ...editForPointing(document, nonce),
  ]);
  if (compiled) res.send(Buffer.from(compiled));
}
