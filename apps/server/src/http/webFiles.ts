/** The built web application: hashed files for a year, the page itself fresh and with its nonce. */
import express, { type RequestHandler, type Router } from 'express';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

export function serveWebFiles(folder: string): Router {
  const router = express.Router();
  router.use(
    '/assets',
    express.static(join(folder, 'assets'), { immutable: true, maxAge: '1y', index: false, fallthrough: false }),
  );
  router.use(express.static(folder, { index: false, maxAge: '1h' }));
  const page = readFileSync(join(folder, 'index.html'), 'utf8');
  const sendPage: RequestHandler = (req, res, next) => {
    if ((req.method !== 'GET' && req.method !== 'HEAD') || !req.accepts('html')) {
      next();
      return;
    }
    const nonce = res.locals.nonce as string;
    res.set('cache-control', 'no-store').type('html').send(page.replaceAll('__NONCE__', nonce));
  };
  router.use(sendPage);
  return router;
}
