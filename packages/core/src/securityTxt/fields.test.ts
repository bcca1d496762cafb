/** Fields of security.txt one by one. Sources: RFC 9116, sections 2.2 to 2.5; RFC 3339, sections 5.6 and 5.7; RFC 3986, section 3.1. */
import { describe, expect, it } from 'vitest';
import { checkSecurityTxt } from './index.ts';

const NOW = '2021-06-01T12:00:00Z';
const RIGHT = 'Contact: mailto:a@moor.example\nExpires: 2021-12-31T18:37:07Z\n';
const check = (text: string) =>
  checkSecurityTxt(text, NOW).map(({ line, message }) => `${line ?? '-'} ${message.code.replace('security-txt.', '')}`);
const expires = (value: string) => check(`Contact: mailto:a@moor.example\nExpires: ${value}`);

describe('the day it expires', () => {
  it.each([
    ['2021-06-01T12:00:01Z', []],
    ['2021-06-01T12:00:00Z', ['2 expired']],
    ['2021-06-01t12:00:01z', []],
    ['2021-06-01T14:00:01+02:00', []],
    ['2021-06-01T14:00:00+02:00', ['2 expired']],
    ['2021-06-01T10:00:01-02:00', []],
    ['2021-06-01T10:00:00-02:00', ['2 expired']],
    ['2021-06-01T10:30:00-01:30', ['2 expired']],
    ['2021-06-01T12:00:00.5Z', []],
    ['2021-12-31T23:59:60Z', []],
    ['2016-12-31T23:59:60Z', ['2 expired']],
    ['1999-12-31T23:59:59Z', ['2 expired']],
    ['2024-02-29T00:00:00Z', []],
    ['2021-06-01', ['2 no-date']],
    ['2021-13-01T00:00:00Z', ['2 no-date']],
    ['2021-00-01T00:00:00Z', ['2 no-date']],
    ['2021-10-32T00:00:00Z', ['2 no-date']],
    ['2021-10-00T00:00:00Z', ['2 no-date']],
    ['2021-10-30T24:00:00Z', ['2 no-date']],
    ['2021-10-30T19:60:00Z', ['2 no-date']],
    ['2021-10-30T19:00:61Z', ['2 no-date']],
    ['2021-10-30T19:00:00', ['2 no-date']],
    ['2021-10-30T19:00:00.Z', ['2 no-date']],
    ['2021-10-30T19:00:00+24:00', ['2 no-date']],
    ['2021-10-30T19:00:00+01:60', ['2 no-date']],
    ['x2021-10-30T19:00:00Z', ['2 no-date']],
    ['2021-10-30T19:00:00Zx', ['2 no-date']],
    ['2021-10-30T19:00:00+23:59', []],
  ])('%s', (value, problems) => expect(expires(value)).toEqual(problems));
});

describe('fields', () => {
  it.each([
    ['Acknowledgments: hall', ['3 no-address']],
    ['Canonical: hall', ['3 no-address']],
    ['Encryption: key', ['3 no-address']],
    ['Hiring: jobs', ['3 no-address']],
    ['Policy: ours', ['3 no-address']],
    ['Contact: a@moor.example', ['3 no-address']],
    ['CONTACT: mailto:b@moor.example', []],
    ['Contact: http://moor.example/', ['3 not-https']],
    ['Contact: HTTP://moor.example/', ['3 not-https']],
    ['Contact: httpx://moor.example/', []],
    ['Contact: tel:+1-201-555-0123', []],
    ['Contact: x1.+-:y', []],
    ['Contact: 1x:y', ['3 no-address']],
    ['Contact: mailto:', ['3 no-address']],
    ['Contact: mailto:a b', ['3 no-address']],
    ['Contact:mailto:b@moor.example', ['3 not-a-field']],
    ['Contact :  mailto:b@moor.example', ['3 not-a-field']],
    ['Contact:   mailto:b@moor.example  ', []],
    ['Preferred-Languages: en\nPreferred-Languages: cy', ['4 field-twice']],
    ['preferred-languages: en', []],
    ['Policy: https://a.example\nPolicy: https://b.example', []],
    ['expires: 2022-01-01T00:00:00Z', ['3 field-twice']],
    ['X-Any: thing', []],
    ['words', ['3 not-a-field']],
    [' # not a comment', ['3 not-a-field']],
    ['# a comment: really', []],
    ['   ', []],
  ])('%j', (line, problems) => expect(check(`${RIGHT}${line}`)).toEqual(problems));

  it('are read behind a mark, and between either end of line', () => {
    expect(check(`\ufeff${RIGHT.replaceAll('\n', '\r\n')}`)).toEqual([]);
    expect(check(`${RIGHT}\r\nx`)).toEqual(['4 not-a-field']);
  });

  it('say which of them stood before', () => {
    const [twice] = checkSecurityTxt(`${RIGHT}Expires: 2022-01-01T00:00:00Z`, NOW);
    expect(twice?.message.parameters).toEqual({ field: 'Expires', line: 2 });
    const [address] = checkSecurityTxt(`${RIGHT}Policy: x`, NOW);
    expect(address?.message.parameters).toEqual({ field: 'Policy' });
    expect(checkSecurityTxt('', NOW).map(({ message }) => message.parameters)).toEqual([
      { field: 'Contact' },
      { field: 'Expires' },
    ]);
  });
});

describe('a signature (section 2.3)', () => {
  const SIGNED = `-----BEGIN PGP SIGNED MESSAGE-----\nHash: SHA512\n\n${RIGHT}-----BEGIN PGP SIGNATURE-----\nany thing\n\n-----END PGP SIGNATURE-----\n`;
  it('is no field, with all that stands in it', () => {
    expect(check(SIGNED)).toEqual([]);
    expect(check(SIGNED.replace(RIGHT, `${RIGHT}words\n`))).toEqual(['6 not-a-field']);
  });

  it('counts only where the file begins with it', () => {
    expect(check(`# first\n${SIGNED}`)).toContain('2 not-a-field');
    expect(check(`${RIGHT}Hash: SHA512`)).toEqual([]);
    expect(check(`${RIGHT}-----`)).toEqual(['3 not-a-field']);
  });
});
