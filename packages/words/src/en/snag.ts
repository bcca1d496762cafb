import type { snag } from '@fastigium/core/checks';
import type { CatalogueOf } from '../catalogue.ts';

export const snagWords: CatalogueOf<typeof snag> = {
  'language-unknown': '{tag}: {why}',
  data: '{problem}',
  'data-at': '{at}: {problem}',
  nested: 'nested too deeply for: {checks}',
  'styles-nested': 'its styles are nested too deeply to be read, so colours were not judged',
  'everyone-out': 'robots.txt keeps everyone out',
  'noindex-everywhere': 'every page says noindex',
  secret:
    '{kind, select, settings {settings with passwords} key {a private key} database {a copy of a database} repository {a repository, with everything that ever was in it} passwords {passwords} leftover {a copy an editor left} tools {tools of the workshop} build {how the site is built} other {a log}}',
  'link-without-words': 'a link without words',
  'picture-without-address': 'a picture without an address',
  'picture-wide': '{width} pixels wide, shown at {shown}, {size}',
  'picture-large': '{size}',
  'share-small': '{picture}, {width} by {height} pixels',
  'heading-first': 'begins with level {level}: {text}',
  'heading-after': 'level {level} after level {before}: {text}',
  'title-empty': 'the title is empty',
  'no-title': 'there is no title',
  'title-wide': '{width} px: {text} …',
  'description-empty': 'the description is empty',
  'no-description': 'there is no description',
  'description-long': '{letters} letters: {text} …',
  'no-language': 'no language',
  'no-viewport': 'no viewport',
  'read-as': 'read as {encoding}',
  'canonical-empty': 'empty',
  'line-twice':
    '{line, select, shareTitle {share title} shareText {share text} canonical {canonical address} robots {robots} other {description}}',
  contrast: '{colour} on {ground}, {ratio} where {least} is needed: {text}',
  conflict:
    '{line}: “{own}” in the page, {isOut, select, yes {left out} other {“{set}”}} {from, select, computed {as computed} site {for the site} branch {for the branch} other {for the page}}',
  'menu-lacks': 'lacks “{label}”',
  'menu-has-more': 'has “{label}” more',
  'menu-differs': '{how}',
  'menu-order': 'another order',
};
