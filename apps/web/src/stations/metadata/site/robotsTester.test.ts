// @vitest-environment jsdom
/** What a robots.txt means for one address, read as a sentence. RFC 9309, section 2.2.2. */
import { afterEach, expect, it } from 'vitest';
import { readPageText } from '../../../testing/page.ts';
import { showScreen } from '../../../testing/screen.ts';
import RobotsTester from './RobotsTester.vue';

afterEach(() => {
  document.body.innerHTML = '';
});

it('says which line keeps an address out, as words that stand apart', () => {
  showScreen(RobotsTester, { props: { text: 'User-agent: *\nDisallow: /', metadata: { rows: [] } } });
  expect(readPageText()).toMatch(/Kept out by line 2: Disallow: \//);
});
