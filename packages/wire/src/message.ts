/**
 * Questions and answers of the domain name system (RFC 1035 section 4, EDNS of RFC 6891), by dns-packet.
 * An answer is taken only if it answers what was asked: its number, its question, its kind (RFC 5452
 * section 9.1).
 */
import type { DomainName, ResourceRecord } from '@fastigium/core/dns';
import {
  decode,
  encode,
  RECURSION_DESIRED,
  AUTHORITATIVE_ANSWER,
  RECURSION_AVAILABLE,
  TRUNCATED_RESPONSE,
  type DecodedPacket,
  type Packet,
  type RecordType,
} from 'dns-packet';
import { fromPacketRecord, toPacketRecord } from './recordBytes.ts';

export interface Question {
  readonly name: DomainName;
  readonly type: string;
}

export interface Reply {
  /** `NOERROR`, `NXDOMAIN`, `SERVFAIL`, `REFUSED` … (RFC 6895 section 2.3). */
  readonly rcode: string;
  readonly authoritative: boolean;
  readonly truncated: boolean;
  readonly answers: readonly ResourceRecord[];
  readonly authorities: readonly ResourceRecord[];
}

export type WrongAnswerWhy = 'no-dns' | 'a-question' | 'other-number' | 'other-question' | 'no-question';

/** The answer does not belong to the question. */
export class WrongAnswer extends Error {
  readonly why: WrongAnswerWhy;

  constructor(why: WrongAnswerWhy, options?: ErrorOptions) {
    super(why, options);
    this.why = why;
  }
}

/** What a UDP answer may hold without being cut by a network on the way (DNS flag day 2020). */
export const UDP_BYTES = 1232;

export function encodeQuestion(id: number, { name, type }: Question, options: { recursion: boolean }): Buffer {
  return encode({
    type: 'query',
    id,
    flags: options.recursion ? RECURSION_DESIRED : 0,
    questions: [{ name: name === '' ? '.' : name, type: type as RecordType, class: 'IN' }],
    additionals: [
      {
        type: 'OPT',
        name: '.',
        udpPayloadSize: UDP_BYTES,
        extendedRcode: 0,
        ednsVersion: 0,
        flags: 0,
        flag_do: false,
        options: [],
      } as never,
    ],
  });
}

export function decodeReply(bytes: Buffer, id: number, question: Question): Reply {
  let packet: DecodedPacket & { rcode?: string };
  try {
    packet = decode(bytes) as DecodedPacket & { rcode?: string };
  } catch (error) {
    throw new WrongAnswer('no-dns', { cause: error });
  }
  if (packet.type !== 'response') throw new WrongAnswer('a-question');
  if (packet.id !== id) throw new WrongAnswer('other-number');
  const [asked] = packet.questions ?? [];
  const name = asked?.name.toLowerCase().replace(/\.$/, '');
  if (asked && (name !== question.name || asked.type !== question.type)) throw new WrongAnswer('other-question');
  if (!asked && packet.rcode === 'NOERROR') throw new WrongAnswer('no-question');
  return {
    rcode: packet.rcode ?? 'NOERROR',
    authoritative: packet.flag_aa,
    truncated: packet.flag_tc,
    answers: records(packet.answers),
    authorities: records(packet.authorities),
  };
}

const records = (answers: DecodedPacket['answers']): ResourceRecord[] =>
  (answers ?? []).map(fromPacketRecord).filter((record) => record !== undefined);

export interface Asked extends Question {
  readonly id: number;
  readonly recursion: boolean;
  /** What the asker's UDP takes; 512 without EDNS (RFC 1035 section 2.3.4). */
  readonly udpBytes: number;
  readonly opcode: string;
}

/** Reads a question for a server. Undefined for what is none. */
export function decodeQuestion(bytes: Buffer): Asked | undefined {
  try {
    const packet = decode(bytes) as DecodedPacket & { opcode?: string };
    const [question] = packet.questions ?? [];
    if (packet.type !== 'query' || !question) return undefined;
    const opt = packet.additionals?.find(({ type }) => type === 'OPT') as { udpPayloadSize?: number } | undefined;
    return {
      id: packet.id ?? 0,
      name: question.name.toLowerCase().replace(/\.$/, ''),
      type: question.type,
      opcode: packet.opcode ?? 'QUERY',
      recursion: packet.flag_rd,
      udpBytes: Math.max(512, opt?.udpPayloadSize ?? 512),
    };
  } catch {
    return undefined;
  }
}

export interface ServerReply {
  readonly rcode: number;
  readonly authoritative: boolean;
  readonly recursionAvailable: boolean;
  readonly answers: readonly ResourceRecord[];
  readonly authorities: readonly ResourceRecord[];
}

/** Encodes an answer; one that does not fit into `mostBytes` is cut to its head and marked (RFC 2181 section 9). */
export function encodeReply(asked: Asked, reply: ServerReply, mostBytes = 65_535): Buffer {
  const flags =
    (reply.authoritative ? AUTHORITATIVE_ANSWER : 0) |
    (reply.recursionAvailable ? RECURSION_AVAILABLE : 0) |
    (asked.recursion ? RECURSION_DESIRED : 0) |
    reply.rcode;
  const packet: Packet = {
    type: 'response',
    id: asked.id,
    flags,
    questions: [{ name: asked.name === '' ? '.' : asked.name, type: asked.type as RecordType, class: 'IN' }],
  };
  const whole = encode({
    ...packet,
    answers: reply.answers.map(toPacketRecord),
    authorities: reply.authorities.map(toPacketRecord),
  });
  return whole.length <= mostBytes ? whole : encode({ ...packet, flags: flags | TRUNCATED_RESPONSE });
}

/** RFC 6895 section 2.3, and RFC 8945 section 3 for the last. */
export const RCODES = {
  NOERROR: 0,
  FORMERR: 1,
  SERVFAIL: 2,
  NXDOMAIN: 3,
  NOTIMP: 4,
  REFUSED: 5,
  NOTAUTH: 9,
  NOTZONE: 10,
} as const;
export const rcodeName = (code: number): string =>
  Object.entries(RCODES).find(([, value]) => value === code)?.[0] ?? `RCODE ${code}`;
