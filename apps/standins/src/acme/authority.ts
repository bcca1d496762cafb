/** What an authority keeps and does: accounts, orders, authorizations by http-01, certificates (RFC 8555). */
import { randomBytes, type JsonWebKey } from 'node:crypto';
import { judgeCaa, checkHostName, type RecordSet } from '@fastigium/core/dns';
import type { FaultBoard } from '../world/faults.ts';
import { readNamesOfRequest, type Issuer } from './issuer.ts';
import { AcmeProblem, type Problem } from './problem.ts';

/** The authority's name in CAA records. */
export const CAA_IDENTITY = 'ca.test';
const MOST_NONCES = 5000;
const DAY_MS = 86_400_000;

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

export interface Order {
  readonly id: string;
  readonly account: string;
  readonly names: readonly string[];
  readonly authorizations: readonly string[];
  status: 'pending' | 'ready' | 'processing' | 'valid' | 'invalid';
  certificate: string | undefined;
}

export interface Authorization {
  readonly id: string;
  readonly account: string;
  readonly name: string;
  readonly token: string;
  status: 'pending' | 'valid' | 'invalid';
  tried: boolean;
  error: Problem | undefined;
}

export class Authority {
  readonly #options: AcmeOptions;
  readonly #accounts = new Map<string, JsonWebKey>();
  readonly #orders = new Map<string, Order>();
  readonly #authorizations = new Map<string, Authorization>();
  readonly #nonces = new Set<string>();

  constructor(options: AcmeOptions) {
    this.#options = options;
  }

  freshNonce(): string {
    const nonce = randomBytes(16).toString('base64url');
    this.#nonces.add(nonce);
    if (this.#nonces.size > MOST_NONCES) this.#nonces.delete(this.#nonces.values().next().value ?? '');
    return nonce;
  }

  /** @returns whether it was given and not used before */
  useNonce(nonce: string): boolean {
    return this.#nonces.delete(nonce);
  }

  keyOf(account: string | undefined): JsonWebKey | undefined {
    return this.#accounts.get(account ?? '');
  }

  /** @returns whether the account was there before */
  keepAccount(account: string, key: JsonWebKey, onlyExisting: boolean): boolean {
    const known = this.#accounts.has(account);
    if (!known && onlyExisting) throw new AcmeProblem(400, 'accountDoesNotExist', 'no such account');
    this.#accounts.set(account, key);
    return known;
  }

  orderOf(id: string, account: string | undefined): Order {
    return requireOwned(this.#orders.get(id), account);
  }

  authorizationOf(id: string, account: string | undefined): Authorization {
    return requireOwned(this.#authorizations.get(id), account);
  }

  async order(account: string, identifiers: readonly { type: string; value: string }[]): Promise<Order> {
    const names = identifiers.map(({ type, value }) => {
      const checked = checkHostName(value);
      if (type !== 'dns' || !checked.ok) throw new AcmeProblem(400, 'rejectedIdentifier', `${value} is not a name`);
      return checked.name;
    });
    for (const name of names) await this.#checkCaa(name);
    const order: Order = {
      id: createId(),
      account,
      names,
      authorizations: names.map((name) => this.#authorize(account, name)),
      status: 'pending',
      certificate: undefined,
    };
    this.#orders.set(order.id, order);
    return order;
  }

  #authorize(account: string, name: string): string {
    const id = createId();
    const token = randomBytes(24).toString('base64url');
    this.#authorizations.set(id, { id, account, name, token, status: 'pending', tried: false, error: undefined });
    return id;
  }

  /** CAA of the name and of everything above it, each asked for by itself. */
  async #checkCaa(name: string): Promise<void> {
    const sets: RecordSet[] = [];
    for (let at = name; at.includes('.'); at = at.slice(at.indexOf('.') + 1))
      sets.push(...(await this.#options.lookUp(at, 'CAA')).map((set) => ({ ...set, name: at })));
    const verdict = judgeCaa(name, sets, CAA_IDENTITY);
    if (!verdict.allows)
      throw new AcmeProblem(403, 'caa', `CAA at ${verdict.decidedAt} does not allow ${CAA_IDENTITY}`);
  }

  /** Begins to look, once; what comes of it is asked for later. @param print of the account's key */
  challenge(authorization: Authorization, print: string): void {
    if (authorization.tried) return;
    authorization.tried = true;
    this.#validate(authorization, `${authorization.token}.${print}`).catch(() => {
      authorization.status = 'invalid';
    });
  }

  /** http-01, RFC 8555 section 8.3: every address the name has is not tried, the first that answers decides. */
  async #validate(authorization: Authorization, expected: string): Promise<void> {
    try {
      await this.#askFor(authorization, expected);
      authorization.status = 'valid';
    } catch (error) {
      authorization.status = 'invalid';
      authorization.error =
        error instanceof AcmeProblem
          ? error.problem
          : new AcmeProblem(400, 'connection', (error as Error).message).problem;
    }
    this.#settleOrders(authorization.id);
  }

  async #askFor({ name, token }: Authorization, expected: string): Promise<void> {
    const [address] = (await this.#options.lookUp(name, 'A'))
      .filter(({ type }) => type === 'A')
      .flatMap(({ data }) => data);
    if (address === undefined) throw new AcmeProblem(400, 'dns', `${name} has no address`);
    const { status, body } = await this.#options.fetchFrom(address, name, `/.well-known/acme-challenge/${token}`);
    if (status !== 200 || body.trim() !== expected)
      throw new AcmeProblem(403, 'unauthorized', `${address} answered ${status} instead of the key`);
  }

  #settleOrders(authorization: string): void {
    for (const order of this.#orders.values()) {
      if (!order.authorizations.includes(authorization) || order.status !== 'pending') continue;
      const states = order.authorizations.map((id) => this.#authorizations.get(id)?.status);
      if (states.includes('invalid')) order.status = 'invalid';
      else if (states.every((state) => state === 'valid')) order.status = 'ready';
    }
  }

  async finalize(order: Order, csr: Buffer): Promise<void> {
    const { issuer, faults, nowMs } = this.#options;
    if (order.status !== 'ready') throw new AcmeProblem(403, 'orderNotReady', `the order is ${order.status}`);
    const names = readNamesOfRequest(csr);
    if (names.length !== order.names.length || !names.every((name) => order.names.includes(name)))
      throw new AcmeProblem(400, 'badCSR', 'the request names other names than the order');
    const wanted = faults.now.certificate === 'wrong-name' ? ['somebody-else.test'] : names;
    const from = faults.now.certificate === 'expired' ? nowMs() - 200 * DAY_MS : nowMs();
    order.certificate = await issuer.issue(csr, wanted, from);
    order.status = 'valid';
  }
}

const createId = () => randomBytes(12).toString('base64url');

function requireOwned<T extends { account: string }>(found: T | undefined, account: string | undefined): T {
  if (!found || found.account !== account)
    throw new AcmeProblem(404, 'malformed', 'there is no such thing in this account');
  return found;
}
