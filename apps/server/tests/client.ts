/** A browser's worth of HTTP: cookies, the token against forgery, JSON. */
import type { Decided } from '@fastigium/contracts/api/draft';
import type { Job } from '@fastigium/contracts/api/jobs';
import type { Changes, Release } from '@fastigium/contracts/api/releases';
import type { SiteOverview } from '@fastigium/contracts/api/sites';
import type { PageRow } from '@fastigium/contracts/api/draft';
import { setTimeout as pause } from 'node:timers/promises';

export interface Answer<T = Record<string, unknown>> {
  readonly status: number;
  readonly body: T;
  readonly headers: Headers;
}

/**
 * A connection that was kept may be closed just as something is asked over it; what may be asked twice is asked again
 * over a new one, as browsers do (RFC 9112, section 9.3.1).
 */
async function fetchOnceMore(url: string, init: RequestInit): Promise<Response> {
  try {
    return await fetch(url, init);
  } catch (error) {
    const isClosed =
      error instanceof Error && (error.cause as { code?: unknown } | undefined)?.code === 'UND_ERR_SOCKET';
    if (init.method !== 'GET' || !isClosed) throw error;
    return fetch(url, init);
  }
}

export class Client {
  readonly base: string;
  cookie = '';
  csrf = '';

  constructor(base: string) {
    this.base = base;
  }

  async send<T = Record<string, unknown>>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const isBytes = body instanceof Uint8Array;
    const response = await fetchOnceMore(this.base + path, {
      method,
      headers: {
        ...(this.cookie ? { cookie: this.cookie } : {}),
        ...(method === 'GET' ? {} : { 'x-csrf-token': this.csrf }),
        ...(body === undefined ? {} : { 'content-type': isBytes ? 'application/zip' : 'application/json' }),
        ...headers,
      },
      ...(body === undefined ? {} : { body: isBytes ? (body as Uint8Array<ArrayBuffer>) : JSON.stringify(body) }),
    });
    const set = response.headers.getSetCookie().find((line) => line.startsWith('fastigium='));
    if (set) this.cookie = set.split(';')[0] ?? '';
    const text = await response.text();
    const json = (response.headers.get('content-type')?.includes('json') ? JSON.parse(text) : { text }) as T & {
      csrfToken?: string;
    };
    if (json.csrfToken !== undefined) this.csrf = json.csrfToken;
    return { status: response.status, body: json, headers: response.headers };
  }

  get<T = Record<string, unknown>>(path: string) {
    return this.send<T>('GET', path);
  }

  post<T = Record<string, unknown>>(path: string, body: unknown = {}, headers?: Record<string, string>) {
    return this.send<T>('POST', path, body, headers);
  }

  put<T = Record<string, unknown>>(path: string, body: unknown = {}) {
    return this.send<T>('PUT', path, body);
  }

  patch<T = Record<string, unknown>>(path: string, body: unknown = {}) {
    return this.send<T>('PATCH', path, body);
  }

  delete<T = Record<string, unknown>>(path: string, body?: unknown) {
    return this.send<T>('DELETE', path, body);
  }

  async start(): Promise<void> {
    await this.get('/api/session');
  }

  async signIn(email: string, password: string): Promise<Answer> {
    await this.start();
    return this.post('/api/session', { email, password });
  }

  /** Waits for a job to end. */
  async ended(job: string): Promise<Job> {
    // As long as a machine that does much else may take; what takes longer meets the test's own limit.
    for (let i = 0; i < 6000; i += 1) {
      const { body, status } = await this.get<Job>(`/api/jobs/${job}`);
      // An outage is not the job's end.
      if (status !== 503 && body.state !== 'waiting' && body.state !== 'running') return body;
      await pause(25);
    }
    throw new Error('the job did not end');
  }

  async newSite(name: string): Promise<string> {
    const { body } = await this.post<{ id: string }>('/api/sites', { name });
    return body.id;
  }

  async bringIn(site: string, archive: Uint8Array, fileName = 'site.zip', apply = true): Promise<Job> {
    const { body, status } = await this.post<{ job: string }>(
      `/api/sites/${site}/imports?fileName=${fileName}`,
      archive,
    );
    if (status !== 202) throw new Error(`the upload was answered ${status}: ${JSON.stringify(body)}`);
    const job = await this.ended(body.job);
    if (apply && (await this.overview(site)).lastImport?.state === 'reviewing') await this.applyReview(site);
    return job;
  }

  /** Crawls a running site; applied at once where it is the first. */
  async crawl(site: string, address: string): Promise<Job> {
    const { body, status } = await this.post<{ job: string }>(`/api/sites/${site}/imports/crawl`, { address });
    if (status !== 202) throw new Error(`the crawl was answered ${status}: ${JSON.stringify(body)}`);
    return this.ended(body.job);
  }

  /** Takes a newer export over as it is. */
  async applyReview(site: string, choices: Record<string, 'ours' | 'theirs'> = {}): Promise<void> {
    const { body } = await this.get<{ import: string; version: number }>(`/api/sites/${site}/imports/review`);
    const applied = await this.post(`/api/sites/${site}/imports/review`, {
      import: body.import,
      version: body.version,
      choices,
    });
    if (applied.status !== 200)
      throw new Error(`applying was answered ${applied.status}: ${JSON.stringify(applied.body)}`);
  }

  async overview(site: string): Promise<SiteOverview> {
    return (await this.get<SiteOverview>(`/api/sites/${site}`)).body;
  }

  async pages(site: string): Promise<PageRow[]> {
    return (await this.get<{ pages: PageRow[] }>(`/api/sites/${site}/pages`)).body.pages;
  }

  async page(site: string, address: string): Promise<PageRow> {
    const page = (await this.pages(site)).find((each) => each.address === address);
    if (!page) throw new Error(`no page at ${address}`);
    return page;
  }

  async decide(
    site: string,
    decision: object,
  ): Promise<Answer<Decided & { error?: { code: string; message: string } }>> {
    const { version } = await this.overview(site);
    return this.post(`/api/sites/${site}/decisions`, { version, decision });
  }

  async changes(site: string): Promise<Changes> {
    return (await this.get<Changes>(`/api/sites/${site}/changes`)).body;
  }

  async releases(site: string): Promise<Release[]> {
    const { status, body } = await this.get<Release[]>(`/api/sites/${site}/releases`);
    if (status !== 200) throw new Error(`the releases were answered ${status}: ${JSON.stringify(body)}`);
    return body;
  }

  async publish(site: string): Promise<Job> {
    const { version } = await this.overview(site);
    const { body, status } = await this.post<{ job: string }>(`/api/sites/${site}/releases`, { version });
    if (status !== 202) throw new Error(`publishing was answered ${status}: ${JSON.stringify(body)}`);
    return this.ended(body.job);
  }
}
