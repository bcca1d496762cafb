/** Structured data against the vocabulary; the kept vocabulary against the package it comes from. */
import { ENGLISH, speakerFor } from '@fastigium/words';
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { describe, expect, it } from 'vitest';
import { vocabularyOf } from '../../generate/vocabularyOf.ts';
import vocabulary from './vocabulary.json' with { type: 'json' };
import { checkData, isKindOf } from './index.ts';

it('is the vocabulary of schema-dts as it is installed', () => {
  const source = readFileSync(
    createRequire(import.meta.url)
      .resolve('schema-dts')
      .replace(/schema\.js$/, 'schema.d.ts'),
    'utf8',
  );
  expect(vocabulary).toEqual(vocabularyOf(source));
  expect(Object.keys(vocabulary.types).length).toBeGreaterThan(900);
});

// schema.org pages of these types, "Subtype of".
it.each([
  ['Hotel', 'Organization'],
  ['Hotel', 'Place'],
  ['NewsArticle', 'CreativeWork'],
  ['BreadcrumbList', 'ItemList'],
  ['Person', 'Thing'],
])('%s is a kind of %s', (type, other) => expect(isKindOf(type, other)).toBe(true));
it('a kind does not hold the other way round', () => expect(isKindOf('Thing', 'Person')).toBe(false));

const words = (data: object) =>
  checkData(JSON.stringify({ '@context': 'https://schema.org', ...data })).map(
    ({ at, message }) => `${at}: ${speakerFor(ENGLISH)(message)}`,
  );

describe('data', () => {
  // schema.org, examples of BreadcrumbList, Event and Organization, in short.
  it.each<[string, object]>([
    [
      'a breadcrumb',
      {
        '@type': 'BreadcrumbList',
        itemListElement: [
          { '@type': 'ListItem', position: 1, item: { '@id': 'https://example.com/dresses', name: 'Dresses' } },
        ],
      },
    ],
    [
      'an event',
      {
        '@type': 'Event',
        name: 'Night',
        startDate: '2027-01-21T19:30',
        location: { '@type': 'Place', name: 'Dome', address: { '@type': 'PostalAddress', addressLocality: 'X' } },
        eventStatus: 'https://schema.org/EventScheduled',
        offers: { '@type': 'Offer', price: '30', priceCurrency: 'USD', availability: 'https://schema.org/InStock' },
      },
    ],
    [
      'an organisation',
      {
        '@type': 'Organization',
        name: 'X',
        url: 'https://x.example',
        logo: 'https://x.example/l.png',
        sameAs: ['https://y.example'],
        founder: [{ '@type': 'Person', name: 'Y' }],
      },
    ],
    [
      'a graph',
      {
        '@graph': [
          { '@type': 'WebSite', name: 'x' },
          { '@id': '#me', '@type': 'Person', name: 'y' },
        ],
      },
    ],
    ['several types', { '@type': ['Article', 'TechArticle'], headline: 'x', dependencies: 'y' }],
  ])('%s is taken', (_, data) => expect(words(data)).toEqual([]));

  it.each<[string, object, string]>([
    [
      'a type that is none',
      { '@type': 'Organisation', name: 'x' },
      'schema.org has no type “Organisation”; “Organization” is one.',
    ],
    [
      'a property that is none',
      { '@type': 'Article', headLine: 'x' },
      'headLine: schema.org has no property “headLine”; “headline” is one.',
    ],
    [
      'a property of something else',
      { '@type': 'Person', startDate: '2027-01-01' },
      'startDate: “startDate” is no property of Person.',
    ],
    [
      'a date that is none',
      { '@type': 'Event', startDate: 'next week' },
      'startDate: “next week” is not Date or DateTime.',
    ],
    [
      'a thing of the wrong kind',
      { '@type': 'Article', publisher: { '@type': 'Place', name: 'x' } },
      'publisher: “publisher” takes Organization or Person, not Place.',
    ],
    ['no type', { name: 'x' }, ': It has no @type.'],
    [
      'a fault inside',
      { '@type': 'Event', location: { '@type': 'Place', adress: 'x' } },
      'location.adress: schema.org has no property “adress”; “address” is one.',
    ],
  ])('%s is told', (_, data, expected) => expect(words(data).join('\n')).toContain(expected));

  it('that is no JSON is told by its line', () =>
    expect(checkData('{\n"a": 1,\n}')[0]?.message).toMatchObject({
      code: 'structured.not-json-at',
      // V8 names the place of the brace behind the last comma.
      parameters: { line: 3, letter: 1 },
    }));
  it('needs its context', () => expect(checkData('{"@type":"Thing"}')[0]?.at).toBe('@context'));
});
