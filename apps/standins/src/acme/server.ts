/** An ACME authority (RFC 8555): accounts, orders, http-01, certificates. It asks the stand-ins' own name servers. */
import { randomBytes, type JsonWebKey } from 'node:crypto';
import { caaVerdict, checkHostName, type RecordSet } from '@fastigium/core/dns';
import express, { type Express, type Request, type Response } from 'express';
import { z } from 'zod';
import type { FaultBoard } from '../world/faults.ts';
import { namesOfRequest, type Issuer } from './issuer.ts';
import { readSigned, thumbprint, type SignedRequest } from './jws.ts';

/** The authority's name in CAA records. */
export const CAA_IDENTITY = 'ca.test';
const MOST_NONCES = 5000;
const MOST_NAMES = 100;

export interface AcmeOptions {
  readonly issuer: Issuer;
  readonly faults: FaultBoard;
  readonly nowMs: () => number;
  /** Where clients reach it, known once its port is open. */
  readonly baseUrl: () => string;
  /** Record sets of a name, CNAMEs followed, from the authority for the zone. */
  lookUp(name: string, type: string): Promise<readonly RecordSet[]>;
  /** What a web server at this address says for a name and a path, over plain HTTP. */
  fetchFrom(address: string, name: string, path: string): Promise<{ status: number; body: string }>;
}

interface Order {
  readonly id: string;
  readonly account: string;
  readonly names: readonly string[];
  readonly authorizations: readonly string[];
  status: 'pending' | 'ready' | 'processing' | 'valid' | 'invalid';
  certificate: string | undefined;
}

interface Authorization {
  readonly id: string;
  readonly account: string;
  readonly name: string;
  readonly token: string;
  status: 'pending' | 'valid' | 'invalid';
  tried: boolean;
  error: Problem | undefined;
}

interface Problem {
  readonly type: string;
  readonly detail: string;
  readonly status: number;
}

class AcmeProblem extends Error {
  readonly problem: Problem;

  constructor(status: number, type: string, detail: string) {
    super(detail);
    this.problem = { type: `urn:ietf:params:acme:error:${type}`, detail, status };
  }
}

const newOrderBody = z.object({
  identifiers: z
    .array(z.object({ type: z.string(), value: z.string() }))
    .min(1)
    .max(MOST_NAMES),
});

export function createAcme(options: AcmeOptions): Express {
  const { issuer, faults, nowMs } = options;
  const accounts = new Map<string, JsonWebKey>();
  const orders = new Map<string, Order>();
  const authorizations = new Map<string, Authorization>();
  const nonces = new Set<string>();
  const url = (path: string) => `${options.baseUrl()}${path}`;
  const newId = () => randomBytes(12).toString('base64url');

  function freshNonce(): string {
    const nonce = randomBytes(16).toString('base64url');
    nonces.add(nonce);
    if (nonces.size > MOST_NONCES) nonces.delete(nonces.values().next().value ?? '');
    return nonce;
  }

  const app = express();
  app.disable('x-powered-by');
  app.use((_req, res, next) => {
    res.set('server', 'Fastigium certificate authority stand-in (simulated)');
    if (faults.now.authority === 'silent') return;
    res.set({ 'replay-nonce': freshNonce(), 'cache-control': 'no-store', link: `<${url('/directory')}>;rel="index"` });
    if (faults.now.authority === 'refuses')
      sendProblem(res, new AcmeProblem(503, 'serverInternal', 'the stand-in was told to refuse'));
    else next();
  });
  app.get(
    '/directory',
    (_req, res) =>
      void res.json({
        newNonce: url('/new-nonce'),
        newAccount: url('/new-account'),
        newOrder: url('/new-order'),
        revokeCert: url('/revoke-cert'),
        keyChange: url('/key-change'),
        meta: { caaIdentities: [CAA_IDENTITY] },
      }),
  );
  app.get('/new-nonce', (_req, res) => void res.status(204).end());
  app.head('/new-nonce', (_req, res) => void res.status(200).end());
  app.use(express.json({ type: 'application/jose+json', limit: '256kb' }));

  /** Checks nonce, url and signature (RFC 8555 section 6) and says whose request it is. */
  function authenticate(req: Request): { request: SignedRequest; account: string | undefined; key: JsonWebKey } {
    const request = readSigned(req.body);
    if (!request) throw new AcmeProblem(400, 'malformed', 'this is not a signed request');
    if (!nonces.delete(request.nonce))
      throw new AcmeProblem(400, 'badNonce', 'this nonce was used before or never given');
    if (request.url !== url(req.originalUrl)) throw new AcmeProblem(401, 'unauthorized', 'signed for another address');
    const key = request.jwk ?? accounts.get(request.kid ?? '');
    if (!key) throw new AcmeProblem(400, 'accountDoesNotExist', 'no such account');
    if (!request.isSignedBy(key)) throw new AcmeProblem(401, 'unauthorized', 'the signature is wrong');
    return { request, account: request.kid, key };
  }

  const route = (
    path: string,
    handler: (call: ReturnType<typeof authenticate>, req: Request, res: Response) => Promise<void> | void,
  ) =>
    app.post(path, async (req, res) => {
      try {
        await handler(authenticate(req), req, res);
      } catch (error) {
        sendProblem(
          res,
          error instanceof AcmeProblem ? error : new AcmeProblem(400, 'malformed', (error as Error).message),
        );
      }
    });
  const owned = <T extends { account: string }>(found: T | undefined, account: string | undefined): T => {
    if (!found || found.account !== account)
      throw new AcmeProblem(404, 'malformed', 'there is no such thing in this account');
    return found;
  };

  route('/new-account', ({ request, key }, _req, res) => {
    const location = url(`/accounts/${thumbprint(key)}`);
    const known = accounts.has(location);
    if (!known && z.object({ onlyReturnExisting: z.literal(true) }).safeParse(request.payload).success)
      throw new AcmeProblem(400, 'accountDoesNotExist', 'no such account');
    accounts.set(location, key);
    res
      .status(known ? 200 : 201)
      .set('location', location)
      .json({ status: 'valid', orders: `${location}/orders` });
  });

  route('/accounts/:id', ({ account }, req, res) => {
    if (account !== url(req.originalUrl)) throw new AcmeProblem(401, 'unauthorized', 'another account');
    res.json({ status: 'valid', orders: `${account}/orders` });
  });

  route('/new-order', async ({ request, account }, _req, res) => {
    if (account === undefined) throw new AcmeProblem(401, 'unauthorized', 'orders come from an account');
    const { identifiers } = newOrderBody.parse(request.payload);
    const names = identifiers.map(({ type, value }) => {
      const checked = checkHostName(value);
      if (type !== 'dns' || !checked.ok) throw new AcmeProblem(400, 'rejectedIdentifier', `${value} is not a name`);
      return checked.name;
    });
    for (const name of names) {
      const verdict = caaVerdict(name, await caaSets(name), CAA_IDENTITY);
      if (!verdict.allows) throw new AcmeProblem(403, 'caa', `CAA at ${verdict.decidedAt} does not allow ${CAA_IDENTITY}`);
    }
    const ids = names.map((name) => {
      const id = newId();
      authorizations.set(id, {
        id,
        account,
        name,
        token: randomBytes(24).toString('base64url'),
        status: 'pending',
        tried: false,
        error: undefined,
      });
      return id;
    });
    const order: Order = {
      id: newId(),
      account,
      names,
      authorizations: ids,
      status: 'pending',
      certificate: undefined,
    };
    orders.set(order.id, order);
    res
      .status(201)
      .set('location', url(`/orders/${order.id}`))
      .json(orderBody(order));
  });

  /** CAA of the name and of everything above it, each asked for by itself. */
  async function caaSets(name: string): Promise<RecordSet[]> {
    const sets: RecordSet[] = [];
    for (let at = name; at.includes('.'); at = at.slice(at.indexOf('.') + 1))
      sets.push(...(await options.lookUp(at, 'CAA')).map((set) => ({ ...set, name: at })));
    return sets;
  }

  route(
    '/orders/:id',
    ({ account }, req, res) => void res.json(orderBody(owned(orders.get(String(req.params.id)), account))),
  );

  route('/authorizations/:id', ({ account }, req, res) => {
    const authorization = owned(authorizations.get(String(req.params.id)), account);
    res.json({
      status: authorization.status,
      identifier: { type: 'dns', value: authorization.name },
      challenges: [challengeBody(authorization)],
    });
  });

  route('/challenges/:id', ({ account, request, key }, req, res) => {
    const authorization = owned(authorizations.get(String(req.params.id)), account);
    if (request.payload !== undefined && !authorization.tried) {
      authorization.tried = true;
      validate(authorization, `${authorization.token}.${thumbprint(key)}`).catch(() => {
        authorization.status = 'invalid';
      });
    }
    res.set('link', `<${url(`/authorizations/${authorization.id}`)}>;rel="up"`).json(challengeBody(authorization));
  });

  /** http-01, RFC 8555 section 8.3: every address the name has is not tried, the first that answers decides. */
  async function validate(authorization: Authorization, expected: string): Promise<void> {
    try {
      const addresses = (await options.lookUp(authorization.name, 'A'))
        .filter(({ type }) => type === 'A')
        .flatMap(({ data }) => data);
      const [address] = addresses;
      if (address === undefined) throw new AcmeProblem(400, 'dns', `${authorization.name} has no address`);
      const { status, body } = await options.fetchFrom(
        address,
        authorization.name,
        `/.well-known/acme-challenge/${authorization.token}`,
      );
      if (status !== 200 || body.trim() !== expected)
        throw new AcmeProblem(403, 'unauthorized', `${address} answered ${status} instead of the key`);
      authorization.status = 'valid';
    } catch (error) {
      authorization.status = 'invalid';
      authorization.error =
        error instanceof AcmeProblem
          ? error.problem
          : new AcmeProblem(400, 'connection', (error as Error).message).problem;
    }
    for (const order of orders.values()) {
      if (!order.authorizations.includes(authorization.id) || order.status !== 'pending') continue;
      const states = order.authorizations.map((id) => authorizations.get(id)?.status);
      if (states.includes('invalid')) order.status = 'invalid';
      else if (states.every((state) => state === 'valid')) order.status = 'ready';
    }
  }

  route('/orders/:id/finalize', async ({ account, request }, req, res) => {
    const order = owned(orders.get(String(req.params.id)), account);
    if (order.status !== 'ready') throw new AcmeProblem(403, 'orderNotReady', `the order is ${order.status}`);
    const csr = Buffer.from(z.object({ csr: z.string() }).parse(request.payload).csr, 'base64url');
    const names = namesOfRequest(csr);
    if (names.length !== order.names.length || !names.every((name) => order.names.includes(name)))
      throw new AcmeProblem(400, 'badCSR', 'the request names other names than the order');
    const day = 86_400_000;
    const wanted = faults.now.certificate === 'wrong-name' ? ['somebody-else.test'] : names;
    order.certificate = await issuer.issue(
      csr,
      wanted,
      faults.now.certificate === 'expired' ? nowMs() - 200 * day : nowMs(),
    );
    order.status = 'valid';
    res.set('location', url(`/orders/${order.id}`)).json(orderBody(order));
  });

  route('/certificates/:id', ({ account }, req, res) => {
    const order = owned(orders.get(String(req.params.id)), account);
    if (order.certificate === undefined) throw new AcmeProblem(404, 'malformed', 'there is no certificate yet');
    res.type('application/pem-certificate-chain').send(order.certificate);
  });

  function orderBody(order: Order): object {
    return {
      status: order.status,
      expires: new Date(nowMs() + 7 * 86_400_000).toISOString(),
      identifiers: order.names.map((value) => ({ type: 'dns', value })),
      authorizations: order.authorizations.map((id) => url(`/authorizations/${id}`)),
      finalize: url(`/orders/${order.id}/finalize`),
      ...(order.certificate === undefined ? {} : { certificate: url(`/certificates/${order.id}`) }),
    };
  }

  function challengeBody({ id, token, status, tried, error }: Authorization): object {
    return {
      type: 'http-01',
      url: url(`/challenges/${id}`),
      token,
      status: status === 'pending' && tried ? 'processing' : status,
      ...(error ? { error } : {}),
    };
  }

  function sendProblem(res: Response, { problem }: AcmeProblem): void {
    res.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  }
  return app;
}
