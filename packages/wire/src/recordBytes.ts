/**
 * Records between the form people read (core) and the form dns-packet encodes. Types that dns-packet
 * knows but the core does not are passed through as RFC 3597 writes unknown ones: `\# length hex`.
 */
import {
  parseIpv4,
  parseIpv6,
  quote,
  readData,
  RecordProblem,
  type ResourceRecord,
  type Word,
  zoneFault,
} from '@fastigium/core/dns';
import type { Answer } from 'dns-packet';

/** What dns-packet takes as data; its types tell one shape for each record type. */
type Data = unknown;

const bare = (name: string): string => name.replace(/\.$/, '') || '.';

/** Words of one record's data, quoted ones with their escapes kept. */
function words(data: string): Word[] {
  return [...data.matchAll(/"((?:[^"\\]|\\.)*)"|(\S+)/g)].map(([, quoted, plain]) => ({
    text: quoted ?? plain ?? '',
    quoted: quoted !== undefined,
  }));
}

/** Octets of a character-string whose special ones are escaped (RFC 1035 section 5.1). */
function unescape(text: string): Buffer {
  const pieces: Buffer[] = [];
  for (const [, code, letter, plain] of text.matchAll(/\\(\d{3})|\\(.)|([^\\]+)/gs)) {
    pieces.push(code === undefined ? Buffer.from(letter ?? plain ?? '') : Buffer.from([Number(code)]));
  }
  return Buffer.concat(pieces);
}

function escape(bytes: Uint8Array): string {
  const text = Buffer.from(bytes);
  // Text that is UTF-8 stays readable; anything else is written octet by octet.
  const readable = Buffer.from(text.toString('utf8')).equals(text);
  if (readable)
    return text
      .toString('utf8')
      .replace(/[\\"]/g, '\\$&')
      .replace(/[\u0000-\u001f\u007f]/g, (letter) => `\\${String(letter.charCodeAt(0)).padStart(3, '0')}`);
  return [...text]
    .map((byte) =>
      byte < 32 || byte > 126
        ? `\\${String(byte).padStart(3, '0')}`
        : byte === 34 || byte === 92
          ? `\\${String.fromCharCode(byte)}`
          : String.fromCharCode(byte),
    )
    .join('');
}

/** Throws a RecordProblem for a type that cannot be written. */
export function toPacketData(type: string, data: string): Data {
  const parts = words(readData(type, words(data), ''));
  const text = (index: number) => parts[index]?.text ?? '';
  switch (type) {
    case 'A':
    case 'AAAA':
      return text(0);
    case 'CNAME':
    case 'NS':
    case 'PTR':
    case 'DNAME':
      return bare(text(0));
    case 'MX':
      return { preference: Number(text(0)), exchange: bare(text(1)) };
    case 'SRV':
      return { priority: Number(text(0)), weight: Number(text(1)), port: Number(text(2)), target: bare(text(3)) };
    case 'TXT':
      return parts.map((part) => unescape(part.text));
    case 'CAA':
      return { flags: Number(text(0)), tag: text(1), value: unescape(text(2)).toString('utf8') };
    case 'SOA':
      return {
        mname: bare(text(0)),
        rname: bare(text(1)),
        serial: Number(text(2)),
        refresh: Number(text(3)),
        retry: Number(text(4)),
        expire: Number(text(5)),
        minimum: Number(text(6)),
      };
    default: {
      if (text(0) !== '\\#') throw new RecordProblem(zoneFault('not-sent', { type }));
      return Buffer.from(
        parts
          .slice(2)
          .map((part) => part.text)
          .join(''),
        'hex',
      );
    }
  }
}

interface Named {
  readonly [key: string]: unknown;
}
const dotted = (name: unknown): string => `${String(name).toLowerCase().replace(/\.$/, '')}.`;

export function fromPacketData(type: string, data: Data): string {
  const fields = data as Named;
  switch (type) {
    case 'A':
      return parseIpv4(String(data)) ?? String(data);
    case 'AAAA':
      return parseIpv6(String(data)) ?? String(data);
    case 'CNAME':
    case 'NS':
    case 'PTR':
    case 'DNAME':
      return dotted(data);
    case 'MX':
      return `${Number(fields.preference)} ${dotted(fields.exchange)}`;
    case 'SRV':
      return `${Number(fields.priority)} ${Number(fields.weight)} ${Number(fields.port)} ${dotted(fields.target)}`;
    case 'TXT':
      return (Array.isArray(data) ? data : [data])
        .map((each) => `"${escape(typeof each === 'string' ? Buffer.from(each) : (each as Uint8Array))}"`)
        .join(' ');
    case 'CAA':
      return `${Number(fields.flags ?? 0)} ${String(fields.tag).toLowerCase()} ${quote(String(fields.value))}`;
    case 'SOA':
      return [
        dotted(fields.mname),
        dotted(fields.rname),
        fields.serial,
        fields.refresh,
        fields.retry,
        fields.expire,
        fields.minimum,
      ]
        .map(String)
        .join(' ');
    default: {
      const bytes = Buffer.isBuffer(data) ? data : Buffer.from(JSON.stringify(data));
      return `\\# ${bytes.length} ${bytes.toString('hex')}`;
    }
  }
}

export function toPacketRecord({ name, type, ttlSeconds, data }: ResourceRecord): Answer {
  return {
    name: name === '' ? '.' : name,
    type,
    ttl: ttlSeconds,
    class: 'IN',
    data: toPacketData(type, data),
  } as unknown as Answer;
}

/** Undefined for what is no ordinary record: OPT, TSIG. */
export function fromPacketRecord(answer: Answer): ResourceRecord | undefined {
  if (answer.type === 'OPT' || (answer.type as string) === 'TSIG' || !('data' in answer)) return undefined;
  return {
    name: answer.name.toLowerCase().replace(/\.$/, ''),
    type: answer.type,
    ttlSeconds: (answer as { ttl?: number }).ttl ?? 0,
    data: fromPacketData(answer.type, answer.data),
  };
}
