/** An ACME authority over HTTP (RFC 8555). It asks the stand-ins' own name servers. */
import type { JsonWebKey } from 'node:crypto';
import express, { type Express, type Request, type Response } from 'express';
import { z } from 'zod';
import { Authority, CAA_IDENTITY, type AcmeOptions, type Authorization, type Order } from './authority.ts';
import { readSigned, computeThumbprint, type SignedRequest } from './jws.ts';
import { AcmeProblem } from './problem.ts';

export { CAA_IDENTITY, type AcmeOptions } from './authority.ts';

const MOST_NAMES = 100;
const DAY_MS = 86_400_000;

const newOrderBody = z.object({
  identifiers: z
    .array(z.object({ type: z.string(), value: z.string() }))
    .min(1)
    .max(MOST_NAMES),
});
const onlyExistingBody = z.object({ onlyReturnExisting: z.literal(true) });
const finalizeBody = z.object({ csr: z.string() });

type UrlOf = (path: string) => string;

/** A request whose nonce, address and signature are right. */
interface SignedCall {
  readonly request: SignedRequest;
  readonly account: string | undefined;
  readonly key: JsonWebKey;
}

type Handler = (call: SignedCall, req: Request, res: Response) => Promise<void> | void;

export function createAcme(options: AcmeOptions): Express {
  const authority = new Authority(options);
  const url: UrlOf = (path) => `${options.baseUrl()}${path}`;
  const app = express();
  app.disable('x-powered-by');
  answerAlways(app, authority, options, url);
  app.use(express.json({ type: 'application/jose+json', limit: '256kb' }));
  const on = (path: string, handler: Handler) =>
    app.post(path, async (req, res) => {
      try {
        await handler(authenticate(authority, url, req), req, res);
      } catch (error) {
        const known = error instanceof AcmeProblem;
        sendProblem(res, known ? error : new AcmeProblem(400, 'malformed', (error as Error).message));
      }
    });
  routeAccounts(on, authority, url);
  routeOrders(on, authority, url, options.nowMs);
  routeAuthorizations(on, authority, url);
  return app;
}

/** The directory and nonces (RFC 8555, sections 7.1.1 and 7.2), and what every answer carries. */
function answerAlways(app: Express, authority: Authority, { faults }: AcmeOptions, url: UrlOf): void {
  app.use((_req, res, next) => {
    res.set('server', 'Fastigium certificate authority stand-in (simulated)');
    if (faults.now.authority === 'silent') return;
    res.set({
      'replay-nonce': authority.freshNonce(),
      'cache-control': 'no-store',
      link: `<${url('/directory')}>;rel="index"`,
    });
    if (faults.now.authority === 'refuses')
      sendProblem(res, new AcmeProblem(503, 'serverInternal', 'the stand-in was told to refuse'));
    else next();
  });
  app.get('/directory', (_req, res) => {
    res.json({
      newNonce: url('/new-nonce'),
      newAccount: url('/new-account'),
      newOrder: url('/new-order'),
      revokeCert: url('/revoke-cert'),
      keyChange: url('/key-change'),
      meta: { caaIdentities: [CAA_IDENTITY] },
    });
  });
  app.get('/new-nonce', (_req, res) => void res.status(204).end());
  app.head('/new-nonce', (_req, res) => void res.status(200).end());
}

/** Checks nonce, url and signature (RFC 8555 section 6) and says whose request it is. */
function authenticate(authority: Authority, url: UrlOf, req: Request): SignedCall {
  const request = readSigned(req.body);
  if (!request) throw new AcmeProblem(400, 'malformed', 'this is not a signed request');
  if (!authority.useNonce(request.nonce))
    throw new AcmeProblem(400, 'badNonce', 'this nonce was used before or never given');
  if (request.url !== url(req.originalUrl)) throw new AcmeProblem(401, 'unauthorized', 'signed for another address');
  const key = request.jwk ?? authority.keyOf(request.kid);
  if (!key) throw new AcmeProblem(400, 'accountDoesNotExist', 'no such account');
  if (!request.isSignedBy(key)) throw new AcmeProblem(401, 'unauthorized', 'the signature is wrong');
  return { request, account: request.kid, key };
}

/** RFC 8555, section 7.3. */
function routeAccounts(on: (path: string, handler: Handler) => void, authority: Authority, url: UrlOf): void {
  on('/new-account', ({ request, key }, _req, res) => {
    const location = url(`/accounts/${computeThumbprint(key)}`);
    const known = authority.keepAccount(location, key, onlyExistingBody.safeParse(request.payload).success);
    res
      .status(known ? 200 : 201)
      .set('location', location)
      .json({ status: 'valid', orders: `${location}/orders` });
  });
  on('/accounts/:id', ({ account }, req, res) => {
    if (account !== url(req.originalUrl)) throw new AcmeProblem(401, 'unauthorized', 'another account');
    res.json({ status: 'valid', orders: `${account}/orders` });
  });
}

/** RFC 8555, section 7.4. */
function routeOrders(
  on: (path: string, handler: Handler) => void,
  authority: Authority,
  url: UrlOf,
  nowMs: () => number,
): void {
  const orderBody = ({ id, names, authorizations, status, certificate }: Order): object => ({
    status,
    expires: new Date(nowMs() + 7 * DAY_MS).toISOString(),
    identifiers: names.map((value) => ({ type: 'dns', value })),
    authorizations: authorizations.map((each) => url(`/authorizations/${each}`)),
    finalize: url(`/orders/${id}/finalize`),
    ...(certificate === undefined ? {} : { certificate: url(`/certificates/${id}`) }),
  });
  on('/new-order', async ({ request, account }, _req, res) => {
    if (account === undefined) throw new AcmeProblem(401, 'unauthorized', 'orders come from an account');
    const order = await authority.order(account, newOrderBody.parse(request.payload).identifiers);
    res
      .status(201)
      .set('location', url(`/orders/${order.id}`))
      .json(orderBody(order));
  });
  on('/orders/:id', ({ account }, req, res) => {
    res.json(orderBody(authority.orderOf(String(req.params.id), account)));
  });
  on('/orders/:id/finalize', async ({ account, request }, req, res) => {
    const order = authority.orderOf(String(req.params.id), account);
    await authority.finalize(order, Buffer.from(finalizeBody.parse(request.payload).csr, 'base64url'));
    res.set('location', url(`/orders/${order.id}`)).json(orderBody(order));
  });
  on('/certificates/:id', ({ account }, req, res) => {
    const { certificate } = authority.orderOf(String(req.params.id), account);
    if (certificate === undefined) throw new AcmeProblem(404, 'malformed', 'there is no certificate yet');
    res.type('application/pem-certificate-chain').send(certificate);
  });
}

/** RFC 8555, section 7.5. */
function routeAuthorizations(on: (path: string, handler: Handler) => void, authority: Authority, url: UrlOf): void {
  const challengeBody = ({ id, token, status, tried, error }: Authorization): object => ({
    type: 'http-01',
    url: url(`/challenges/${id}`),
    token,
    status: status === 'pending' && tried ? 'processing' : status,
    ...(error ? { error } : {}),
  });
  on('/authorizations/:id', ({ account }, req, res) => {
    const authorization = authority.authorizationOf(String(req.params.id), account);
    res.json({
      status: authorization.status,
      identifier: { type: 'dns', value: authorization.name },
      challenges: [challengeBody(authorization)],
    });
  });
  on('/challenges/:id', ({ account, request, key }, req, res) => {
    const authorization = authority.authorizationOf(String(req.params.id), account);
    // Asked for without a body, it is only looked at (section 6.3).
    if (request.payload !== undefined) authority.challenge(authorization, computeThumbprint(key));
    res.set('link', `<${url(`/authorizations/${authorization.id}`)}>;rel="up"`).json(challengeBody(authorization));
  });
}

function sendProblem(res: Response, { problem }: AcmeProblem): void {
  res.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
}
