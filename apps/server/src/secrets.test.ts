/** Sealing: what is sealed comes back, and nothing else does. */
import { randomBytes } from 'node:crypto';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { sealWith } from './secrets.ts';

const key = randomBytes(32);
const seal = sealWith([key]);

describe('a sealed secret', () => {
  it('comes back whole, whatever it is (property)', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme' }), fc.string(), (secret, purpose) => {
        expect(seal.open(purpose, seal.seal(purpose, secret))).toBe(secret);
      }),
    );
  });

  it('never looks the same twice, and does not show what it holds', () => {
    const secret = 'a password that is long enough to be found';
    const [once, twice] = [seal.seal('host 1', secret), seal.seal('host 1', secret)];
    expect(once.equals(twice)).toBe(false);
    expect(once.includes(Buffer.from('password'))).toBe(false);
  });

  it('does not open for another purpose, under another key, or with one bit changed (property)', () => {
    const sealed = seal.seal('host 1', 'secret');
    expect(() => seal.open('host 2', sealed)).toThrow();
    expect(() => sealWith([randomBytes(32)]).open('host 1', sealed)).toThrow();
    fc.assert(
      fc.property(fc.nat(sealed.length - 1), fc.nat(7), (at, bit) => {
        const changed = Buffer.from(sealed);
        changed[at] = (changed[at] ?? 0) ^ (1 << bit);
        expect(() => seal.open('host 1', changed)).toThrow();
      }),
    );
    expect(() => seal.open('host 1', sealed.subarray(0, 20))).toThrow();
  });

  it('takes a key of 32 bytes and no other', () => expect(() => sealWith([randomBytes(16)])).toThrow('32 bytes'));
});
