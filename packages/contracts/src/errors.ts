/**
 * Every error the application answers with: its code, its status (RFC 9110, section 15) and what fills its message,
 * which says what happened and what to do next. One that `passes` may go by itself, so jobs that meet it try again.
 */
import type { Definitions, Message, Parameter, ParameterKinds, ParametersOf } from '@fastigium/core/messages';
import { defineMessages } from '@fastigium/core/messages';
import { z } from 'zod';
import { parameter } from './messages/schema.ts';

/** What was asked for and is not there. */
const NOT_FOUND = [
  'page',
  'site',
  'pattern',
  'file',
  'address',
  'secondFactor',
  'person',
  'pageOfDraft',
  'change',
  'touch',
  'time',
  'textOfRelease',
  'snag',
  'session',
  'sectionOfRelease',
  'sectionOfPage',
  'planOrRegion',
  'place',
  'picture',
  'password',
  'name',
  'listing',
  'link',
  'job',
  'menuItem',
  'invitation',
  'groupOrLink',
  'endpoint',
  'domain',
  'country',
  'orderOfPatterns',
  'account',
  'placeInSource',
] as const;

export const ERRORS = {
  'sign-in-required': { status: 401, parameters: {} },
  'sign-in-wrong': { status: 401, parameters: {} },
  'sign-in-throttled': { status: 429, parameters: { seconds: 'number' } },
  'second-wrong': { status: 401, parameters: {} },
  'second-ended': { status: 410, parameters: {} },
  'password-wrong': { status: 403, parameters: {} },
  'password-known': { status: 422, parameters: { reason: 'part' } },
  'reset-ended': { status: 410, parameters: {} },
  'factor-unproved': { status: 422, parameters: {} },
  'passkey-wrong': { status: 422, parameters: { reason: 'part' } },
  'mail-not-set': { status: 422, parameters: {} },
  'mail-failed': { status: 502, parameters: { reason: 'part' } },
  'owner-exists': { status: 409, parameters: {} },
  'invitation-ended': { status: 410, parameters: {} },
  'email-taken': { status: 409, parameters: { email: 'text' } },
  'last-owner': { status: 422, parameters: {} },
  'not-allowed': { status: 403, parameters: { role: 'text' } },
  'host-unknown': { status: 421, parameters: { host: 'text' } },
  'request-forged': { status: 403, parameters: {} },
  'input-invalid': { status: 400, parameters: { detail: 'part' } },
  'not-found': { status: 404, parameters: { what: NOT_FOUND } },
  'draft-stale': { status: 409, parameters: {} },
  'title-empty': { status: 422, parameters: {} },
  'address-taken': { status: 422, parameters: { address: 'text', title: 'text' } },
  'address-is-home': { status: 422, parameters: {} },
  'home-keeps-address': { status: 422, parameters: {} },
  'home-not-ready': { status: 422, parameters: {} },
  'home-needed': { status: 422, parameters: {} },
  'report-not-printed': { status: 503, parameters: {} },
  'same-changed': { status: 409, parameters: { person: 'text', decision: 'message' } },
  'live-moved': { status: 409, parameters: { number: 'number' } },
  'nothing-drifted': { status: 409, parameters: {} },
  'entry-same': { status: 422, parameters: {} },
  'entry-of-home': { status: 422, parameters: {} },
  'last-day-past': { status: 422, parameters: { day: 'text' } },
  'style-same': { status: 422, parameters: {} },
  'move-into-itself': { status: 422, parameters: {} },
  'already-removed': { status: 409, parameters: {} },
  'last-page': { status: 422, parameters: {} },
  'removal-needs-home': { status: 422, parameters: {} },
  'stand-in-missing': { status: 422, parameters: {} },
  'not-removed': { status: 409, parameters: {} },
  'removal-swept': { status: 410, parameters: {} },
  'removed-with-page': { status: 422, parameters: {} },
  'put-back-taken': { status: 409, parameters: { address: 'text', title: 'text' } },
  'put-back-over-file': { status: 422, parameters: { address: 'text' } },
  'removal-held': { status: 409, parameters: { label: 'text', person: 'text', reason: 'part' } },
  'confirmation-differs': { status: 422, parameters: { wanted: 'text' } },
  'not-in-release': { status: 404, parameters: { number: 'number', address: 'text' } },
  'same-as-release': { status: 422, parameters: { number: 'number' } },
  'not-held': { status: 409, parameters: {} },
  'menu-unknown': { status: 404, parameters: {} },
  'menu-page-gone': { status: 422, parameters: { label: 'text' } },
  'touch-place-lost': { status: 422, parameters: {} },
  'file-not-there': { status: 422, parameters: { address: 'text' } },
  'asset-name': { status: 422, parameters: { name: 'text' } },
  'page-not-made': { status: 422, parameters: {} },
  'address-unreadable': { status: 422, parameters: { address: 'text' } },
  'day-over': { status: 422, parameters: { day: 'text' } },
  'old-domain-unknown': { status: 422, parameters: { host: 'text' } },
  'nothing-live': { status: 409, parameters: {} },
  'no-access-log': { status: 422, parameters: {} },
  'log-unreadable': { status: 422, parameters: { why: 'part' } },
  'hook-there': { status: 409, parameters: { url: 'text' } },
  'time-is-past': { status: 422, parameters: {} },
  'not-inspected': { status: 404, parameters: { number: 'number' } },
  'rules-unreadable': { status: 422, parameters: { name: 'text', why: 'part' } },
  'nothing-to-flatten': { status: 422, parameters: {} },
  'redirect-onto-itself': { status: 422, parameters: { address: 'text' } },
  'redirect-hidden': { status: 422, parameters: { address: 'text' } },
  'redirect-loop': { status: 422, parameters: { hops: 'text' } },
  'redirect-target-missing': { status: 422, parameters: {} },
  'redirect-target-user': { status: 422, parameters: { host: 'text' } },
  'no-menu-here': { status: 422, parameters: {} },
  'menu-changed': { status: 409, parameters: {} },
  'no-listing': { status: 422, parameters: {} },
  'redirect-unknown': { status: 404, parameters: { address: 'text' } },
  'already-home': { status: 422, parameters: {} },
  'nothing-to-undo': { status: 422, parameters: {} },
  'upload-too-large': { status: 413, parameters: { limit: 'text' } },
  'upload-slow': { status: 408, parameters: {} },
  'upload-no-room': { status: 507, parameters: {} },
  'upload-broken': { status: 400, parameters: {} },
  'upload-gone': { status: 410, parameters: {} },
  'uploads-many': { status: 429, parameters: { count: 'number' } },
  'upload-empty': { status: 422, parameters: {} },
  'archive-unreadable': { status: 422, parameters: { detail: 'part' } },
  'archive-expands': { status: 422, parameters: { detail: 'part' } },
  'archive-empty': { status: 422, parameters: {} },
  'crawl-address': { status: 422, parameters: { address: 'text' } },
  'crawl-private': { status: 422, parameters: { host: 'text', detail: 'part' } },
  'network-private': { status: 422, parameters: { host: 'text', detail: 'part' } },
  'name-nowhere': { status: 422, parameters: { host: 'text' } },
  'crawl-unreachable': { status: 502, parameters: { address: 'text', detail: 'part' } },
  'crawl-elsewhere': { status: 422, parameters: { address: 'text', target: 'text' } },
  'crawl-shut': { status: 422, parameters: { host: 'text', line: 'number' } },
  'crawl-robots-unreachable': { status: 502, parameters: { host: 'text', detail: 'part' } },
  'crawl-no-pages': { status: 422, parameters: { host: 'text' } },
  'import-running': { status: 409, parameters: {} },
  'no-review': { status: 409, parameters: {} },
  'nothing-imported': { status: 409, parameters: {} },
  'snags-hold': { status: 409, parameters: { count: 'number' } },
  'snag-not-mendable': { status: 422, parameters: {} },
  'language-unreadable': { status: 422, parameters: { language: 'text' } },
  'metadata-unusable': { status: 422, parameters: { what: 'message', why: 'part' } },
  'table-unreadable': { status: 422, parameters: { detail: 'part' } },
  'icon-unusable': { status: 422, parameters: { why: 'part' } },
  'nothing-to-settle': { status: 422, parameters: {} },
  'old-addresses-unreadable': { status: 422, parameters: { name: 'text', why: 'part' } },
  'log-counted': { status: 409, parameters: { name: 'text' } },
  'columns-unmatched': { status: 422, parameters: {} },
  'pattern-unreadable': { status: 422, parameters: { pattern: 'text', why: 'part' } },
  'pattern-target': { status: 422, parameters: { target: 'text', why: 'part' } },
  'pattern-twice': { status: 409, parameters: { pattern: 'text' } },
  'gather-nothing': { status: 422, parameters: { address: 'text', why: 'part' } },
  'publish-running': { status: 409, parameters: { person: 'text', number: 'number' } },
  'nothing-to-publish': { status: 422, parameters: {} },
  'release-not-kept': { status: 404, parameters: { number: 'number' } },
  'release-is-live': { status: 422, parameters: { number: 'number' } },
  'host-needed': { status: 409, parameters: {} },
  'site-address-unknown': { status: 409, parameters: {} },
  'host-unreachable': { status: 502, passes: true, parameters: { detail: 'part' } },
  'host-refused': { status: 502, parameters: { detail: 'part' } },
  'host-troubled': { status: 502, passes: true, parameters: { detail: 'part' } },
  'host-silent': { status: 502, passes: true, parameters: { detail: 'part' } },
  'database-away': { status: 503, passes: true, parameters: {} },
  'database-slow': { status: 503, passes: true, parameters: {} },
  'database-full': { status: 507, parameters: {} },
  'host-full': { status: 507, parameters: { detail: 'part' } },
  'host-lost-base': { status: 502, parameters: { detail: 'part' } },
  'job-ended': { status: 409, parameters: {} },
  'job-lost': { status: 500, parameters: {} },
  'work-too-long': { status: 422, parameters: { minutes: 'number' } },
  cancelled: { status: 409, parameters: { person: 'text' } },
  'name-taken': { status: 409, parameters: { name: 'text' } },
  'site-name-differs': { status: 422, parameters: { name: 'text' } },
  'name-unreadable': { status: 422, parameters: { name: 'text', reason: 'part' } },
  'name-elsewhere': { status: 409, parameters: { name: 'text' } },
  'name-not-for-sale': { status: 422, parameters: { name: 'text', reason: 'part' } },
  'no-domain': { status: 409, parameters: {} },
  'no-lookup-yet': { status: 409, parameters: {} },
  'registrar-unreachable': { status: 502, parameters: { detail: 'part' } },
  'registrar-refused': { status: 502, parameters: { detail: 'part' } },
  'zone-unreadable': { status: 422, parameters: { line: 'number', fault: 'message', more: 'number' } },
  'update-not-set-up': { status: 409, parameters: {} },
  'update-key-unreadable': { status: 422, parameters: {} },
  'update-refused': { status: 502, parameters: { detail: 'part' } },
  'update-outdated': { status: 409, parameters: {} },
  'update-ends-mail': { status: 422, parameters: { zone: 'text' } },
  'certificate-not-ready': { status: 409, parameters: { reason: 'part' } },
  'certificate-refused': { status: 502, parameters: { detail: 'part' } },
  'hsts-too-early': { status: 409, parameters: {} },
  'temporary-name-taken': { status: 409, parameters: { label: 'text', free: 'text' } },
  'host-offers-no-names': { status: 409, parameters: {} },
  'host-key-changed': { status: 409, parameters: { seen: 'text', pinned: 'text' } },
  'host-login-refused': { status: 422, parameters: { user: 'text' } },
  'host-place-shut': { status: 422, parameters: { path: 'text', setting: 'text', open: 'text' } },
  'host-folder-unusable': { status: 422, parameters: { reason: 'part' } },
  'standin-refused': { status: 502, parameters: { detail: 'part' } },
  'base-path-unreadable': { status: 422, parameters: { path: 'text' } },
  'base-path-same': { status: 422, parameters: { path: 'text' } },
  'zone-not-known': { status: 409, parameters: { zone: 'text' } },
  internal: { status: 500, parameters: { reference: 'text' } },
} as const satisfies Record<string, { status: number; passes?: true; parameters: ParameterKinds }>;

type Errors = typeof ERRORS;
export type ErrorCode = keyof Errors;
export type ErrorDetails = Readonly<Record<string, Parameter>>;
export type DetailsOf<C extends ErrorCode> = ParametersOf<Errors[C]['parameters']>;

const parametersOfAll = Object.fromEntries(
  Object.entries(ERRORS).map(([code, { parameters }]) => [code, parameters]),
) as { readonly [C in ErrorCode]: Errors[C]['parameters'] } satisfies Definitions;

/** What errors say. */
export const error = defineMessages('error', parametersOfAll);

type Filling<C extends ErrorCode> = keyof Errors[C]['parameters'] extends never
  ? [details?: Record<string, never>, options?: ErrorOptions]
  : [details: DetailsOf<C>, options?: ErrorOptions];

/** An expected failure, thrown anywhere on the server and answered in one place. Its own `message` is for logs. */
class Failure extends Error {
  readonly code: ErrorCode;
  readonly details: ErrorDetails;
  /** As whoever sent it said it, for who has no words of their own (yet). */
  readonly said: string | undefined;

  constructor(code: ErrorCode, details: ErrorDetails = {}, options?: ErrorOptions & { readonly said?: string }) {
    super(`${code} ${JSON.stringify(details)}`, options);
    this.name = 'DomainError';
    this.code = code;
    this.details = details;
    this.said = options?.said;
  }

  /** What is told to whoever asked. */
  get told(): Message {
    return { code: `error.${this.code}`, parameters: this.details };
  }
}

export type DomainError = Failure;
/** Each code with what fills its message. */
export const DomainError = Failure as new <C extends ErrorCode>(code: C, ...filling: Filling<C>) => Failure;

/** Whether what failed may well go by itself, so that trying again is worth while (connections, outages). */
export function passes({ code }: DomainError): boolean {
  return 'passes' in ERRORS[code];
}

const codes = Object.keys(ERRORS) as [ErrorCode, ...ErrorCode[]];

/** An error as it is kept and sent. */
export const keptError = z.object({ code: z.enum(codes), details: z.record(z.string(), parameter) });
export type KeptError = z.infer<typeof keptError>;

/** An error as it was kept or sent. */
export const errorFrom = ({ code, details, message }: KeptError & { readonly message?: string }): DomainError =>
  new Failure(code, details, message === undefined ? {} : { said: message });

/** `message` says it in English, for who has no catalogue. */
export const errorAnswer = z.object({ error: keptError.extend({ message: z.string() }) });
export type ErrorAnswer = z.infer<typeof errorAnswer>;
