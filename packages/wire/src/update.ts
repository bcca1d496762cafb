/**
 * Dynamic updates (RFC 2136), signed with TSIG (RFC 8945). dns-packet knows neither class NONE nor TSIG,
 * so these messages are put together here; names and data are still encoded by it.
 */
import { createHmac, timingSafeEqual } from 'node:crypto';
import type { DomainName, ResourceRecord } from '@fastigium/core/dns';
import { name as nameCodec, record as codecOf } from 'dns-packet';
import { toString as typeName, toType } from 'dns-packet/types.js';
import { fromPacketData, toPacketData } from './recordBytes.ts';

const CLASS = { IN: 1, NONE: 254, ANY: 255 } as const;
const TSIG_TYPE = 250;
const UPDATE_FLAGS = 5 << 11;
const RESPONSE = 1 << 15;
/** Clocks may differ by this much (RFC 8945 section 10). */
export const TSIG_FUDGE_SECONDS = 300;

/** One step of an update: delete a whole set, delete one record, or add one (RFC 2136 section 2.5). */
export type UpdateStep =
  | { readonly kind: 'delete-set'; readonly name: DomainName; readonly type: string }
  | { readonly kind: 'delete'; readonly record: ResourceRecord }
  | { readonly kind: 'add'; readonly record: ResourceRecord };

export interface TsigKey {
  readonly name: DomainName;
  /** `hmac-sha256` and its kin. */
  readonly algorithm: TsigAlgorithm;
  readonly secret: Buffer;
}

export const TSIG_ALGORITHMS = ['hmac-sha256', 'hmac-sha384', 'hmac-sha512'] as const;
export type TsigAlgorithm = (typeof TSIG_ALGORITHMS)[number];

export interface Update {
  readonly id: number;
  readonly zone: DomainName;
  /** Sets that must exist for the update to be made, so that nobody's later change is overwritten. */
  readonly steps: readonly UpdateStep[];
}

const u16 = (value: number) => {
  const bytes = Buffer.alloc(2);
  bytes.writeUInt16BE(value);
  return bytes;
};
const u32 = (value: number) => {
  const bytes = Buffer.alloc(4);
  bytes.writeUInt32BE(value >>> 0);
  return bytes;
};
const u48 = (value: number) => {
  const bytes = Buffer.alloc(6);
  bytes.writeUIntBE(value, 0, 6);
  return bytes;
};
const nameBytes = (name: DomainName) => Buffer.from(nameCodec.encode(name === '' ? '.' : name));

function stepBytes(step: UpdateStep): Buffer {
  if (step.kind === 'delete-set')
    return Buffer.concat([nameBytes(step.name), u16(toType(step.type)), u16(CLASS.ANY), u32(0), u16(0)]);
  const { name, type, ttlSeconds, data } = step.record;
  const rdata = Buffer.from(codecOf(type as never).encode(toPacketData(type, data) as never));
  return Buffer.concat([
    nameBytes(name),
    u16(toType(type)),
    u16(step.kind === 'add' ? CLASS.IN : CLASS.NONE),
    u32(step.kind === 'add' ? ttlSeconds : 0),
    rdata,
  ]);
}

export function encodeUpdate({ id, zone, steps }: Update): Buffer {
  const head = Buffer.concat([u16(id), u16(UPDATE_FLAGS), u16(1), u16(0), u16(steps.length), u16(0)]);
  return Buffer.concat([head, nameBytes(zone), u16(toType('SOA')), u16(CLASS.IN), ...steps.map(stepBytes)]);
}

/** Appends a TSIG record. `requestMac` is given when an answer is signed (RFC 8945 section 5.3). */
export function sign(
  message: Buffer,
  key: TsigKey,
  nowSeconds: number,
  requestMac?: Buffer,
): { bytes: Buffer; mac: Buffer } {
  const mac = macOf(
    message,
    key,
    { timeSeconds: nowSeconds, fudge: TSIG_FUDGE_SECONDS, error: 0, other: Buffer.alloc(0) },
    requestMac,
  );
  const rdata = Buffer.concat([
    nameBytes(key.algorithm),
    u48(nowSeconds),
    u16(TSIG_FUDGE_SECONDS),
    u16(mac.length),
    mac,
    message.subarray(0, 2),
    u16(0),
    u16(0),
  ]);
  const record = Buffer.concat([nameBytes(key.name), u16(TSIG_TYPE), u16(CLASS.ANY), u32(0), u16(rdata.length), rdata]);
  const bytes = Buffer.concat([message, record]);
  bytes.writeUInt16BE(bytes.readUInt16BE(10) + 1, 10);
  return { bytes, mac };
}

interface TsigVariables {
  readonly timeSeconds: number;
  readonly fudge: number;
  readonly error: number;
  readonly other: Buffer;
}

/** The digest of RFC 8945 section 4.3: request MAC if any, message without TSIG, TSIG variables. */
function macOf(
  message: Buffer,
  key: TsigKey,
  { timeSeconds, fudge, error, other }: TsigVariables,
  requestMac?: Buffer,
): Buffer {
  const hmac = createHmac(key.algorithm.slice('hmac-'.length), key.secret);
  if (requestMac) hmac.update(u16(requestMac.length)).update(requestMac);
  hmac.update(message);
  hmac.update(
    Buffer.concat([
      nameBytes(key.name),
      u16(CLASS.ANY),
      u32(0),
      nameBytes(key.algorithm),
      u48(timeSeconds),
      u16(fudge),
      u16(error),
      u16(other.length),
      other,
    ]),
  );
  return hmac.digest();
}

interface Parsed {
  readonly id: number;
  readonly rcode: number;
  readonly isResponse: boolean;
  readonly opcode: number;
  readonly zone: DomainName;
  readonly prerequisites: number;
  readonly steps: readonly UpdateStep[];
  readonly tsig:
    | {
        readonly name: DomainName;
        readonly algorithm: string;
        readonly variables: TsigVariables;
        readonly mac: Buffer;
        readonly unsigned: Buffer;
      }
    | undefined;
}

/** Reads an update or the answer to one. Throws a RangeError for what is too short or malformed. */
export function decodeUpdate(bytes: Buffer): Parsed {
  const counts = [4, 6, 8, 10].map((at) => bytes.readUInt16BE(at));
  const [zones = 0, prerequisites = 0, updates = 0, additional = 0] = counts;
  let at = 12;
  const readName = () => {
    const name = nameCodec.decode(bytes, at);
    at += nameCodec.decode.bytes;
    return name.toLowerCase().replace(/\.$/, '');
  };
  let zone = '';
  for (let n = 0; n < zones; n += 1) {
    zone = readName();
    at += 4;
  }
  const steps: UpdateStep[] = [];
  let tsig: Parsed['tsig'];
  for (let n = 0; n < prerequisites + updates + additional; n += 1) {
    const start = at;
    const name = readName();
    const [type, klass, ttlSeconds, length] = [
      bytes.readUInt16BE(at),
      bytes.readUInt16BE(at + 2),
      bytes.readUInt32BE(at + 4),
      bytes.readUInt16BE(at + 8),
    ];
    const rdata = at + 8;
    at += 10 + length;
    if (at > bytes.length) throw new RangeError('a record ends beyond the message');
    if (type === TSIG_TYPE) tsig = readTsig(bytes, start, name, rdata + 2);
    else if (n >= prerequisites && n < prerequisites + updates)
      steps.push(readStep(bytes, { name, type, klass, ttlSeconds, length, rdata }));
  }
  const flags = bytes.readUInt16BE(2);
  return {
    id: bytes.readUInt16BE(0),
    rcode: flags & 15,
    isResponse: (flags & RESPONSE) !== 0,
    opcode: (flags >> 11) & 15,
    zone,
    prerequisites,
    steps,
    tsig,
  };
}

function readStep(
  bytes: Buffer,
  {
    name,
    type,
    klass,
    ttlSeconds,
    length,
    rdata,
  }: { name: string; type: number; klass: number; ttlSeconds: number; length: number; rdata: number },
): UpdateStep {
  const word = typeName(type);
  if (klass === CLASS.ANY && length === 0) return { kind: 'delete-set', name, type: word };
  const data = fromPacketData(word, codecOf(word as never).decode(bytes, rdata) as unknown);
  return { kind: klass === CLASS.NONE ? 'delete' : 'add', record: { name, type: word, ttlSeconds, data } };
}

function readTsig(bytes: Buffer, start: number, name: string, rdata: number): NonNullable<Parsed['tsig']> {
  const algorithm = nameCodec.decode(bytes, rdata).toLowerCase().replace(/\.$/, '');
  let at = rdata + nameCodec.decode.bytes;
  const timeSeconds = bytes.readUIntBE(at, 6);
  const fudge = bytes.readUInt16BE(at + 6);
  const size = bytes.readUInt16BE(at + 8);
  at += 10;
  const mac = Buffer.from(bytes.subarray(at, at + size));
  at += size;
  const unsigned = Buffer.from(bytes.subarray(0, start));
  unsigned.writeUInt16BE(bytes.readUInt16BE(at), 0);
  unsigned.writeUInt16BE(unsigned.readUInt16BE(10) - 1, 10);
  const error = bytes.readUInt16BE(at + 2);
  const otherSize = bytes.readUInt16BE(at + 4);
  return {
    name,
    algorithm,
    mac,
    unsigned,
    variables: { timeSeconds, fudge, error, other: Buffer.from(bytes.subarray(at + 6, at + 6 + otherSize)) },
  };
}

/** Whether a message is signed with this key, within the allowed time. */
export function isSigned(message: Parsed, key: TsigKey, nowSeconds: number, requestMac?: Buffer): boolean {
  const { tsig } = message;
  if (!tsig || tsig.name !== key.name || tsig.algorithm !== key.algorithm) return false;
  if (Math.abs(tsig.variables.timeSeconds - nowSeconds) > tsig.variables.fudge) return false;
  const expected = macOf(tsig.unsigned, key, tsig.variables, requestMac);
  return expected.length === tsig.mac.length && timingSafeEqual(expected, tsig.mac);
}

export function encodeUpdateReply(id: number, rcode: number): Buffer {
  return Buffer.concat([u16(id), u16(RESPONSE | UPDATE_FLAGS | rcode), u16(0), u16(0), u16(0), u16(0)]);
}
