/** What can be set for a whole site, in the order of the work. */
import type { Metadata, SettingRow } from '@fastigium/contracts/api/metadata';
import { say } from '../words.ts';

/** How a setting is worked on: a line of text, a text of several lines, on or off, or a panel of its own. */
export type SettingKind = 'line' | 'text' | 'switch' | 'icons' | 'generator';

export interface SiteSetting {
  readonly name: string;
  readonly label: string;
  readonly kind: SettingKind;
  readonly group: string;
  /** What it does, in a sentence or two. */
  readonly words: string;
  /** Whether a branch may have another. */
  readonly perBranch: boolean;
  readonly example?: string;
}

const defineSetting = (
  group: string,
  name: string,
  label: string,
  kind: SettingKind,
  words: string,
  more: { perBranch?: boolean; example?: string } = {},
): SiteSetting => ({
  group,
  name,
  label,
  kind,
  words,
  perBranch: more.perBranch ?? false,
  ...(more.example === undefined ? {} : { example: more.example }),
});

export const SITE_SETTINGS: readonly SiteSetting[] = [
  defineSetting(
    say('settings.names'),
    'name',
    say('settings.nameOfTheSite'),
    'line',
    say('settings.standsInTitlesShareCards'),
    { perBranch: true },
  ),
  defineSetting(
    say('settings.names'),
    'tagline',
    say('settings.lineUnderneath'),
    'line',
    say('settings.followsTheSitesNameIn'),
    { perBranch: true },
  ),
  defineSetting(
    say('settings.names'),
    'pattern',
    say('settings.formOfTitles'),
    'line',
    say('settings.pageStandsForThePages'),
    { perBranch: true, example: '{page} · {site}' },
  ),
  defineSetting(
    say('settings.names'),
    'meta:author',
    say('settings.author'),
    'line',
    say('settings.aPlainTagOnEvery'),
    {
      perBranch: true,
    },
  ),
  defineSetting(say('settings.names'), 'language', say('settings.language'), 'line', say('settings.aTagSuchAsEn'), {
    perBranch: true,
    example: 'en',
  }),
  defineSetting(
    say('common.addresses'),
    'canonical',
    say('settings.canonicalAddressOnEveryPage'),
    'switch',
    say('settings.eachPageSaysItsOne'),
    { perBranch: true },
  ),
  defineSetting(
    say('common.addresses'),
    'alternates',
    say('settings.linksBetweenLanguages'),
    'switch',
    say('settings.eachPageOfAGroup'),
  ),
  defineSetting(
    say('settings.shared'),
    'share',
    say('settings.shareCardOnEveryPage'),
    'switch',
    say('settings.titleTextAddressAndKind'),
    { perBranch: true },
  ),
  defineSetting(
    say('settings.shared'),
    'meta:og:image',
    say('settings.sharePicture'),
    'line',
    say('settings.theAddressOfAPicture'),
    { perBranch: true, example: '/pictures/house.jpg' },
  ),
  defineSetting(
    say('settings.shared'),
    'icons',
    say('settings.icons'),
    'icons',
    say('settings.fromOnePictureTheSmall'),
  ),
  defineSetting(
    say('settings.shared'),
    'meta:theme-color',
    say('settings.colourForBrowsers'),
    'line',
    say('settings.browsersOnPhonesColourTheir'),
    { perBranch: true, example: 'teal' },
  ),
  defineSetting(
    say('settings.shared'),
    'meta:generator',
    say('settings.generatorLine'),
    'generator',
    say('settings.saysWhatProgramMadeThe'),
  ),
  defineSetting(
    say('settings.data'),
    'organisation',
    say('settings.organisation'),
    'text',
    say('settings.whoStandsBehindTheSite'),
    {
      example:
        '{\n  "@context": "https://schema.org",\n  "@type": "Organization",\n  "name": "",\n  "url": "",\n  "logo": ""\n}',
    },
  ),
  defineSetting(
    say('settings.data'),
    'breadcrumb',
    say('settings.breadcrumb'),
    'switch',
    say('settings.theWayFromTheHome'),
    {
      perBranch: true,
    },
  ),
  defineSetting(
    say('settings.data'),
    'article',
    say('settings.datedEntriesAsArticles'),
    'switch',
    say('settings.pagesThatGiveADate'),
    { perBranch: true },
  ),
  defineSetting(
    say('settings.data'),
    'event',
    say('settings.datedEntriesAsEvents'),
    'switch',
    say('settings.forABranchOfThings'),
    { perBranch: true },
  ),
  defineSetting(
    say('settings.data'),
    'data',
    say('settings.dataOfYourOwn'),
    'text',
    say('settings.anyJsonLdCheckedAgainst'),
    { perBranch: true },
  ),
  defineSetting(say('common.files'), 'robots.txt', 'robots.txt', 'text', say('settings.whichCrawlersMayAskFor'), {
    example: 'User-agent: *\nDisallow:\n',
  }),
  defineSetting(say('common.files'), 'sitemap', 'sitemap.xml', 'switch', say('settings.everyPageThatMayBe')),
  defineSetting(say('common.files'), 'security.txt', 'security.txt', 'text', say('settings.whomToTellAboutA'), {
    example: 'Contact: mailto:\nExpires: ',
  }),
  defineSetting(
    say('settings.code'),
    'code:head',
    say('settings.codeInTheHead'),
    'text',
    say('settings.aLineThatProvesWho'),
    { perBranch: true },
  ),
  defineSetting(
    say('settings.code'),
    'code:end',
    say('settings.codeAtTheEndOf'),
    'text',
    say('settings.theSameBeforeTheEnd'),
    {
      perBranch: true,
    },
  ),
];

export function findSetting({ settings }: Pick<Metadata, 'settings'>, name: string): SettingRow | undefined {
  return settings.find((each) => each.name === name && each.scope.kind === 'everywhere');
}

export function findBranchSettings({ settings }: Pick<Metadata, 'settings'>, name: string): SettingRow[] {
  return settings.filter((each) => each.name === name && each.scope.kind === 'branch');
}

/** How a setting stands, in a few words. */
export function saySettingStanding(
  metadata: Metadata,
  { name, kind }: SiteSetting,
): { readonly words: string; readonly isSet: boolean } {
  if (kind === 'icons')
    return metadata.icons.length > 0
      ? { words: say('settings.files', { icons: metadata.icons.length }), isSet: true }
      : { words: say('settings.asImported'), isSet: false };
  const text = findSetting(metadata, name)?.text;
  if (text === false) return { words: say('common.leftOut'), isSet: true };
  if (kind === 'switch')
    return text === 'on'
      ? { words: say('settings.on'), isSet: true }
      : {
          words:
            name === 'sitemap' && metadata.files.hasImportedSitemap ? say('settings.asImported') : say('settings.off'),
          isSet: false,
        };
  if (typeof text === 'string' && text !== '') return { words: text.split('\n')[0] ?? '', isSet: true };
  if (name === 'name') return { words: metadata.siteName, isSet: false };
  if (
    (name === 'robots.txt' && metadata.files.robots !== null) ||
    (name === 'security.txt' && metadata.files.security !== null)
  )
    return { words: say('settings.asImported'), isSet: false };
  return { words: say('settings.notSet'), isSet: false };
}
