/** What a browser calls itself, in words somebody knows their own device by: `Firefox on Windows`. */
const BROWSERS: readonly [RegExp, string][] = [
  // Those that name another one beside themselves come first.
  [/\bEdgA?\//, 'Edge'],
  [/\bOPR\//, 'Opera'],
  [/\b(?:Firefox|FxiOS)\//, 'Firefox'],
  [/\b(?:Chrome|CriOS|HeadlessChrome|Chromium)\//, 'Chrome or Chromium'],
  [/\bSafari\//, 'Safari'],
];
const SYSTEMS: readonly [RegExp, string][] = [
  [/\b(?:iPhone|iPad)\b/, 'an iPhone or iPad'],
  [/\bAndroid\b/, 'Android'],
  [/\bWindows\b/, 'Windows'],
  [/\bMac OS X\b/, 'a Mac'],
  [/\bLinux\b/, 'Linux'],
];

const first = (list: readonly [RegExp, string][], agent: string) => list.find(([pattern]) => pattern.test(agent))?.[1];

export function browserInWords(agent: string): string {
  const browser = first(BROWSERS, agent);
  const system = first(SYSTEMS, agent);
  if (browser === undefined) return agent === '' ? 'A program without a name' : (agent.split(/[\s/]/)[0] ?? agent);
  return system === undefined ? browser : `${browser} on ${system}`;
}
