/**
 * Lines of a web server's access log in the common format, `%h %l %u %t "%r" %>s %b`, or the combined one,
 * which adds the referring address and the browser's name.
 * Source: Apache HTTP Server 2.4 documentation, "Log Files"; nginx's `combined` is the same.
 */

export interface LogRequest {
  readonly method: string;
  /** As it was asked for: a path with its query, or a whole address. */
  readonly target: string;
  readonly status: number;
  /** Milliseconds since 1970, UTC. */
  readonly atMs: number;
  /** Undefined in the common format, or where none was sent. */
  readonly referrer: string | undefined;
  readonly agent: string | undefined;
}

// Client, identity and user hold no spaces; a name of the host may stand before them.
const LINE =
  /^\S+ (?:\S+ )?\S+ .*?\[([^\]]{20,40})\] "([^"\\]*(?:\\.[^"\\]*)*)" (\d{3}) (?:\d+|-)(?: "([^"\\]*(?:\\.[^"\\]*)*)" "([^"\\]*(?:\\.[^"\\]*)*)")?/;
const TIME = /^(\d{1,2})\/([A-Z][a-z]{2})\/(\d{4}):(\d{2}):(\d{2}):(\d{2}) ([+-])(\d{2})(\d{2})$/;
const REQUEST = /^([A-Z]+) (\S+)(?: HTTP\/[\d.]+)?$/;
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
/** Longer ones are no log of requests. */
const MOST_LETTERS = 16_384;

/** Undefined for what is no request in one of these formats. */
export function readLogLine(line: string): LogRequest | undefined {
  return new LogReader().read(line);
}

/** Reads one line after another; what lines have in common with the one before is not read again. */
export class LogReader {
  #time = '';
  #atMs: number | undefined;

  /** Undefined for what is no request in one of these formats. */
  read(line: string): LogRequest | undefined {
    if (line.length > MOST_LETTERS) return undefined;
    const parts = LINE.exec(line);
    const request = parts && REQUEST.exec(unescapeText(parts[2] ?? ''));
    if (!request) return undefined;
    const [, time = '', , status, referrer, agent] = parts;
    if (time !== this.#time) [this.#time, this.#atMs] = [time, readLogTime(time)];
    if (this.#atMs === undefined) return undefined;
    return {
      method: request[1] ?? '',
      target: request[2] ?? '',
      status: Number(status),
      atMs: this.#atMs,
      referrer: readSaid(referrer),
      agent: readSaid(agent),
    };
  }
}

/** `25/Nov/2026:10:00:00 +0000` as milliseconds since 1970, UTC. */
export function readLogTime(text: string): number | undefined {
  const parts = TIME.exec(text);
  if (!parts) return undefined;
  const [, day, month = '', year, hour, minute, second, sign, zoneHours, zoneMinutes] = parts;
  const days = countDaysSince1970(Number(year), MONTHS.indexOf(month), Number(day));
  if (days === undefined) return undefined;
  const zone = (Number(zoneHours) * 60 + Number(zoneMinutes)) * (sign === '-' ? -1 : 1);
  return (((days * 24 + Number(hour)) * 60 + Number(minute) - zone) * 60 + Number(second)) * 1000;
}

/** Days from 1970-01-01 in the proleptic Gregorian calendar; the year begins in March, so that a leap day is its last. */
function countDaysSince1970(year: number, month: number, day: number): number | undefined {
  if (month < 0 || day < 1 || day > 31) return undefined;
  const y = month < 2 ? year - 1 : year;
  const m = (month + 10) % 12;
  return (
    365 * y +
    Math.floor(y / 4) -
    Math.floor(y / 100) +
    Math.floor(y / 400) +
    Math.floor((m * 306 + 5) / 10) +
    day -
    1 -
    719_468
  );
}

/** `\"`, `\\` and `\xhh`, as servers write what would break the line. */
function unescapeText(text: string): string {
  if (!text.includes('\\')) return text;
  return text.replace(/\\(x[\da-fA-F]{2}|.)/g, (_, code: string) =>
    code.length === 3 ? String.fromCharCode(parseInt(code.slice(1), 16)) : code,
  );
}

function readSaid(text: string | undefined): string | undefined {
  return text === undefined || text === '-' || text === '' ? undefined : unescapeText(text);
}
