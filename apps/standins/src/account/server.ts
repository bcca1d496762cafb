/**
 * An account where people post short messages, simulated: it takes posts and shows them.
 * Sources: W3C Micropub (Recommendation of 23 May 2017), sections 3.1, 3.3.1 and 3.8; RFC 6750 for the token.
 */
import express, { type Express } from 'express';

/** A documentation address (RFC 5737), and where it is on this machine. */
export const ACCOUNT_HOST = { name: 'posts.social.test', address: '203.0.113.11', loopback: '127.0.0.5' } as const;
const MOST_KEPT = 200;

export function createAccount(token: string, nowMs: () => number): Express {
  const posts: { readonly text: string; readonly at: string }[] = [];
  const app = express();
  app.disable('x-powered-by');
  app.use((_req, res, next) => {
    res.set('server', 'Account stand-in (simulated)');
    next();
  });
  app.get('/', (_req, res) => void res.json({ simulated: true, posts }));
  app.use('/micropub', (req, res, next) => {
    if (req.get('authorization') === `Bearer ${token}`) next();
    else res.status(401).set('www-authenticate', 'Bearer').json({ error: 'unauthorized' });
  });
  app.post(
    '/micropub',
    express.urlencoded({ extended: false, limit: '64kb' }),
    express.json({ limit: '64kb' }),
    (req, res) => {
      const body = (req.body ?? {}) as {
        h?: unknown;
        content?: unknown;
        type?: unknown;
        properties?: { content?: unknown };
      };
      const isEntry = body.h === 'entry' || (Array.isArray(body.type) && body.type[0] === 'h-entry');
      const content = body.properties?.content ?? body.content;
      const text = Array.isArray(content) ? (content[0] as unknown) : content;
      if (!isEntry || typeof text !== 'string' || text.trim() === '') {
        res.status(400).json({ error: 'invalid_request', error_description: 'an entry needs content' });
        return;
      }
      posts.unshift({ text, at: new Date(nowMs()).toISOString() });
      posts.length = Math.min(posts.length, MOST_KEPT);
      res.status(201).set('location', `http://${ACCOUNT_HOST.name}/posts/${posts.length}`).end();
    },
  );
  return app;
}
