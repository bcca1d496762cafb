/** What a browser calls itself, in words somebody knows their own device by: `Firefox on Windows`. */
import { say } from './words.ts';

/* eslint-disable no-restricted-syntax -- names of products are the same in every language */
const BROWSERS: readonly [RegExp, string][] = [
  // Those that name another one beside themselves come first.
  [/\bEdgA?\//, 'Edge'],
  [/\bOPR\//, 'Opera'],
  [/\b(?:Firefox|FxiOS)\//, 'Firefox'],
  [/\b(?:Chrome|CriOS|HeadlessChrome|Chromium)\//, say('browser.chromeOrChromium')],
  [/\bSafari\//, 'Safari'],
];
const SYSTEMS: readonly [RegExp, string][] = [
  [/\b(?:iPhone|iPad)\b/, say('browser.anIphoneOrIpad')],
  [/\bAndroid\b/, 'Android'],
  [/\bWindows\b/, 'Windows'],
  [/\bMac OS X\b/, say('browser.aMac')],
  [/\bLinux\b/, 'Linux'],
];
/* eslint-enable no-restricted-syntax */

const first = (list: readonly [RegExp, string][], agent: string) => list.find(([pattern]) => pattern.test(agent))?.[1];

export function nameBrowser(agent: string): string {
  const browser = first(BROWSERS, agent);
  const system = first(SYSTEMS, agent);
  if (browser === undefined)
    return agent === '' ? say('browser.aProgramWithoutAName') : (agent.split(/[\s/]/)[0] ?? agent);
  return system === undefined ? browser : say('browser.browserOnSystem', { browser, system });
}
