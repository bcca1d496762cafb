/** Response headers of the application: a strict content policy, with room only for previews. */
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { randomBytes } from 'node:crypto';

export function securityHeaders(previewPort: () => number): RequestHandler[] {
  const nonce: RequestHandler = (_req, res, next) => {
    res.locals.nonce = randomBytes(16).toString('base64');
    next();
  };
  const helmetHeaders = helmet({
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        'default-src': ["'self'"],
        'base-uri': ["'none'"],
        'connect-src': ["'self'"],
        'font-src': ["'self'"],
        'form-action': ["'self'"],
        'frame-ancestors': ["'none'"],
        'frame-src': [() => `http://*.preview.localhost:${previewPort()}`],
        // Pictures of the draft: icons, share cards.
        'img-src': ["'self'", 'data:', () => `http://*.preview.localhost:${previewPort()}`],
        'object-src': ["'none'"],
        'script-src': ["'self'"],
        // The component library writes its theme into a style element of its own, which carries the nonce.
        'style-src': [
          "'self'",
          (_req, res) => `'nonce-${(res as unknown as { locals: { nonce: string } }).locals.nonce}'`,
        ],
      },
    },
    // On loopback there is no https to insist on; behind a proxy that has it, the proxy says so.
    strictTransportSecurity: false,
    // Previews are framed from another origin on purpose.
    crossOriginEmbedderPolicy: false,
  });
  return [nonce, helmetHeaders];
}
