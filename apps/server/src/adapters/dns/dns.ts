/** Questions to name servers and resolvers, and updates to an authority; each waits only so long. */
import { DomainError } from '@fastigium/contracts/errors';
import { answer, type AnswerMessage } from '@fastigium/contracts/messages/answer';
import { reason } from '@fastigium/contracts/messages/reason';
import type { DomainName } from '@fastigium/core/dns';
import {
  ask,
  decodeUpdate,
  encodeUpdate,
  exchangeTcp,
  isSigned,
  NoAnswer,
  rcodeName,
  sign,
  WrongAnswer,
  type Question,
  type TimedReply,
  type TsigKey,
  type UpdateStep,
} from '@fastigium/wire';
import { randomInt } from 'node:crypto';
import type { MayConnect } from '../web/addresses.ts';
import type { Endpoint, Routes } from '../world/routes.ts';

const WITHIN_MS = 2000;
/** One lost packet must not look like a dead server. */
const TRIES = 2;

export type Asked =
  | { readonly ok: true; readonly reply: TimedReply; readonly ms: number }
  | { readonly ok: false; readonly reason: AnswerMessage; readonly ms: number };

export interface DnsPort {
  /** Asks an authority by its public address. */
  authority(address: string, question: Question): Promise<Asked>;
  resolver(server: Endpoint, question: Question): Promise<Asked>;
  /** Sends a signed update and checks the signed answer. Throws a DomainError `update-refused`. */
  update(server: Endpoint, zone: DomainName, steps: readonly UpdateStep[], key: TsigKey): Promise<void>;
}

/** @param mayConnect whether an address may be asked, of those that people or records name */
export function createDnsPort(routes: Routes, nowMs: () => number, mayConnect: MayConnect): DnsPort {
  return {
    authority: (address, question) =>
      mayConnect(address, 53) ? askPatiently(routes(address, 53), question, false) : Promise.resolve(SHUT),
    resolver: (server, question) =>
      mayConnect(server.address, server.port) ? askPatiently(server, question, true) : Promise.resolve(SHUT),
    async update(server, zone, steps, key) {
      if (!mayConnect(server.address, server.port)) throw new DomainError('update-refused', { detail: SHUT.reason });
      const id = randomInt(65_536);
      const nowSeconds = Math.floor(nowMs() / 1000);
      const signed = sign(encodeUpdate({ id, zone, steps }), key, nowSeconds);
      const bytes = await exchangeTcp(routes(server.address, server.port), signed.bytes, 2 * WITHIN_MS).catch(
        (error: NoAnswer) => {
          throw new DomainError('update-refused', { detail: describeNoAnswer(error, 2 * WITHIN_MS) }, { cause: error });
        },
      );
      const reply = decodeUpdate(bytes);
      if (reply.id !== id || !reply.isResponse)
        throw new DomainError('update-refused', { detail: reason('other-answer') });
      if (reply.rcode !== 0)
        throw new DomainError('update-refused', {
          detail: reply.rcode === 9 ? answer('key-unknown') : rcodeName(reply.rcode),
        });
      if (!isSigned(reply, key, nowSeconds, signed.mac))
        throw new DomainError('update-refused', {
          detail: reason('answer-not-signed'),
        });
    },
  };
}

async function askPatiently(server: Endpoint, question: Question, recursion: boolean): Promise<Asked> {
  const start = performance.now();
  const ms = () => Math.round(performance.now() - start);
  let reason = answer('not-asked') as AnswerMessage;
  for (let attempt = 0; attempt < TRIES; attempt += 1) {
    try {
      const reply = await ask(server, question, { recursion, withinMs: WITHIN_MS });
      if (reply.rcode === 'NOERROR' || reply.rcode === 'NXDOMAIN') return { ok: true, reply, ms: ms() };
      return { ok: false, reason: RCODES[reply.rcode] ?? answer('other-code', { code: reply.rcode }), ms: ms() };
    } catch (error) {
      if (!(error instanceof NoAnswer || error instanceof WrongAnswer)) throw error;
      reason = error instanceof NoAnswer ? describeNoAnswer(error, WITHIN_MS) : answer(error.why);
      if (error.why === 'nobody-listens') break;
    }
  }
  return { ok: false, reason, ms: ms() };
}

function describeNoAnswer({ why }: NoAnswer, withinMs: number): AnswerMessage {
  return why === 'too-late' ? answer('too-late', { seconds: withinMs / 1000 }) : answer(why);
}

const SHUT = { ok: false, reason: answer('private-network'), ms: 0 } as const;

const RCODES: Readonly<Record<string, AnswerMessage>> = {
  REFUSED: answer('refused'),
  SERVFAIL: answer('not-found-out'),
  FORMERR: answer('not-understood'),
  NOTIMP: answer('not-done'),
};
