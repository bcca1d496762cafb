/** What is wrong with redirects, as snags; found by the lint of the rules. */
import type { Check } from '../check.ts';

const loop: Check = {
  code: 'redirect-loop',
  severity: 'must',
  source: 'RFC 9110, section 15.4',
};
const dead: Check = {
  code: 'redirect-dead',
  severity: 'should',
  source: 'common practice',
};
const noTarget: Check = {
  code: 'redirect-no-target',
  severity: 'should',
  source: 'common practice',
};
const chain: Check = {
  code: 'redirect-chain',
  severity: 'should',
  source: 'RFC 9110, section 15.4; common practice',
};
const idle: Check = {
  code: 'redirect-idle',
  severity: 'should',
  source: 'common practice',
};
const twice: Check = {
  code: 'redirect-twice',
  severity: 'should',
  source: 'common practice',
};
const outside: Check = {
  code: 'redirect-outside',
  severity: 'should',
  source: 'common practice',
};
const over: Check = {
  code: 'redirect-over',
  severity: 'should',
  source: 'common practice',
};

export const REDIRECT_CHECKS: readonly Check[] = [loop, dead, noTarget, chain, idle, twice, outside, over];
