/** Whether a text is a security.txt. Source: RFC 9116, sections 2.3 to 2.5. */
import { securityTxt, type SecurityTxtMessage } from './messages.ts';
import { withoutMark } from '../text/index.ts';

export interface TextProblem {
  /** From 1; undefined for what is missing. */
  readonly line: number | undefined;
  readonly message: SecurityTxtMessage;
}

/** Fields of section 2.5, in lower case, with how often each may stand there. */
const FIELDS: Readonly<Record<string, { readonly once: boolean; readonly isUri: boolean }>> = {
  acknowledgments: { once: false, isUri: true },
  canonical: { once: false, isUri: true },
  contact: { once: false, isUri: true },
  encryption: { once: false, isUri: true },
  expires: { once: true, isUri: false },
  hiring: { once: false, isUri: true },
  policy: { once: false, isUri: true },
  'preferred-languages': { once: true, isUri: false },
};

/** RFC 3339, section 5.6. */
const DATE_TIME =
  /^\d{4}-(0[1-9]|1[0-2])-(0[1-9]|[12]\d|3[01])T([01]\d|2[0-3]):[0-5]\d:([0-5]\d|60)(\.\d+)?(Z|[+-]([01]\d|2[0-3]):[0-5]\d)$/i;

/** @param nowIso the time it is read at, in UTC: a file that has expired should not be used (section 2.5.5) */
export function checkSecurityTxt(text: string, nowIso: string): TextProblem[] {
  const problems: TextProblem[] = [];
  const seen = new Map<string, number>();
  const lines = withoutMark(text).split(/\r\n|\n/);
  const signed = lines[0]?.startsWith('-----BEGIN PGP SIGNED MESSAGE-----') ?? false;
  for (const [index, raw] of lines.entries()) {
    const line = index + 1;
    if (signed && (raw.startsWith('-----BEGIN PGP SIGNATURE') || seen.has('\0'))) {
      seen.set('\0', line);
      continue;
    }
    if (raw.trim() === '' || raw.startsWith('#') || (signed && (raw.startsWith('-----') || /^Hash:/i.test(raw))))
      continue;
    const [, name = '', value = ''] = /^([!-9;-~]+):\s+(.*?)\s*$/.exec(raw) ?? [];
    if (name === '') {
      problems.push({ line, message: securityTxt('not-a-field') });
      continue;
    }
    const key = name.toLowerCase();
    const field = FIELDS[key];
    // Unknown fields may be extensions (section 2.4).
    if (!field) continue;
    if (field.once && seen.has(key))
      problems.push({ line, message: securityTxt('field-twice', { field: name, line: seen.get(key) ?? 0 }) });
    seen.set(key, line);
    if (field.isUri && !/^[a-z][a-z0-9+.-]*:\S+$/i.test(value))
      problems.push({ line, message: securityTxt('no-address', { field: name }) });
    if (field.isUri && /^http:/i.test(value))
      problems.push({ line, message: securityTxt('not-https', { field: name }) });
    if (key === 'expires') {
      if (!DATE_TIME.test(value)) problems.push({ line, message: securityTxt('no-date') });
      else if (parseInstant(value) <= parseInstant(nowIso)) problems.push({ line, message: securityTxt('expired') });
    }
  }
  for (const needed of ['Contact', 'Expires'])
    if (!seen.has(needed.toLowerCase()))
      problems.push({ line: undefined, message: securityTxt('field-missing', { field: needed }) });
  return problems;
}

/** In milliseconds, good for comparing only. A leap second is the one before it (RFC 3339, section 5.7). */
function parseInstant(text: string): number {
  return Date.parse(text.toUpperCase().replace(/:60(?=[.Z+-])/, ':59'));
}
