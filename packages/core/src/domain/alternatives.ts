/** Names near one that is taken, made from its own words and the site's. */
import { makeSlug } from '../address/index.ts';

/** Words that are ordinary before or after a name; common practice, no source. */
const BEFORE = ['the', 'visit', 'at'] as const;
const AFTER = ['online', 'site', 'live'] as const;

/** Letters without their marks, which is how many people type a name anyway. */
const foldWord = (word: string): string =>
  word
    .normalize('NFKD')
    .replace(/[^a-z0-9-]/g, '')
    .replace(/^-+|-+$/g, '');

/** The part before the ending, best first, without the name itself and without doubles. `word` as it reads, not in Punycode. */
export function proposeAlternativeWords(word: string, siteWords: readonly string[], most = 12): string[] {
  const base = foldWord(word.replace(/^www-?/, ''));
  const siteWordsBeside = siteWords.filter((site) => site.length >= 3 && !base.includes(site) && !site.includes(base));
  const whole = makeSlug(siteWords.slice(0, 2).join(' ')).replace(/-/g, '');
  if (base === '')
    return [...new Set([whole, ...siteWords])].filter((each) => /^[a-z0-9-]{3,40}$/.test(each)).slice(0, most);
  const candidates = [
    base,
    ...siteWordsBeside.map((site) => `${base}${site}`),
    base.includes('-') ? base.replace(/-/g, '') : '',
    whole,
    ...BEFORE.map((before) => `${before}${base}`),
    ...siteWordsBeside.map((site) => `${base}-${site}`),
    ...AFTER.map((after) => `${base}${after}`),
  ];
  return [...new Set(candidates)]
    .filter(
      (candidate) =>
        candidate !== '' &&
        candidate !== word &&
        candidate.length <= 40 &&
        /^[a-z0-9](?:[a-z0-9-]*[a-z0-9])?$/.test(candidate),
    )
    .slice(0, most);
}

/** Words too common to say what a site is about. */
const COMMON = new Set(
  'the and for with from our your you are was all new how who what when where this that about home page contact news welcome more not can has have its out get'.split(
    ' ',
  ),
);

/** The words a site is about, most frequent first, from its titles; those of its own name come first. */
export function findWordsOfSite(name: string, titles: readonly string[], most = 8): string[] {
  const wordsOf = (text: string) =>
    makeSlug(text)
      .split('-')
      .filter((word) => word.length >= 3 && !COMMON.has(word) && !/^\d+$/.test(word));
  const counts = new Map<string, number>();
  for (const title of titles) for (const word of new Set(wordsOf(title))) counts.set(word, (counts.get(word) ?? 0) + 1);
  const frequent = [...counts]
    .filter(([, count]) => count > 1)
    .sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1))
    .map(([word]) => word);
  return [...new Set([...wordsOf(name), ...frequent])].slice(0, most);
}
