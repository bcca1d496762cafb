/** Response headers of the application: a strict content policy, with room only for previews. */
import type { RequestHandler } from 'express';
import helmet from 'helmet';
import { randomBytes } from 'node:crypto';

const TWO_YEARS_SECONDS = 2 * 365 * 24 * 60 * 60;

/** @param previews where previews are found, as a source of a content policy; @param isSecure found over https */
export function createSecurityHeaders(previews: () => string, isSecure: boolean): RequestHandler[] {
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
        'frame-src': [previews],
        // Pictures of the draft: icons, share cards.
        'img-src': ["'self'", 'data:', previews],
        'object-src': ["'none'"],
        'script-src': ["'self'"],
        // The component library writes its theme into a style element of its own, which carries the nonce.
        'style-src': [
          "'self'",
          (_req, res) => `'nonce-${(res as unknown as { locals: { nonce: string } }).locals.nonce}'`,
        ],
      },
    },
    // The same as frame-ancestors, for whoever knows only this.
    xFrameOptions: { action: 'deny' },
    // RFC 6797; on loopback there is no https to insist on. Of names below this one nothing is known.
    strictTransportSecurity: isSecure ? { maxAge: TWO_YEARS_SECONDS, includeSubDomains: false } : false,
    // Previews are framed from another origin on purpose.
    crossOriginEmbedderPolicy: false,
  });
  return [nonce, helmetHeaders];
}
