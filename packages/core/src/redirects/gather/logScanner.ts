/**
 * A whole log, piece by piece as it comes. Lines in the usual form are read where they stand, by looking for their marks;
 * all others as `readLogLine` does, which says what is a request and what is not.
 */
import { decodeText } from '../../text/index.ts';
import { LogReader, readLogTime } from './accessLog.ts';
import type { Tally } from './tally.ts';

/** Longer ones are no lines of a log. */
const MOST_LINE = 64 * 1024;

/** @param text of a line that is no request; undefined for one that is longer than any */
export type TellNotRead = (line: number, text: string | undefined) => void;

const [NEW_LINE, RETURN, SPACE, QUOTE, HYPHEN, POINT, SLASH] = [0x0a, 0x0d, 0x20, 0x22, 0x2d, 0x2e, 0x2f];
const [ZERO, NINE, OPENING, BACKSLASH, CLOSING] = [0x30, 0x39, 0x5b, 0x5c, 0x5d];
const encoder = new TextEncoder();
const [GET, HEAD, HTTP] = ['GET ', 'HEAD ', 'HTTP/'].map((text) => encoder.encode(text)) as [
  Uint8Array,
  Uint8Array,
  Uint8Array,
];

export class LogScanner {
  readonly #tally: Tally;
  readonly #tell: TellNotRead;
  readonly #reader = new LogReader();
  #rest = new Uint8Array(0);
  #isTooLong = false;
  #line = 0;
  /** As it stood in the line before, within its brackets; nothing before there was one. */
  #time = new Uint8Array(0);
  #atMs = 0;

  constructor(tally: Tally, tell: TellNotRead) {
    this.#tally = tally;
    this.#tell = tell;
  }

  /** @param piece of the log, cut anywhere */
  scan(piece: Uint8Array): void {
    const text = join(this.#rest, piece);
    let from = 0;
    for (;;) {
      const to = text.indexOf(NEW_LINE, from);
      if (to < 0) break;
      this.#take(text, from, to);
      from = to + 1;
    }
    this.#rest = text.slice(from);
    if (this.#rest.length > MOST_LINE) [this.#rest, this.#isTooLong] = [new Uint8Array(0), true];
  }

  /** The last line need not have an end. */
  end(): void {
    if (this.#rest.length > 0 || this.#isTooLong) this.#take(this.#rest, 0, this.#rest.length);
    this.#rest = new Uint8Array(0);
  }

  #take(text: Uint8Array, from: number, to: number): void {
    this.#line += 1;
    if (this.#isTooLong || to - from > MOST_LINE) {
      this.#isTooLong = false;
      this.#tell(this.#line, undefined);
    } else if (!this.#countUsual(text, from, to)) this.#readLine(text.subarray(from, to));
  }

  #readLine(bytes: Uint8Array): void {
    const marked = this.#line === 1 && bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf;
    const end = bytes.at(-1) === RETURN ? -1 : undefined;
    const line = decodeText(bytes.subarray(marked ? 3 : 0, end), 'utf-8');
    if (line === '') return;
    const request = this.#reader.read(line);
    if (request) this.#tally.add(request);
    else this.#tell(this.#line, line);
  }

  /** `client ident user [time] "GET /address HTTP/1.1" 200 512 "referrer" "agent"`. @returns whether it was such a line */
  #countUsual(text: Uint8Array, from: number, to: number): boolean {
    const bracket = findByte(text, OPENING, from, to);
    if (bracket < 0 || !isBehindTwoWords(text, from, bracket) || !this.#readTime(text, bracket + 1, to)) return false;
    const quote = bracket + this.#time.length + 3;
    if (text[quote - 2] !== CLOSING || text[quote - 1] !== SPACE || text[quote] !== QUOTE) return false;
    const target = startsWith(text, GET, quote + 1) ? quote + 5 : startsWith(text, HEAD, quote + 1) ? quote + 6 : -1;
    if (target < 0 || text[target] !== SLASH) return false;
    const targetEnd = findEither(text, SPACE, QUOTE, target, to);
    if (targetEnd < 0 || text[targetEnd] !== SPACE || !startsWith(text, HTTP, targetEnd + 1)) return false;
    const requestEnd = passVersion(text, targetEnd + 6, to);
    const statusEnd = requestEnd + 5;
    if (text[requestEnd] !== QUOTE || text[requestEnd + 1] !== SPACE || statusEnd >= to) return false;
    if (passDigits(text, requestEnd + 2, to) !== statusEnd || text[statusEnd] !== SPACE) return false;
    const bytesEnd = text[statusEnd + 1] === HYPHEN ? statusEnd + 2 : passDigits(text, statusEnd + 1, to);
    if (bytesEnd === statusEnd + 1 || text[bytesEnd] !== SPACE) return false;
    const referrerEnd = findQuoteEnd(text, bytesEnd + 1, to);
    if (referrerEnd < 0 || text[referrerEnd + 1] !== SPACE) return false;
    const agentEnd = findQuoteEnd(text, referrerEnd + 2, to);
    if (agentEnd < 0) return false;
    const hundreds = (text[requestEnd + 2] ?? 0) * 100 + (text[requestEnd + 3] ?? 0) * 10 + (text[requestEnd + 4] ?? 0);
    return this.#tally.countPlain(
      text,
      { from: target, to: targetEnd },
      { from: referrerEnd + 3, to: isSaid(text, referrerEnd + 2, agentEnd) ? agentEnd : -1 },
      { status: hundreds - ZERO * 111, atMs: this.#atMs, isReferred: isSaid(text, bytesEnd + 1, referrerEnd) },
    );
  }

  /** Most lines are of the same second as the one before. */
  #readTime(text: Uint8Array, at: number, to: number): boolean {
    if (this.#time.length > 0 && startsWith(text, this.#time, at) && text[at + this.#time.length] === CLOSING)
      return true;
    const close = findByte(text, CLOSING, at, to);
    if (close < 0) return false;
    const time = text.slice(at, close);
    const atMs = readLogTime(String.fromCharCode(...time.subarray(0, 64)));
    if (atMs === undefined || time.length > 64) return false;
    [this.#time, this.#atMs] = [time, atMs];
    return true;
  }
}

/** Always one of the platform's own, whatever comes in: searching those is quickest. */
function join(a: Uint8Array, b: Uint8Array): Uint8Array {
  const both = new Uint8Array(a.length + b.length);
  both.set(a);
  both.set(b, a.length);
  return both;
}

function findByte(text: Uint8Array, byte: number, from: number, to: number): number {
  for (let at = from; at < to; at += 1) if (text[at] === byte) return at;
  return -1;
}

function findEither(text: Uint8Array, one: number, other: number, from: number, to: number): number {
  for (let at = from; at < to; at += 1) if (text[at] === one || text[at] === other) return at;
  return -1;
}

function startsWith(text: Uint8Array, beginning: Uint8Array, from: number): boolean {
  for (let at = 0; at < beginning.length; at += 1) if (text[from + at] !== beginning[at]) return false;
  return true;
}

function isBehindTwoWords(text: Uint8Array, from: number, bracket: number): boolean {
  const first = findByte(text, SPACE, from, bracket);
  const second = first < 0 ? -1 : findByte(text, SPACE, first + 1, bracket);
  return first > from && second > first + 1;
}

function passDigits(text: Uint8Array, from: number, to: number): number {
  let at = from;
  while (at < to && (text[at] ?? 0) >= ZERO && (text[at] ?? 0) <= NINE) at += 1;
  return at;
}

/** Digits and points, one at least. */
function passVersion(text: Uint8Array, from: number, to: number): number {
  let at = passDigits(text, from, to);
  while (at < to && text[at] === POINT) at = passDigits(text, at + 1, to);
  return at === from ? -1 : at;
}

/** The mark that ends what is quoted from `at` on; -1 where there is none, or where it may be meant as a letter, which is read apart. */
function findQuoteEnd(text: Uint8Array, at: number, to: number): number {
  const end = text[at] === QUOTE ? text.indexOf(QUOTE, at + 1) : -1;
  return end < 0 || end >= to || text[end - 1] === BACKSLASH ? -1 : end;
}

/** A hyphen stands for what was not sent. */
const isSaid = (text: Uint8Array, at: number, end: number): boolean =>
  end > at + 1 && !(end === at + 2 && text[at + 1] === HYPHEN);
