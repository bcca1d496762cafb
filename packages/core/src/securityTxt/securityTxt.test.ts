/** RFC 9116: its own examples, and each of its rules. */
import { ENGLISH, speakerFor } from '@fastigium/words';
import { describe, expect, it } from 'vitest';
import { checkSecurityTxt } from './index.ts';

const NOW = '2021-06-01T00:00:00Z';
const check = (text: string) =>
  checkSecurityTxt(text, NOW).map(({ line, message }) => `${line ?? '-'}: ${speakerFor(ENGLISH)(message)}`);

describe('examples of RFC 9116', () => {
  // Section 2.6 without its signature, and the fields of section 2.5 as they are given there.
  it.each([
    '# Our security address\nContact: mailto:security@example.com\nExpires: 2021-12-31T18:37:07z\n',
    '# Our security policy\nPolicy: https://example.com/security-policy.html\n\n# Our security address\nContact: mailto:security@example.com\nContact: tel:+1-201-555-0123\nContact: https://example.com/security-contact.html\nEncryption: openpgp4fpr:5f2de5521c63a801ab59ccb603d49de44b29100f\nAcknowledgments: https://example.com/hall-of-fame.html\nPreferred-Languages: en, es, fr\nCanonical: https://www.example.com/.well-known/security.txt\nHiring: https://example.com/jobs.html\nExpires: 2021-12-31T18:37:07z\n',
    '-----BEGIN PGP SIGNED MESSAGE-----\nHash: SHA256\n\n# Canonical URI\nCanonical: https://example.com/.well-known/security.txt\nContact: mailto:security@example.com\nExpires: 2021-12-31T18:37:07z\n-----BEGIN PGP SIGNATURE-----\nVersion: GnuPG v2.2\n\n[signature]\n-----END PGP SIGNATURE-----\n',
  ])('are taken (%#)', (text) => expect(check(text)).toEqual([]));
});

it.each([
  ['Contact is missing (2.5.3)', 'Expires: 2021-12-31T18:37:07z', '-: Contact is missing'],
  ['Expires is missing (2.5.5)', 'Contact: mailto:a@b.example', '-: Expires is missing'],
  [
    'Expires stands twice (2.5.5)',
    'Contact: mailto:a@b.example\nExpires: 2021-12-31T18:37:07z\nExpires: 2021-12-31T18:37:07z',
    '3: Expires may stand there only once',
  ],
  [
    'it has expired (2.5.5)',
    'Contact: mailto:a@b.example\nExpires: 2021-05-31T23:59:59-01:00\nHiring: https://x.example',
    undefined,
  ],
  [
    'it has expired by its zone',
    'Contact: mailto:a@b.example\nExpires: 2021-06-01T00:30:00+01:00',
    '2: It has expired',
  ],
  ['the date is none', 'Contact: mailto:a@b.example\nExpires: next year', '2: Expires needs a date'],
  [
    'an address without a scheme (2.5.3)',
    'Contact: security@example.com\nExpires: 2021-12-31T18:37:07z',
    '1: Contact needs an address',
  ],
  ['http (2.5.3)', 'Contact: http://x.example/\nExpires: 2021-12-31T18:37:07z', '1: Contact has to begin with https'],
  ['no field', 'Contact: mailto:a@b.example\nhello\nExpires: 2021-12-31T18:37:07z', '2: A line is a name'],
  ['an extension (2.4)', 'Contact: mailto:a@b.example\nExpires: 2021-12-31T18:37:07z\nX-Ours: yes', undefined],
] as const)('%s', (_, text, expected) => {
  const found = check(text).join('\n');
  if (expected === undefined) expect(found).toBe('');
  else expect(found).toContain(expected);
});
