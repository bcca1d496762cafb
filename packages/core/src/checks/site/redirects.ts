/** What is wrong with redirects, as snags; found by the lint of the rules. */
import type { Check } from '../check.ts';

const loop: Check = {
  code: 'redirect-loop',
  severity: 'must',
  title: 'Redirects that go in a circle',
  how: 'Lead one of them to a page.',
  source: 'RFC 9110, section 15.4',
};
const dead: Check = {
  code: 'redirect-dead',
  severity: 'look',
  title: 'Redirects that end at nothing',
  how: 'Choose another page for it to land on, or say that it is gone for good.',
  source: 'common practice',
};
const noTarget: Check = {
  code: 'redirect-no-target',
  severity: 'look',
  title: 'Redirects whose page is gone or not ready',
  how: 'Make the page ready, or choose another one. Until then visitors find an error.',
  source: 'common practice',
};
const chain: Check = {
  code: 'redirect-chain',
  severity: 'look',
  title: 'Redirects in several steps',
  how: 'Lead there at once: each step costs every visitor a wait, and some crawlers give up.',
  source: 'RFC 9110, section 15.4; common practice',
};
const idle: Check = {
  code: 'redirect-idle',
  severity: 'look',
  title: 'Redirects that never fire',
  how: 'Something else answers first. Take it away, or what is before it.',
  source: 'common practice',
};
const twice: Check = {
  code: 'redirect-twice',
  severity: 'look',
  title: 'Two redirects for one old address',
  how: 'Keep one of them; visitors of the other spelling land elsewhere.',
  source: 'common practice',
};
const outside: Check = {
  code: 'redirect-outside',
  severity: 'look',
  title: 'Redirects to other hosts that do not answer',
  how: 'Ask whoever runs that host, or choose a page of this site.',
  source: 'common practice',
};
const over: Check = {
  code: 'redirect-over',
  severity: 'look',
  title: 'Redirects that have run out',
  how: 'The next release is without it. Take it away, or give it another day.',
  source: 'common practice',
};

export const REDIRECT_CHECKS: readonly Check[] = [loop, dead, noTarget, chain, idle, twice, outside, over];
