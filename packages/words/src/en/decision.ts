import type { decision } from '@fastigium/contracts/messages/decision';
import type { CatalogueOf } from '../catalogue.ts';

export const decisionWords: CatalogueOf<typeof decision> = {
  'as-written': '{text}',
  undone: 'Taken back: {decision}',
  redone: 'Done again: {decision}',
  'left-out': 'Left out of a release: {decision}',
  'in-draft': 'Still in the draft: {decision}',

  'title-set': 'Title of {address} set to “{title}”',
  'name-set': '“{before}” becomes “{title}”',
  'address-set': '{before} becomes {after}{below, plural, =0 {} other {, with # below it}}',
  'placed-at-top': '“{name}” {elsewhere, select, yes {now stands} other {takes another place}} at the top',
  'placed-under': '“{name}” {elsewhere, select, yes {now stands} other {takes another place}} under “{parent}”',
  'page-duplicated': '“{name}” duplicated as “{title}” at {address}',
  'page-added': 'Page “{title}” added at {address}',
  'group-added': 'Group “{title}” added',
  'link-added': 'Outside link “{title}” to {url} added',
  'node-removed': '{kind, select, group {Group} other {Outside link}} “{title}” taken away',
  'ready-set': '“{name}” {ready, select, yes {is ready} other {is not ready: it stays out of releases and menus}}',
  'in-menus-set': '“{name}” {shown, select, yes {shows in menus again} other {is left out of menus}}',
  'style-set':
    'Addresses are written {style, select, slash {like /about/} bare {like /about} html {like /about.html} other {as they were imported}}',
  'base-path-set': 'The site is published under {path}/',
  'base-path-root': 'The site is published at the root',
  'home-set': '“{name}” becomes the home page',
  'listing-set': '“{name}” lists the dated pages below it, {perPage, number} to a page',
  'listing-removed': '“{name}” is as it was imported, no listing',
  'menu-set': '{menu} changed: {items}',
  'menu-reset': '{menu} is as it was imported',
  touched: '{touch}, {where}',
  'touch-removed': 'Touch taken away: {touch}',

  'head-set':
    'Metadata {where}: {kinds, plural, =1 {{lines}} =2 {{lines}} other {# kinds}} {how, select, inherited {back to what is inherited} leftOut {left out} kept {kept as the page says it} inPlaceOfOwn {in place of the page’s own} other {set}}',
  'head-set-to': 'Metadata {where}: {line} set to “{text}”',
  'icons-made': 'Icons made from “{file}”',
  'icons-made-of-picture': 'Icons made from a picture',
  'icons-removed': 'Icons taken away',

  'redirect-set': '{from} lands on {to} ({status})',
  'redirect-gone': '{from} is gone for good (410)',
  'redirects-set': 'Redirects: {parts}',
  'part-patterns': '{count, plural, one {one pattern more} other {# patterns more}}',
  'part-redirected': '{count, plural, one {# old address} other {# old addresses}} redirected',
  'part-gone': '{count, plural, one {# old address} other {# old addresses}} gone for good',
  'part-left-to-pattern': '{count, plural, one {# old address} other {# old addresses}} left to it',
  'part-open-again': '{count, plural, one {# old address} other {# old addresses}} open again',
  'redirect-removed': 'Redirect for {from} taken away',
  flattened: '{count, plural, one {{from} leads there at once} other {# redirects lead there at once}}',
  'pattern-set': 'Pattern {pattern} leads to {to} ({status})',
  'pattern-gone': 'Pattern {pattern} is gone for good (410)',
  'pattern-removed': 'Pattern {pattern} taken away',
  'patterns-ordered': 'Patterns put in another order',
  'redirects-came': '{count, plural, one {# redirect} other {# redirects}} came with the archive',

  'redirects-crawled':
    'Crawled from {host}: {count, plural, one {# old address leads} other {# old addresses lead}} on',

  removed:
    '{thing} removed{below, plural, =0 {} other {, with # below it}}{leads, select, gone {; its address says that it is gone for good (410)} home {; its address leads to the home page} page {; its address leads to “{page}”} other {}}{newHome, select, yes {; “{home}” becomes the home page} other {}}',
  'put-back':
    '{thing} put back{more, plural, =0 {} other {, with # more}}{readdressed, select, yes {; {address} is a new address} other {}}',
  'many-put-back': '{count, number} removed things put back',
  held: '{count, plural, one {One removed thing is} other {# removed things are}} held: {reason}',
  freed: '{count, plural, one {One removed thing is} other {# removed things are}} no longer held',
  swept:
    '{count, plural, one {“{label}”} other {# removed things, “{label}” among them,}} removed for good{by, select, time {: the time they were kept is over} other {}}',
  'page-of-release': '“{title}” as in release {release}, at {address}',
  'text-of-release': '“{name}” has its text of release {release}',
  'text-of-file': '“{name}” has the text of its file again',
  'section-of-release': 'Section “{section}” of “{page}” as in release {release}',
  'file-of-release': 'File {address} as in release {release}',
  'file-added': 'File {address} added',

  'export-taken':
    'Newer export “{file}” applied. Pages: {added, number} added, {changed, number} changed, {moved, number} moved, {dropped, number} dropped',
  'as-export-has-it': 'As the newer export has it: {touch}',
  'title-of-export': 'As the newer export has it: title “{title}”',
  'kept-over-export': 'Kept over the newer export: {touch}',
  'former-place': 'Its former place: {touch}',

  'entry-set':
    '{who, select, nobody {Nobody may visit {where} yet} password {Those with a password may visit {where}} other {Everyone may visit {where}}}',
  'entry-removed': 'Whoever may visit the site may visit {where}',
  'shown-instead': '“{name}” is shown where nobody may visit',
  'not-shown-instead': 'No page is shown in place of the site',
  'last-day-set': 'The site comes down after {day}',
  'last-day-removed': 'The site stays up',
};
