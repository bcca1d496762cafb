/** Deciding among many rules, beside parsing an address alone; and comparing large lists, beside comparing every pair. */
import { parseAddress, type Address } from '@fastigium/core/address';
import { decide, indexRules, type Rule } from '@fastigium/core/redirects';
import { matchSteps, Matcher, type NewPage, type OldPage } from '@fastigium/core/redirects/matching';
import type { Figure } from './figures.ts';
import { median } from './house.ts';
import { chance } from './matching/chance.ts';

export function redirectsBench(): Figure[] {
  return [...decisions(), ...comparing()];
}

function decisions(): Figure[] {
  const [few, many] = [timePerDecision(1000), timePerDecision(100_000)];
  return [
    {
      name: 'one decision among 100,000 rules and 200 patterns : new URL',
      value: many.decideNs / many.urlNs,
      unit: 'ratio',
      most: 5,
      from: `${many.decideNs.toFixed(0)} ns : ${many.urlNs.toFixed(0)} ns; a third of the addresses hit a rule, a third a pattern, a third nothing`,
    },
    {
      name: 'one decision among 100,000 rules : among 1,000',
      value: many.decideNs / few.decideNs,
      unit: 'ratio',
      most: 2,
      from: `${many.decideNs.toFixed(0)} ns : ${few.decideNs.toFixed(0)} ns`,
    },
  ];
}

function timePerDecision(count: number): { decideNs: number; urlNs: number } {
  const rules: Rule[] = Array.from({ length: count }, (_, n) => ({
    from: `/archive/${n % 97}/page-${n}.html`,
    status: 301,
    to: `/new/${n}/`,
  }));
  for (let n = 0; n < 190; n += 1)
    rules.push({
      from: `/branch-${n}/:year(\\d{4})/:slug.html`,
      status: 301,
      to: `/journal/:year/:slug/`,
      isPattern: true,
    });
  for (let n = 0; n < 10; n += 1) rules.push({ from: `/*/old-${n}/*`, status: 301, to: '/:1', isPattern: true });
  const index = indexRules(rules);
  const by = chance(7);
  const texts = Array.from({ length: 30_000 }, (_, n) =>
    n % 3 === 0
      ? (rules[by.whole(0, count - 1)]?.from ?? '')
      : n % 3 === 1
        ? `/branch-${by.whole(0, 189)}/2016/some-page-${n}.html`
        : `/archive/${n}/nothing-here.html`,
  );
  const addresses = texts.flatMap((text): Address[] => {
    const parsed = parseAddress(text);
    return parsed.ok ? [parsed.address] : [];
  });
  const files = new Set<string>();
  const perItem = (work: () => void) =>
    median(
      Array.from({ length: 9 }, () => {
        const start = performance.now();
        work();
        return ((performance.now() - start) * 1e6) / texts.length;
      }),
    );
  let kept = 0;
  const urlNs = perItem(() => {
    for (const text of texts) kept += new URL(text, 'http://a.example').pathname.length;
  });
  const decideNs = perItem(() => {
    for (const address of addresses) kept += decide(address, files, index).kind.length;
  });
  if (kept === 0) throw new Error('nothing was decided');
  return { decideNs, urlNs };
}

function comparing(): Figure[] {
  const { olds, pages } = lists(10_000, 5000);
  const matcher = new Matcher(pages, olds);
  const everyPage = pages.map((_, at) => at);
  const sample = olds.slice(0, 40).map((old) => matcher.profile(old));
  const pairStart = performance.now();
  for (const profile of sample) matcher.compare(profile, everyPage);
  const everyPairMs = ((performance.now() - pairStart) / sample.length) * olds.length;
  const whole = timeMatching(olds, pages);
  const large = lists(100_000, 10_000);
  const larger = timeMatching(large.olds, large.pages);
  return [
    {
      name: '10,000 old against 5,000 new pages : comparing every pair',
      value: whole.ms / everyPairMs,
      unit: 'ratio',
      most: 0.1,
      from: `${(whole.ms / 1000).toFixed(1)} s, four rounds : ${(everyPairMs / 1000).toFixed(0)} s, one round, from ${sample.length} addresses`,
    },
    {
      name: 'time an address, 100,000 against 10,000 : 10,000 against 5,000',
      value: larger.ms / large.olds.length / (whole.ms / olds.length),
      unit: 'ratio',
      most: 4,
      from: `${(larger.ms / 1000).toFixed(0)} s in all`,
    },
    {
      name: 'most memory for 100,000 against 10,000',
      value: larger.mostMb,
      unit: 'MB',
      most: 3000,
      from: `${whole.mostMb.toFixed(0)} MB for 10,000 against 5,000`,
    },
  ];
}

function timeMatching(olds: readonly OldPage[], pages: readonly NewPage[]): { ms: number; mostMb: number } {
  const start = performance.now();
  let most = 0;
  const steps = matchSteps(olds, pages);
  for (let step = steps.next(); !step.done; step = steps.next()) most = Math.max(most, process.memoryUsage().rss);
  return { ms: performance.now() - start, mostMb: most / 1e6 };
}

/** A site of made-up words, as often as words come (Zipf), and its old addresses: renamed, in other folders, some gone. */
function lists(oldCount: number, newCount: number): { olds: OldPage[]; pages: NewPage[] } {
  const by = chance(11);
  const word = () => `w${Math.floor(Math.exp(by.next() * Math.log(20_000)))}x`;
  const words = (n: number) => Array.from({ length: n }, word);
  const pages = Array.from({ length: newCount }, (_, n): NewPage => {
    const title = words(4);
    return {
      id: String(n),
      address: `/${['journal', 'visit', 'learn', 'shop'][n % 4]}/${title.join('-')}/`,
      title: title.join(' '),
      text: words(60).join(' '),
    };
  });
  const olds = Array.from({ length: oldCount }, (_, n): OldPage => {
    const page = pages[by.whole(0, newCount - 1)];
    return by.is(0.1) || !page
      ? { address: `/gone/${words(3).join('_')}.php`, title: words(4).join(' '), text: words(60).join(' ') }
      : { address: `/old-${n % 7}/${page.address.split('/')[2] ?? ''}_${n}.php`, title: page.title, text: page.text };
  });
  return { olds, pages };
}
