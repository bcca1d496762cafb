import type { menuPart, puttingBack, standIn, stood } from '@fastigium/contracts/messages/removal';
import type { CatalogueOf } from '../catalogue.ts';

const NTH = '{nth, selectordinal, one {#st} two {#nd} few {#rd} other {#th}}';

export const stoodWords: CatalogueOf<typeof stood> = {
  'at-top': 'at the top',
  'nth-at-top': `${NTH} at the top`,
  under: 'under “{name}”',
  'nth-under': `${NTH} under “{name}”`,
  'in-page': 'in “{name}”',
  'in-folder': 'in {folder}',
  'at-root': 'at the root',
  'in-menu': '{menu}',
  'in-lost-menu': 'a menu that is gone',
  'among-redirects': 'Redirects',
};

export const standInWords: CatalogueOf<typeof standIn> = {
  nothing: 'nothing answers',
  gone: 'gone for good (410)',
  home: 'leads to the home page',
  page: 'leads to {name}',
};

export const menuPartWords: CatalogueOf<typeof menuPart> = {
  items: '{menu}: {items}',
};

export const puttingBackWords: CatalogueOf<typeof puttingBack> = {
  page: '“{name}”',
  'page-at': '“{name}” answers at {address}',
  branch: '“{name}” and {more, number} more come back, each with its title, metadata and touches',
  thing: '{thing}, where it was',
  'settled-otherwise': '{from} was settled otherwise meanwhile and stays so',
  'stands-between': 'It stands {place}, between “{before}” and “{behind}”',
  'stands-behind': 'It stands {place}, behind “{before}”',
  'stands-before': 'It stands {place}, before “{behind}”',
  'stands-alone': 'It stands {place}, alone there',
  menu: '{menu}',
  'links-lead-here-again': 'Links in {pages, plural, one {# page} other {# pages}} lead here again',
  'links-lead-here': '{pages, plural, one {# page leads} other {# pages lead}} here',
  'redirect-retires': 'The redirect for {from} retires',
  'redirects-retire':
    '{count, plural, one {# redirect retires} other {# redirects retire}}: {some}{all, select, yes {} other { …}}',
  'answers-at': '“{name}” answers at {address} from now on',
  'more-move-along':
    '{count, plural, one {# more page below it moves along} other {# more pages below them move along}}',
  'is-home-again': '“{name}” is the home page again',
};
