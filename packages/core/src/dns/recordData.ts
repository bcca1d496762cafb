/**
 * The data of a record from its words in a zone file: checked, names made absolute, written one way, so
 * that two texts that mean the same are the same text.
 *
 * Sources: RFC 1035 section 3.3 and 5.1, RFC 3596 (AAAA) with RFC 5952 (its one way to write it),
 * RFC 2782 (SRV), RFC 8659 section 4.1 (CAA), RFC 3597 (types without a name).
 */
import { zoneFault, type ZoneFault } from './messages.ts';
import { resolveName, checkRecordName, type DomainName } from './name.ts';
import { MOST_TTL_SECONDS } from './record.ts';

/** One word of a zone file; a quoted one is a character-string even where it is empty. */
export interface Word {
  readonly text: string;
  readonly quoted: boolean;
}

export class RecordProblem extends Error {
  readonly fault: ZoneFault;

  constructor(fault: ZoneFault) {
    super(fault.code);
    this.fault = fault;
  }
}

type Reader = (words: readonly Word[], origin: DomainName) => string;

type CountedValue = Extract<ZoneFault, { code: 'zone-fault.no-number' }>['parameters']['what'];

/** Throws a RecordProblem that says what is wrong. */
export function readData(type: string, words: readonly Word[], origin: DomainName): string {
  const read = readers[type];
  if (read) return read(words, origin);
  if (words.length === 0) throw new RecordProblem(zoneFault('no-data', { type }));
  return words.map(({ text, quoted }) => (quoted ? quote(text) : text)).join(' ');
}

const readName = (word: Word | undefined, origin: DomainName): string => {
  if (!word) throw new RecordProblem(zoneFault('name-missing'));
  if (word.text === '.') return '.';
  const checked = checkRecordName(resolveName(word.text, origin));
  if (!checked.ok) throw new RecordProblem(zoneFault('no-name', { text: word.text, fault: checked.fault }));
  return `${checked.name}.`;
};

const readNumber = (word: Word | undefined, most: number, what: CountedValue): string => {
  if (!word || !/^\d{1,10}$/.test(word.text) || Number(word.text) > most) {
    throw new RecordProblem(zoneFault('no-number', { what, most, text: word?.text ?? '' }));
  }
  return String(Number(word.text));
};

const requireCount = (words: readonly Word[], count: number, type: string): void => {
  if (words.length !== count) throw new RecordProblem(zoneFault('values-other', { type, count, given: words.length }));
};

const createNameReader =
  (type: string): Reader =>
  (words, origin) => {
    requireCount(words, 1, type);
    return readName(words[0], origin);
  };

const readers: Readonly<Record<string, Reader>> = {
  A(words) {
    requireCount(words, 1, 'A');
    const address = parseIpv4(words[0]?.text ?? '');
    if (address === undefined) throw new RecordProblem(zoneFault('no-ipv4', { text: words[0]?.text ?? '' }));
    return address;
  },
  AAAA(words) {
    requireCount(words, 1, 'AAAA');
    const address = parseIpv6(words[0]?.text ?? '');
    if (address === undefined) throw new RecordProblem(zoneFault('no-ipv6', { text: words[0]?.text ?? '' }));
    return address;
  },
  CNAME: createNameReader('CNAME'),
  NS: createNameReader('NS'),
  PTR: createNameReader('PTR'),
  DNAME: createNameReader('DNAME'),
  MX(words, origin) {
    requireCount(words, 2, 'MX');
    return `${readNumber(words[0], 65_535, 'preference')} ${readName(words[1], origin)}`;
  },
  SRV(words, origin) {
    requireCount(words, 4, 'SRV');
    const numbers = words.slice(0, 3).map((word) => readNumber(word, 65_535, 'service'));
    return `${numbers.join(' ')} ${readName(words[3], origin)}`;
  },
  TXT: quoteTexts,
  SPF: quoteTexts,
  CAA(words) {
    requireCount(words, 3, 'CAA');
    const tag = words[1]?.text ?? '';
    if (!/^[a-z0-9]{1,15}$/i.test(tag)) throw new RecordProblem(zoneFault('no-tag', { text: tag }));
    return `${readNumber(words[0], 255, 'flags')} ${tag.toLowerCase()} ${quote(words[2]?.text ?? '')}`;
  },
  SOA(words, origin) {
    requireCount(words, 7, 'SOA');
    const [mname, rname, serial, ...times] = words;
    const seconds = times.map((word) => {
      const value = parseTtl(word.text);
      if (value === undefined) throw new RecordProblem(zoneFault('no-time', { text: word.text }));
      return value;
    });
    return [
      readName(mname, origin),
      readName(rname, origin),
      readNumber(serial, 2 ** 32 - 1, 'serial'),
      ...seconds,
    ].join(' ');
  },
};

function quoteTexts(words: readonly Word[]): string {
  if (words.length === 0) throw new RecordProblem(zoneFault('txt-empty'));
  for (const { text } of words) {
    if (countOctets(text) > 255) throw new RecordProblem(zoneFault('string-long'));
  }
  return words.map(({ text }) => quote(text)).join(' ');
}

/** Octets of a text whose `\DDD` stand for one each. */
const countOctets = (text: string): number => new TextEncoder().encode(text.replace(/\\(\d{3}|.)/g, 'x')).length;

/** In quotes, with what was escaped still escaped (RFC 1035 section 5.1). */
export function quote(text: string): string {
  return `"${text.replace(/\\?"/g, '\\"')}"`;
}

/** Seconds, or with the units every name server program takes: 1h30m, 2d. Undefined for anything else or beyond 31 bits. */
export function parseTtl(text: string): number | undefined {
  if (!/^(\d+[smhdw]?)+$/i.test(text)) return undefined;
  const unit: Readonly<Record<string, number>> = { s: 1, m: 60, h: 3600, d: 86_400, w: 604_800 };
  let seconds = 0;
  for (const [, count, letter] of text.toLowerCase().matchAll(/(\d+)([smhdw]?)/g))
    seconds += Number(count) * (unit[letter ?? ''] ?? 1);
  return seconds <= MOST_TTL_SECONDS ? seconds : undefined;
}

/** Four decimal numbers and nothing else; the URL parser's octal and hexadecimal forms are no addresses in a zone. */
export function parseIpv4(text: string): string | undefined {
  const parts = /^(\d{1,3})\.(\d{1,3})\.(\d{1,3})\.(\d{1,3})$/.exec(text)?.slice(1).map(Number);
  return parts?.every((part) => part <= 255) ? parts.join('.') : undefined;
}

/** Written as RFC 5952 has it, by the URL standard's own serialiser (section 3.5). */
export function parseIpv6(text: string): string | undefined {
  if (!/^[0-9a-f:.]+$/i.test(text)) return undefined;
  const url = `http://[${text}]/`;
  return URL.canParse(url) ? new URL(url).hostname.slice(1, -1) : undefined;
}
