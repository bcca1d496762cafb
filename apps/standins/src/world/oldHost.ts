/** The host a site comes from: it goes on answering with the old site for as long as anyone comes. */
import express, { type Express } from 'express';

/** A documentation address (RFC 5737), and where it is on this machine. */
export const OLD_HOST = { address: '203.0.113.9', loopback: '127.0.0.3' } as const;

export function createOldHost(): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use((req, res) => {
    res.set('server', 'Old host stand-in (simulated)');
    if (req.path.startsWith('/.well-known/')) res.status(404).type('text').send('Nothing here.\n');
    else res.type('html').send('<!DOCTYPE html><html lang="en"><title>The old site (simulated)</title><body><h1>The old site</h1><p>This is the host the domain pointed to before.</p></body></html>\n');
  });
  return app;
}
