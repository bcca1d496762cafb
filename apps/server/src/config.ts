/** The only reader of the environment: validated, frozen, each default with its unit. */
import { randomBytes } from 'node:crypto';
import { z } from 'zod';

const MIB = 1024 * 1024;
const port = z.coerce.number().int().min(0).max(65_535);
const size = z.coerce.number().int().min(1);

const environment = z.object({
  FASTIGIUM_DATABASE_URL: z.url(),
  FASTIGIUM_PORT: port.default(4300),
  FASTIGIUM_PREVIEW_PORT: port.default(4301),
  FASTIGIUM_HOST_CONTROL_URL: z.url().default('http://127.0.0.1:4303'),
  FASTIGIUM_HOST_PUBLIC_PORT: port.default(4302),
  FASTIGIUM_HOST_TOKEN: z.string().min(16),
  /** Signs sessions and preview links. Without one, both end with the process. */
  FASTIGIUM_SECRET: z.string().min(32).default(() => randomBytes(32).toString('hex')),
  /** Built web application; without it only the API answers. */
  FASTIGIUM_WEB_FOLDER: z.string().optional(),
  /** Folder of the demo scenario, loaded when there is nobody yet. */
  FASTIGIUM_DEMO_FOLDER: z.string().optional(),
  FASTIGIUM_LOG_LEVEL: z.enum(['fatal', 'error', 'warn', 'info', 'debug', 'silent']).default('info'),
  FASTIGIUM_WORKER_THREADS: z.coerce.number().int().min(1).max(64).default(2),
  FASTIGIUM_UPLOAD_MAX_BYTES: size.default(512 * MIB),
  FASTIGIUM_IMPORT_MAX_FILES: size.default(50_000),
  FASTIGIUM_IMPORT_MAX_BYTES: size.default(2048 * MIB),
  FASTIGIUM_FILE_MAX_BYTES: size.default(128 * MIB),
  /** A page above this is published unread: parsing needs about 30 times its size in memory. */
  FASTIGIUM_PAGE_MAX_BYTES: size.default(16 * MIB),
  FASTIGIUM_JOB_LEASE_SECONDS: z.coerce.number().min(1).default(10),
});

export interface ImportLimits {
  readonly uploadBytes: number;
  readonly files: number;
  readonly totalBytes: number;
  readonly fileBytes: number;
  readonly pageBytes: number;
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
  readonly jobLeaseSeconds: number;
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
    jobLeaseSeconds: e.FASTIGIUM_JOB_LEASE_SECONDS,
  });
}
