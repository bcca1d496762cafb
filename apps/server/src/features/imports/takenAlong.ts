/** What an archive of a release that was taken along says beside its files: its redirects, which come back in with them. */
import { decision as decided } from '@fastigium/contracts/messages/decision';
import { randomUUID } from 'node:crypto';
import { formatAddress, parseAddress } from '@fastigium/core/address';
import type { PatternRedirect, Redirect, RuleOptions } from '@fastigium/core/redirects';
import { readPattern } from '@fastigium/core/redirects/pattern';
import { z } from 'zod';
import type { Queries } from '../../db/database.ts';
import type { Step } from '../draft/record.ts';

export const RELEASE_FILE = 'release.json';

const status = z.union([z.literal(301), z.literal(302), z.literal(307), z.literal(308), z.literal(410)]);
const rule = z.object({
  from: z.string().max(4000).optional(),
  pattern: z.string().max(2000).optional(),
  status,
  to: z.string().max(4000).optional(),
  query: z.enum(['kept', 'dropped']),
  letterCase: z.enum(['exact', 'any']),
  lastSlash: z.enum(['exact', 'any']),
});
const released = z.object({ redirects: z.array(rule).max(100_000) });
type SaidRule = z.infer<typeof rule>;

/** Keeps what the file says; one that says nothing readable says nothing, and the site comes in all the same. */
export async function keepTakenAlong(tx: Queries, importId: string, bytes: Buffer): Promise<void> {
  let said: unknown;
  try {
    said = JSON.parse(bytes.toString('utf8'));
  } catch {
    return;
  }
  const parsed = released.safeParse(said);
  if (parsed.success)
    await tx.run('update import set redirects = $2 where id = $1', [importId, JSON.stringify(parsed.data.redirects)]);
}

/** Of a first import, its redirects as one step that can be taken back; undefined where it says none. @param pages by address */
export async function prepareTakenAlong(
  queries: Queries,
  importId: string,
  pages: ReadonlyMap<string, string>,
): Promise<Step | undefined> {
  const { redirects: said } = await queries.one<{ redirects: SaidRule[] | null }>(
    'select redirects from import where id = $1',
    [importId],
  );
  if (!said || said.length === 0) return undefined;
  const redirects = said.flatMap((each) => formRedirect(each, pages) ?? []);
  const patterns = said.flatMap((each) => formPattern(each) ?? []).map((pattern) => ({ id: randomUUID(), pattern }));
  const count = redirects.length + patterns.length;
  if (count === 0) return undefined;
  return {
    decision: { kind: 'redirects', redirects, removed: [], patterns },
    message: decided('redirects-came', { count }),
  };
}

function readOptions({ query, letterCase, lastSlash }: SaidRule): RuleOptions {
  return {
    ...(query === 'dropped' ? { dropsQuery: true as const } : {}),
    ...(letterCase === 'any' ? { ignoreCase: true as const } : {}),
    ...(lastSlash === 'any' ? { anySlash: true as const } : {}),
  };
}

/** A page is meant by what it is, so that a later move keeps it right. */
function formRedirect(said: SaidRule, pages: ReadonlyMap<string, string>): Redirect | undefined {
  const parsed = said.from === undefined ? undefined : parseAddress(said.from);
  if (!parsed?.ok) return undefined;
  const from = formatAddress(parsed.address);
  if (said.status === 410) return { from, status: 410, ...readOptions(said) };
  if (said.to === undefined) return undefined;
  const page = pages.get(said.to);
  const target =
    page !== undefined
      ? { kind: 'page' as const, page }
      : said.to.startsWith('/')
        ? { kind: 'address' as const, address: said.to }
        : { kind: 'url' as const, url: said.to };
  return { from, status: said.status, target, ...readOptions(said) };
}

function formPattern(said: SaidRule): PatternRedirect | undefined {
  const { pattern, status: answer, to } = said;
  if (pattern === undefined || !readPattern(pattern, { ignoreCase: said.letterCase === 'any' }).ok) return undefined;
  const { dropsQuery, ignoreCase } = readOptions(said);
  return {
    text: pattern,
    status: answer,
    target: answer === 410 ? undefined : to,
    ...(dropsQuery ? { dropsQuery } : {}),
    ...(ignoreCase ? { ignoreCase } : {}),
  };
}
