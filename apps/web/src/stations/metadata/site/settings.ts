/** What can be set for a whole site, in the order of the work. */
import type { Metadata, SettingRow } from '@fastigium/contracts/api/metadata';

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

const setting = (
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
  setting(
    'Names',
    'name',
    'Name of the site',
    'line',
    'Stands in titles, share cards and the manifest. Without one, the site is called as it is here.',
    { perBranch: true },
  ),
  setting(
    'Names',
    'tagline',
    'Line underneath',
    'line',
    'Follows the site’s name in the title of the page that is called like the site.',
    { perBranch: true },
  ),
  setting(
    'Names',
    'pattern',
    'Form of titles',
    'line',
    '{page} stands for the page’s own title, {site} for the name. Titles that are in the form already stay as they are, and what imported titles end in now is left out first.',
    { perBranch: true, example: '{page} · {site}' },
  ),
  setting('Names', 'meta:author', 'Author', 'line', 'A plain tag on every page that has none of its own.', {
    perBranch: true,
  }),
  setting('Names', 'language', 'Language', 'line', 'A tag such as en or cy, for pages that do not say theirs.', {
    perBranch: true,
    example: 'en',
  }),
  setting(
    'Addresses',
    'canonical',
    'Canonical address on every page',
    'switch',
    'Each page says its one address, under the main name. Search engines then count its doubles together.',
    { perBranch: true },
  ),
  setting(
    'Addresses',
    'alternates',
    'Links between languages',
    'switch',
    'Each page of a group names the others and itself, and which one is for everybody else. The groups are under Languages.',
  ),
  setting(
    'Shared',
    'share',
    'Share card on every page',
    'switch',
    'Title, text, address and kind, from what the page says. Open Graph.',
    { perBranch: true },
  ),
  setting(
    'Shared',
    'meta:og:image',
    'Share picture',
    'line',
    'The address of a picture of the site, at least 1200 by 630 pixels, for pages that have none of their own.',
    { perBranch: true, example: '/pictures/house.jpg' },
  ),
  setting(
    'Shared',
    'icons',
    'Icons',
    'icons',
    'From one picture: the small icon in three sizes, those for home screens, and the manifest that names them.',
  ),
  setting(
    'Shared',
    'meta:theme-color',
    'Colour for browsers',
    'line',
    'Browsers on phones colour their own bars with it.',
    { perBranch: true, example: 'teal' },
  ),
  setting(
    'Shared',
    'meta:generator',
    'Generator line',
    'generator',
    'Says what program made the page. Most sites leave it out.',
  ),
  setting(
    'Data',
    'organisation',
    'Organisation',
    'text',
    'Who stands behind the site, once, on the home page. JSON-LD in the words of schema.org.',
    {
      example:
        '{\n  "@context": "https://schema.org",\n  "@type": "Organization",\n  "name": "",\n  "url": "",\n  "logo": ""\n}',
    },
  ),
  setting(
    'Data',
    'breadcrumb',
    'Breadcrumb',
    'switch',
    'The way from the home page to each page, as the tree has it.',
    { perBranch: true },
  ),
  setting(
    'Data',
    'article',
    'Dated entries as articles',
    'switch',
    'Pages that give a date for themselves, with title, date, picture and author.',
    { perBranch: true },
  ),
  setting(
    'Data',
    'event',
    'Dated entries as events',
    'switch',
    'For a branch of things that take place: each page that gives a date.',
    { perBranch: true },
  ),
  setting('Data', 'data', 'Data of your own', 'text', 'Any JSON-LD, checked against schema.org.', { perBranch: true }),
  setting('Files', 'robots.txt', 'robots.txt', 'text', 'Which crawlers may ask for what. It keeps nothing secret.', {
    example: 'User-agent: *\nDisallow:\n',
  }),
  setting(
    'Files',
    'sitemap',
    'sitemap.xml',
    'switch',
    'Every page that may be found, with the day it last changed for visitors. Pages kept out of search, and those not ready, are left out.',
  ),
  setting(
    'Files',
    'security.txt',
    'security.txt',
    'text',
    'Whom to tell about a weakness, at /.well-known/security.txt (RFC 9116).',
    { example: 'Contact: mailto:\nExpires: ' },
  ),
  setting(
    'Code',
    'code:head',
    'Code in the head',
    'text',
    'A line that proves who owns the site, or a statistics script. It goes out as it is written here.',
    { perBranch: true },
  ),
  setting('Code', 'code:end', 'Code at the end of the page', 'text', 'The same, before the end of the body.', {
    perBranch: true,
  }),
];

export function settingFor({ settings }: Pick<Metadata, 'settings'>, name: string): SettingRow | undefined {
  return settings.find((each) => each.name === name && each.scope.kind === 'everywhere');
}

export function branchesWith({ settings }: Pick<Metadata, 'settings'>, name: string): SettingRow[] {
  return settings.filter((each) => each.name === name && each.scope.kind === 'branch');
}

/** How a setting stands, in a few words. */
export function standingOf(
  metadata: Metadata,
  { name, kind }: SiteSetting,
): { readonly words: string; readonly isSet: boolean } {
  if (kind === 'icons')
    return metadata.icons.length > 0
      ? { words: `${metadata.icons.length} files`, isSet: true }
      : { words: 'as imported', isSet: false };
  const text = settingFor(metadata, name)?.text;
  if (text === false) return { words: 'left out', isSet: true };
  if (kind === 'switch')
    return text === 'on'
      ? { words: 'on', isSet: true }
      : { words: name === 'sitemap' && metadata.files.hasImportedSitemap ? 'as imported' : 'off', isSet: false };
  if (typeof text === 'string' && text !== '') return { words: text.split('\n')[0] ?? '', isSet: true };
  if (name === 'name') return { words: metadata.siteName, isSet: false };
  if (
    (name === 'robots.txt' && metadata.files.robots !== null) ||
    (name === 'security.txt' && metadata.files.security !== null)
  )
    return { words: 'as imported', isSet: false };
  return { words: 'not set', isSet: false };
}
