/** Asking the live host for what a release promises, as visitors do. */
import { createHash } from 'node:crypto';
import { splitAddress } from '@fastigium/core/address';
import {
  finding,
  judgeAgain,
  judgeAnswer,
  judgeClosed,
  judgeNowhere,
  judgeSecurity,
  type Answer,
  type Aspect,
  type Finding,
  type InspectionPlan,
  type Question,
} from '@fastigium/core/inspection';
import type { LiveAnswer, ReadLive } from '../../adapters/web/liveReader.ts';
import type { JobRun } from '../../jobs/queue.ts';
import type { Entrance } from '../shared/entrance.ts';
import { progressStep } from '@fastigium/contracts/messages/progress';

const AT_ONCE = 16;
/** Pages asked for a second time with what came the first time. */
const MOST_AGAIN = 50;
/** Addresses behind a password that are asked for without it. */
const MOST_WITHOUT_PASSWORD = 50;
const LIMITS = { bytes: 512 * 1024 * 1024, withinMs: 30_000 } as const;

export interface PageSeen {
  readonly path: string;
  /** What the host answered; undefined where it did not answer. */
  readonly status: number | undefined;
  /** Kept only where it is not what was published. */
  readonly body: Buffer | undefined;
  readonly problem: string | undefined;
}

export interface Asked {
  readonly asked: ReadonlyMap<Aspect, number>;
  readonly findings: readonly Finding[];
  readonly pages: readonly PageSeen[];
}

/** @param notFoundHash SHA-256 of the site's own page for what is not found, where it has one */
export async function askAll(
  readLive: ReadLive,
  { questions, nowhere }: InspectionPlan,
  origin: URL,
  {
    notFoundHash,
    hstsSeconds,
    entrance,
    readPage,
  }: {
    readonly notFoundHash: string | undefined;
    readonly hstsSeconds: number | null;
    readonly entrance: Entrance;
    /** Gets each page that answers, for who reads on in it. */
    readonly readPage?: (url: URL, body: Buffer) => void;
  },
  job: Pick<JobRun, 'signal' | 'report'>,
): Promise<Asked> {
  const asked = new Map<Aspect, number>();
  const count = (aspect: Aspect, by = 1) => void asked.set(aspect, (asked.get(aspect) ?? 0) + by);
  const findings: Finding[] = [];
  const pages: PageSeen[] = [];
  const waiting = questions.values();
  let done = 0;
  let again = 0;
  let withoutPassword = 0;

  /** @returns whether anybody may see what stands there */
  const askClosed = async ({ address, entry }: Question, url: URL): Promise<boolean> => {
    const admitted = entrance.admit(splitAddress(address).path, entry.path);
    if (admitted.kind === 'everyone') return true;
    if (admitted.kind === 'password' && (withoutPassword += 1) > MOST_WITHOUT_PASSWORD) return true;
    count('visitors');
    const live = await askLive(readLive, url, job.signal);
    findings.push(
      ...(live instanceof Error
        ? [
            {
              aspect: 'visitors' as const,
              address,
              message: finding('no-answer', { reason: live.message.slice(0, 200) }),
              weight: 'wrong' as const,
            },
          ]
        : judgeClosed(address, admitted.kind, answerOf(live), entry.hash)),
    );
    return admitted.kind === 'password';
  };

  const askOne = async (question: Question): Promise<void> => {
    const { aspect, address, entry } = question;
    const url = new URL(address, origin);
    if (!(await askClosed(question, url))) return;
    count(aspect);
    const headers = entrance.headersFor(splitAddress(address).path, entry.path);
    const live = await askLive(readLive, url, job.signal, headers);
    const isPage = aspect === 'home' || aspect === 'pages';
    if (live instanceof Error) {
      findings.push({
        aspect,
        address,
        message: finding('no-answer', { reason: live.message.slice(0, 200) }),
        weight: 'wrong',
      });
      if (isPage)
        pages.push({ path: entry.path, status: undefined, body: undefined, problem: live.message.slice(0, 200) });
      return;
    }
    const answer = answerOf(live);
    const found = judgeAnswer(question, answer);
    findings.push(...found);
    const isAsSent = live.status === 200 && answer.hash === entry.hash;
    if (isPage && live.status === 200) readPage?.(url, live.body);
    if (isPage)
      pages.push({ path: entry.path, status: live.status, body: isAsSent ? undefined : live.body, problem: undefined });
    if (isAsSent) {
      count('types');
      count('caching');
    }
    if (aspect === 'home') {
      count('security');
      findings.push(...judgeSecurity(address, answer.headers, url.protocol === 'https:', hstsSeconds));
    }
    const condition = answer.headers['etag'];
    if (isAsSent && isPage && condition !== undefined && again < MOST_AGAIN) {
      again += 1;
      const second = await askLive(readLive, url, job.signal, { ...headers, 'if-none-match': condition });
      if (!(second instanceof Error)) findings.push(...judgeAgain(address, second.status));
    }
  };
  const work = async () => {
    for (const question of waiting) {
      await askOne(question);
      job.report({
        step: progressStep('asking-from-outside'),
        done: (done += 1),
        total: questions.length,
        unit: 'addresses',
      });
    }
  };
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  const isNowhereOpen =
    nowhere !== undefined &&
    ['everyone', 'password'].includes(entrance.admit(splitAddress(nowhere).path, undefined).kind);
  if (nowhere !== undefined && isNowhereOpen) {
    count('not found');
    const live = await askLive(
      readLive,
      new URL(nowhere, origin),
      job.signal,
      entrance.headersFor(splitAddress(nowhere).path),
    );
    findings.push(
      ...(live instanceof Error
        ? [
            {
              aspect: 'not found' as const,
              address: nowhere,
              message: finding('no-answer', { reason: live.message.slice(0, 200) }),
              weight: 'wrong' as const,
            },
          ]
        : judgeNowhere(nowhere, answerOf(live), notFoundHash)),
    );
  }
  return { asked, findings, pages };
}

async function askLive(
  readLive: ReadLive,
  url: URL,
  signal: AbortSignal,
  headers: Readonly<Record<string, string>> = {},
): Promise<LiveAnswer | Error> {
  try {
    return await readLive(url, LIMITS, signal, headers);
  } catch (error) {
    signal.throwIfAborted();
    return error instanceof Error ? error : new Error('unknown');
  }
}

function answerOf({ status, headers, body }: LiveAnswer): Answer {
  return {
    status,
    sizeBytes: body.length,
    hash: createHash('sha256').update(body).digest('hex'),
    headers: Object.fromEntries(
      Object.entries(headers).map(([name, value]) => [name, Array.isArray(value) ? value.join(', ') : value]),
    ),
  };
}
