/** What people write that cannot be taken as it is. */
import type { markup } from '@fastigium/core/head';
import type { languageTag } from '@fastigium/core/languages';
import type { securityTxt } from '@fastigium/core/securityTxt';
import type { structured } from '@fastigium/core/structured';
import type { svgFault } from '@fastigium/core/picture';
import type { CatalogueOf } from '../catalogue.ts';

export const structuredWords: CatalogueOf<typeof structured> = {
  'not-json-empty': 'It is not JSON: it is empty.',
  'not-json-end': 'It is not JSON: it ends too early or a sign is missing.',
  'not-json-deep': 'It is not JSON, and its parts stand too deep in one another to say where.',
  'not-json-at': 'It is not JSON: something is wrong in line {line}, letter {letter}.',
  'no-object': 'Structured data is an object with a @context and a @type.',
  'no-context': 'The @context should be “https://schema.org”.',
  'no-type': 'It has no @type.',
  'type-unknown': 'schema.org has no type “{type}”.',
  'type-mistyped': 'schema.org has no type “{type}”; “{near}” is one.',
  'property-unknown': 'schema.org has no property “{property}”.',
  'property-mistyped': 'schema.org has no property “{property}”; “{near}” is one.',
  'property-elsewhere': '“{property}” is no property of {types}.',
  'value-of-other-type': '“{property}” takes {allowed}, not {type}.',
  'value-empty': 'It is empty.',
  'value-unlike': '“{value}” is not {allowed}.',
};

export const securityTxtWords: CatalogueOf<typeof securityTxt> = {
  'not-a-field': 'A line is a name, a colon, a space and a value; or it begins with #.',
  'field-twice': '{field} may stand there only once; it does in line {line} too.',
  'no-address': '{field} needs an address, such as https://… or mailto:…',
  'not-https': '{field} has to begin with https://.',
  'no-date': 'Expires needs a date and time such as 2027-06-30T12:00:00Z.',
  expired: 'It has expired, so nobody will use it.',
  'field-missing': '{field} is missing; it has to be there.',
  'in-line': 'line {line}: {problem}',
};

/** Each goes on from "it is no language tag". */
export const languageTagWords: CatalogueOf<typeof languageTag> = {
  empty: 'it is empty',
  'not-written-as-one': 'it is not written as one (letters, two or three, then parts after hyphens)',
  'not-registered':
    '“{subtag}” is no {kind, select, extlang {extended language} script {script} region {region} variant {variant} other {language}} in the register of languages',
};

/** Each goes on from "it cannot be put there". */
export const markupWords: CatalogueOf<typeof markup> = {
  empty: 'it is empty',
  'never-ends': 'something begins in line {line} and never ends, so it would swallow the page',
  'whole-page': 'it holds the tags of a whole page; leave <html>, <head> and <body> out',
  'never-closed': '<{element}> in line {line} is never closed',
  'not-in-head':
    '<{element}> may not stand in a head: browsers would end the head there. Put it at the end of the page',
  'text-in-head': 'it holds plain text, which a head may not',
};

/** Each is a reason why a picture is not taken. */
export const svgWords: CatalogueOf<typeof svgFault> = {
  entities: 'the SVG defines entities of its own. Save it anew as plain SVG',
  damaged: 'the SVG is damaged. Save it anew as plain SVG',
  acts: 'the SVG holds a {element}, which could act on whoever looks at it. Take it out and save it as plain SVG',
  script: 'the SVG holds script ({attribute}). Take it out and save it as plain SVG',
  loads: 'the SVG loads something from elsewhere. Embed it, or take it out',
  refers: 'the SVG refers to something outside itself. Embed it, or take it out',
};
