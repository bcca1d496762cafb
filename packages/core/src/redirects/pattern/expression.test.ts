/**
 * Expressions inside patterns. Reference: the regular expressions of the engine that runs this test, by ECMA-262, section
 * 22.2, with the anchors that a pattern has by itself.
 */
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readExpression } from './expression.ts';
import { PatternError } from './parts.ts';
import { compileProgram, run } from './program.ts';

const matches = (source: string, text: string) =>
  run(compileProgram(readExpression(source, 0), 0, false), text) !== undefined;
const reference = (source: string, text: string) => new RegExp(`^(?:${source})$`).test(text);

describe('one letter', () => {
  it.each([
    '.',
    '\\d',
    '\\D',
    '\\w',
    '\\W',
    '\\s',
    '\\S',
    '[a-c]',
    '[^a-c]',
    '[ac-]',
    '[-ac]',
    '[a\\-c]',
    '[\\d.]',
    '[^\\w-]',
    '[\\D\\d]',
    '[+--]',
    '[a^]',
    '[\\]\\\\]',
    '[.-.]',
    '\\.',
    '-',
    ' ',
  ])('%s is what it is to the engine, for every code of the first plane', (source) => {
    const program = compileProgram(readExpression(source, 0), 0, false);
    const whole = new RegExp(`^${source}$`);
    const otherwise: number[] = [];
    for (let code = 0; code <= 0xffff; code += 1) {
      const letter = String.fromCharCode(code);
      if ((run(program, letter) !== undefined) !== whole.test(letter)) otherwise.push(code);
    }
    expect(otherwise).toEqual([]);
  });
});

describe('letters in a row', () => {
  it.each([
    'a{0}',
    'a{1}',
    'a{2}',
    'a{0,}',
    'a{2,}',
    'a{1,2}',
    'a{0,2}b',
    'a*?b',
    'a+?',
    'a??a',
    'a{1,2}?a',
    'a|b',
    'a|',
    '|a',
    'ab|a',
    '(?:a|b)+',
    '(?:)',
    '(?:a|)b',
    '(?:(?:a)b)?',
    '(?:a|b|ab){2}',
    '[ab]+b',
    'a-b',
    'a,b',
  ])('%s matches the same texts', (source) => {
    fc.assert(
      fc.property(fc.string({ unit: fc.constantFrom('a', 'b', '-', ','), maxLength: 6 }), (text) => {
        expect([text, matches(source, text)]).toEqual([text, reference(source, text)]);
      }),
    );
    expect(matches(source, '')).toBe(reference(source, ''));
  });

  it('at the bounds of how often', () => {
    expect(matches('a{1000}', 'a'.repeat(1000))).toBe(true);
    expect(matches('a{1000,}', 'a'.repeat(1001))).toBe(true);
    expect(matches('a{1000,}', 'a'.repeat(999))).toBe(false);
  });
});

describe('a fault is told with its place', () => {
  const fault = (source: string) => {
    try {
      readExpression(source, 100);
    } catch (error) {
      if (error instanceof PatternError) return [error.fault.code.replace('pattern.', ''), error.at - 100];
    }
    return undefined;
  };
  it.each([
    ['a)', 'parenthesis-many', 1],
    ['a**', 'repeats-twice', 3],
    ['a+{2}', 'repeats-twice', 5],
    ['a*?+', 'repeats-twice', 4],
    ['a{3,2}', 'repeats-backwards', 1],
    ['a{1001}', 'repeats-many', 1],
    ['a{1001,}', 'repeats-many', 1],
    ['a{0,1001}', 'repeats-many', 1],
    ['x(a)', 'looks-around', 1],
    ['(?=a)', 'looks-around', 0],
    ['(?:a', 'group-open', 4],
    ['(?:a|b', 'group-open', 6],
    ['^a', 'ends-asserted', 0],
    ['a$', 'ends-asserted', 1],
    ['*a', 'letter-not-here', 0],
    ['a|+', 'letter-not-here', 2],
    ['?', 'letter-not-here', 0],
    ['a{', 'letter-not-here', 1],
    ['a}', 'letter-not-here', 1],
    ['a]', 'letter-not-here', 1],
    ['{2}', 'letter-not-here', 0],
    ['a{12345}', 'letter-not-here', 1],
    ['a\\', 'backslash-at-end', 2],
    ['a\\1', 'refers-back', 2],
    ['\\b', 'escape-unknown', 1],
    ['[a', 'bracket-open', 2],
    ['[a-', 'bracket-open', 3],
    ['[a-\\d]', 'range-of-sets', 5],
    ['[b-a]', 'range-backwards', 4],
    ['[\\', 'backslash-at-end', 2],
    ['[\\b]', 'escape-unknown', 2],
  ])('%s', (source, code, at) => expect(fault(source)).toEqual([code, at]));

  it.each(['a{1000}', '[a-a]', '[]', '[^]', 'a{2,2}', 'a{}b'.replace('{}', '\\{\\}')])('but not of %s', (source) =>
    expect(fault(source)).toBeUndefined(),
  );
});
