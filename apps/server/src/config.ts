/** The only reader of the environment: validated, frozen, each default with its unit. */
import { randomBytes } from 'node:crypto';
import { z } from 'zod';
import { routeTable } from './adapters/world/routes.ts';

const MIB = 1024 * 1024;
const port = z.coerce.number().int().min(0).max(65_535);
const json = <T extends z.ZodType>(schema: T) =>
  z
    .string()
    .transform((text, context) => {
      try {
        return JSON.parse(text) as unknown;
      } catch {
        context.addIssue('not JSON');
        return z.NEVER;
      }
    })
    .pipe(schema);
const networks = z
  .string()
  .transform((text) =>
    text
      .split(',')
      .map((each) => each.trim())
      .filter((each) => each !== ''),
  )
  .pipe(z.array(z.union([z.cidrv4(), z.cidrv6()])));
const size = z.coerce.number().int().min(1);

/** What an import may hold at most where nobody sets it otherwise. */
export const IMPORT_LIMITS: ImportLimits = {
  uploadBytes: 512 * MIB,
  files: 50_000,
  totalBytes: 2048 * MIB,
  fileBytes: 128 * MIB,
  // A page above this is published unread: parsing needs about 30 times its size in memory.
  pageBytes: 16 * MIB,
};

const environment = z.object({
  FASTIGIUM_DATABASE_URL: z.url(),
  FASTIGIUM_PORT: port.default(4300),
  FASTIGIUM_PREVIEW_PORT: port.default(4301),
  FASTIGIUM_HOST_CONTROL_URL: z.url().default('http://127.0.0.1:4303'),
  FASTIGIUM_HOST_PUBLIC_PORT: port.default(4302),
  FASTIGIUM_HOST_TOKEN: z.string().min(16),
  /** Signs sessions and preview links. Without one, both end with the process. */
  FASTIGIUM_SECRET: z
    .string()
    .min(32)
    .default(() => randomBytes(32).toString('hex')),
  /** Built web application; without it only the API answers. */
  FASTIGIUM_WEB_FOLDER: z.string().optional(),
  /** Folder of the demo scenario, loaded when there is nobody yet. */
  FASTIGIUM_DEMO_FOLDER: z.string().optional(),
  FASTIGIUM_LOG_LEVEL: z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'silent']).default('info'),
  FASTIGIUM_WORKER_THREADS: z.coerce.number().int().min(1).max(64).default(2),
  FASTIGIUM_UPLOAD_MAX_BYTES: size.default(IMPORT_LIMITS.uploadBytes),
  FASTIGIUM_IMPORT_MAX_FILES: size.default(IMPORT_LIMITS.files),
  FASTIGIUM_IMPORT_MAX_BYTES: size.default(IMPORT_LIMITS.totalBytes),
  FASTIGIUM_FILE_MAX_BYTES: size.default(IMPORT_LIMITS.fileBytes),
  FASTIGIUM_PAGE_MAX_BYTES: size.default(IMPORT_LIMITS.pageBytes),
  /** Chromium's program, for pictures of pages; without one there are none. */
  FASTIGIUM_CHROMIUM: z.string().optional(),
  FASTIGIUM_JOB_LEASE_SECONDS: z.coerce.number().min(1).default(10),
  /** Seals passwords and keys in the database. Without one, what is sealed ends with the process. */
  FASTIGIUM_SEAL_KEY: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .default(() => randomBytes(32).toString('hex')),
  /** Where the stand-ins are played from; unset on a real internet. */
  FASTIGIUM_STANDINS_URL: z.url().optional(),
  /** A search index's OpenSearch description, offered where old addresses are gathered. */
  FASTIGIUM_SEARCH_INDEX: z.url().optional(),
  /** Where a search index takes new, changed and gone addresses, offered where others are told. */
  FASTIGIUM_OFFERED_INDEX: z.url().optional(),
  /** An account that takes messages, offered there too: {"url": "http://…/micropub", "token": "…"}. */
  FASTIGIUM_OFFERED_ACCOUNT: json(z.object({ url: z.url(), token: z.string().min(1) })).optional(),
  /** Addresses that are really found elsewhere, as the stand-ins' are: {"198.51.100.24:80": "127.0.0.1:4302"}. */
  FASTIGIUM_ROUTES: json(routeTable).default({}),
  /** Networks a crawl may reach although they are not public: "10.1.0.0/16, fd00::/8". */
  FASTIGIUM_CRAWL_NETWORKS: networks.default([]),
  FASTIGIUM_CRAWL_MAX_ADDRESSES: size.default(5000),
  FASTIGIUM_CRAWL_MAX_MINUTES: z.coerce.number().positive().default(30),
  FASTIGIUM_CRAWL_PER_SECOND: z.coerce.number().positive().max(1000).default(10),
  FASTIGIUM_CRAWL_ANSWER_SECONDS: z.coerce.number().positive().default(20),
  /** Resolvers to ask: [{"name": "Office", "address": "192.0.2.53:53"}]. */
  FASTIGIUM_RESOLVERS: json(z.array(z.object({ name: z.string().min(1), address: z.string().min(1) }))).default([]),
  FASTIGIUM_RDAP_URL: z.url().optional(),
  FASTIGIUM_REGISTRAR_URL: z.url().optional(),
  FASTIGIUM_REGISTRAR_TOKEN: z.string().default(''),
  FASTIGIUM_ACME_DIRECTORY: z.url().optional(),
  /** File with the certificate authority's own root, PEM, where no public one signs its servers. */
  FASTIGIUM_ACME_CA: z.string().optional(),
  FASTIGIUM_ACME_CAA: z.string().default(''),
  /** File with roots that are trusted beside those of Node.js, PEM. */
  FASTIGIUM_TRUSTED_ROOTS: z.string().optional(),
});

export interface ImportLimits {
  readonly uploadBytes: number;
  readonly files: number;
  readonly totalBytes: number;
  readonly fileBytes: number;
  readonly pageBytes: number;
}

/** How much of a running site is asked for; bytes are those of an import. */
export interface CrawlLimits {
  readonly addresses: number;
  readonly totalMs: number;
  readonly perSecond: number;
  /** For one answer, from the lookup to its last byte. */
  readonly answerMs: number;
}

export interface Config {
  readonly databaseUrl: string;
  readonly port: number;
  readonly previewPort: number;
  readonly host: { readonly controlUrl: string; readonly publicPort: number; readonly token: string };
  readonly secret: string;
  readonly webFolder: string | undefined;
  readonly demoFolder: string | undefined;
  readonly logLevel: string;
  readonly workerThreads: number;
  readonly limits: ImportLimits;
  readonly crawl: CrawlLimits;
  readonly chromium: string | undefined;
  readonly jobLeaseSeconds: number;
  readonly sealKey: Buffer;
  readonly world: WorldConfig;
}

/** Everything outside this machine, or what plays it. */
export interface WorldConfig {
  readonly standInsUrl: string | undefined;
  readonly standInsToken: string;
  readonly routes: Readonly<Record<string, string>>;
  readonly allowedNetworks: readonly string[];
  readonly resolvers: readonly { readonly name: string; readonly address: string }[];
  readonly registrar: { readonly rdapUrl: string; readonly accountUrl: string; readonly token: string } | undefined;
  readonly acme:
    { readonly directory: string; readonly caFile: string | undefined; readonly caaIdentity: string } | undefined;
  readonly rootsFile: string | undefined;
  /** The OpenSearch description of a search index. */
  readonly searchIndex: string | undefined;
  readonly offered: {
    readonly index: string | undefined;
    readonly account: { readonly url: string; readonly token: string } | undefined;
  };
}

/** Throws an Error that names each variable that is wrong. */
export function readConfig(env: Readonly<Record<string, string | undefined>>): Config {
  const parsed = environment.safeParse(env);
  if (!parsed.success) {
    throw new Error(`The configuration is not right.\n${z.prettifyError(parsed.error)}`);
  }
  const e = parsed.data;
  if (e.FASTIGIUM_PORT !== 0 && e.FASTIGIUM_PORT === e.FASTIGIUM_PREVIEW_PORT) {
    throw new Error('FASTIGIUM_PORT and FASTIGIUM_PREVIEW_PORT must differ: previews need an origin of their own.');
  }
  return Object.freeze({
    databaseUrl: e.FASTIGIUM_DATABASE_URL,
    port: e.FASTIGIUM_PORT,
    previewPort: e.FASTIGIUM_PREVIEW_PORT,
    host: Object.freeze({
      controlUrl: e.FASTIGIUM_HOST_CONTROL_URL,
      publicPort: e.FASTIGIUM_HOST_PUBLIC_PORT,
      token: e.FASTIGIUM_HOST_TOKEN,
    }),
    secret: e.FASTIGIUM_SECRET,
    webFolder: e.FASTIGIUM_WEB_FOLDER,
    demoFolder: e.FASTIGIUM_DEMO_FOLDER,
    logLevel: e.FASTIGIUM_LOG_LEVEL,
    workerThreads: e.FASTIGIUM_WORKER_THREADS,
    limits: Object.freeze({
      uploadBytes: e.FASTIGIUM_UPLOAD_MAX_BYTES,
      files: e.FASTIGIUM_IMPORT_MAX_FILES,
      totalBytes: e.FASTIGIUM_IMPORT_MAX_BYTES,
      fileBytes: e.FASTIGIUM_FILE_MAX_BYTES,
      pageBytes: e.FASTIGIUM_PAGE_MAX_BYTES,
    }),
    crawl: Object.freeze({
      addresses: e.FASTIGIUM_CRAWL_MAX_ADDRESSES,
      totalMs: e.FASTIGIUM_CRAWL_MAX_MINUTES * 60_000,
      perSecond: e.FASTIGIUM_CRAWL_PER_SECOND,
      answerMs: e.FASTIGIUM_CRAWL_ANSWER_SECONDS * 1000,
    }),
    chromium: e.FASTIGIUM_CHROMIUM,
    jobLeaseSeconds: e.FASTIGIUM_JOB_LEASE_SECONDS,
    sealKey: Buffer.from(e.FASTIGIUM_SEAL_KEY, 'hex'),
    world: Object.freeze({
      standInsUrl: e.FASTIGIUM_STANDINS_URL,
      standInsToken: e.FASTIGIUM_HOST_TOKEN,
      routes: e.FASTIGIUM_ROUTES,
      allowedNetworks: e.FASTIGIUM_CRAWL_NETWORKS,
      resolvers: e.FASTIGIUM_RESOLVERS,
      registrar:
        e.FASTIGIUM_RDAP_URL === undefined || e.FASTIGIUM_REGISTRAR_URL === undefined
          ? undefined
          : {
              rdapUrl: e.FASTIGIUM_RDAP_URL,
              accountUrl: e.FASTIGIUM_REGISTRAR_URL,
              token: e.FASTIGIUM_REGISTRAR_TOKEN,
            },
      acme:
        e.FASTIGIUM_ACME_DIRECTORY === undefined
          ? undefined
          : { directory: e.FASTIGIUM_ACME_DIRECTORY, caFile: e.FASTIGIUM_ACME_CA, caaIdentity: e.FASTIGIUM_ACME_CAA },
      rootsFile: e.FASTIGIUM_TRUSTED_ROOTS,
      searchIndex: e.FASTIGIUM_SEARCH_INDEX,
      offered: { index: e.FASTIGIUM_OFFERED_INDEX, account: e.FASTIGIUM_OFFERED_ACCOUNT },
    }),
  });
}
