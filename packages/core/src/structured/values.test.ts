/**
 * Values of structured data. Sources: schema.org, pages of the types and properties named (Date, DateTime, Time, Boolean,
 * Number, enumerations, "Introducing Role"); JSON-LD 1.1, sections 3.1 (context), 4.5 (types), 4.9 (graphs); ISO 8601 as
 * schema.org's DateTime names it.
 */
import { describe, expect, it } from 'vitest';
import { checkData, isKindOf } from './index.ts';

const CONTEXT = { '@context': 'https://schema.org' };
const codes = (data: unknown) =>
  checkData(typeof data === 'string' ? data : JSON.stringify(data)).map(
    ({ at, message }) => `${at} ${message.code.replace('structured.', '')}`,
  );
const node = (type: string | string[], more: object) => codes({ ...CONTEXT, '@type': type, ...more });

describe('values of strict form', () => {
  it.each([
    ['2027-01-21', true],
    ['2027-01', true],
    ['2027', true],
    ['-0044-03-15', true],
    ['2027-01-21T19:30', true],
    ['2027-01-21T19:30:00', true],
    ['2027-01-21T19:30:00.5Z', true],
    ['2027-01-21T19:30+01:00', true],
    ['2027-01-21T19:30-0100', true],
    ['-2027-01-21T19:30Z', true],
    ['2027-1-21', false],
    ['2027-01-2', false],
    ['27-01-21', false],
    ['on 2027-01-21', false],
    ['2027-01-21 or so', false],
    ['2027-01-21T19', false],
    ['2027-01-21T9:30', false],
    ['2027-01-21T19:3', false],
    ['2027-01-21T19:30:5', false],
    ['2027-01-21T19:30:00.', false],
    ['2027-01-21T19:30 GMT', false],
    ['2027-01-21T19:30+1:00', false],
    ['x2027-01-21T19:30', false],
    ['2027-01-21T19:30x', false],
    ['2027-1-21T19:30', false],
  ])('a start on %s: %s', (value, isRight) =>
    expect(node('Event', { startDate: value })).toEqual(isRight ? [] : ['startDate value-unlike']),
  );

  it.each([
    ['birthDate', 'Person', '1990-05-01', true],
    ['birthDate', 'Person', 'May', false],
    ['opens', 'OpeningHoursSpecification', '09:00', true],
    ['opens', 'OpeningHoursSpecification', '09:00:30', true],
    ['opens', 'OpeningHoursSpecification', '9:00', false],
    ['opens', 'OpeningHoursSpecification', '09:0', false],
    ['opens', 'OpeningHoursSpecification', 'at 09:00', false],
    ['isAccessibleForFree', 'Event', 'true', true],
    ['isAccessibleForFree', 'Event', 'false', true],
    ['isAccessibleForFree', 'Event', 'True', true],
    ['isAccessibleForFree', 'Event', 'http://schema.org/False', true],
    ['isAccessibleForFree', 'Event', 'https://schema.org/True', true],
    ['isAccessibleForFree', 'Event', 'yes', false],
    ['isAccessibleForFree', 'Event', 'true!', false],
    ['isAccessibleForFree', 'Event', 'untrue', false],
    ['isAccessibleForFree', 'Event', 'xhttps://schema.org/True', false],
    ['latitude', 'GeoCoordinates', '53.1', true],
    ['remainingAttendeeCapacity', 'Event', '12', true],
    ['remainingAttendeeCapacity', 'Event', ' ', false],
    ['remainingAttendeeCapacity', 'Event', 'many', false],
    ['ratingCount', 'AggregateRating', '1e2', true],
    ['availability', 'Offer', 'https://schema.org/InStock', true],
    ['availability', 'Offer', 'InStock', true],
    ['availability', 'Offer', 'schema:InStock', true],
    ['availability', 'Offer', 'in stock', false],
    ['name', 'Event', 'whatever it is called', true],
    ['location', 'Event', 'The dome', true],
  ])('%s of %s may be %s: %s', (property, type, value, isRight) =>
    expect(node(type, { [property]: value })).toEqual(isRight ? [] : [`${property} value-unlike`]),
  );

  it('are numbers and truths as they are', () => {
    expect(node('Event', { remainingAttendeeCapacity: 3, isAccessibleForFree: true })).toEqual([]);
    expect(node('Event', { name: null })).toEqual(['name value-empty']);
    expect(node('Event', { startDate: ['2027', 'soon', null] })).toEqual([
      'startDate[1] value-unlike',
      'startDate[2] value-empty',
    ]);
  });

  it('say what would do', () => {
    const [problem] = checkData(JSON.stringify({ ...CONTEXT, '@type': 'Event', startDate: 'soon' }));
    expect(problem?.message.parameters).toEqual({ value: 'soon', allowed: ['Date', 'DateTime'] });
  });
});

describe('things as values', () => {
  it.each([
    [{ '@type': 'Organization', name: 'x' }, []],
    [{ '@type': 'Corporation', name: 'x' }, []],
    [{ '@type': 'https://schema.org/Person', name: 'x' }, []],
    [{ '@type': 'OrganizationRole', name: 'x' }, []],
    [{ '@type': 'Event', name: 'x' }, ['publisher value-of-other-type']],
    [{ '@type': 'Persn', name: 'x' }, ['publisher.@type type-mistyped']],
    [{ '@id': '#me' }, []],
    [{ '@value': 'x' }, []],
    [{ name: 'x' }, ['publisher no-type']],
    [{ '@type': 7 }, ['publisher no-type']],
  ])('%j', (publisher, expected) => expect(node('Article', { publisher })).toEqual(expected));

  it('are read as deep as they go, but not without end', () => {
    const deep = (levels: number): object =>
      levels === 0 ? { '@type': 'Nothing' } : { '@type': 'Article', isPartOf: deep(levels - 1) };
    expect(codes({ ...CONTEXT, ...deep(50) })).toHaveLength(1);
    expect(codes({ ...CONTEXT, ...deep(51) })).toHaveLength(0);
  });

  it('have places that lead to them', () => {
    expect(node('Event', { location: [{ '@type': 'Place', adress: 1 }] })).toEqual([
      'location[0].adress property-mistyped',
    ]);
  });
});

describe('types and properties', () => {
  it.each<[string | string[], object, string[]]>([
    ['Person', { startDate: '2027' }, ['startDate property-elsewhere']],
    [['Person', 'Event'], { startDate: '2027' }, []],
    [['Person', 'Evnt'], { startDate: '2027' }, ['@type type-mistyped']],
    ['schema:Person', { 'schema:name': 'x', 'https://schema.org/email': 'x' }, []],
    ['Zzyzx', { name: 'x' }, ['@type type-unknown']],
    ['Person', { zzyzx: 'x' }, ['zzyzx property-unknown']],
    ['Person', { '@id': '#x', '@reverse': 3 }, []],
    ['person', {}, ['@type type-mistyped']],
    ['Persn', {}, ['@type type-mistyped']],
    ['Personn', {}, ['@type type-mistyped']],
    ['Qerson', {}, ['@type type-mistyped']],
    ['Qersom', {}, ['@type type-unknown']],
    ['Prson', {}, ['@type type-mistyped']],
    ['Prsn', {}, ['@type type-unknown']],
  ])('%j with %j', (type, more, expected) => expect(node(type, more)).toEqual(expected));

  it('name what may have been meant, in the same letters before another letter', () => {
    const meant = (type: string) => checkData(JSON.stringify({ ...CONTEXT, '@type': type }))[0]?.message.parameters;
    expect(meant('EVENT')).toEqual({ type: 'EVENT', near: 'Event' });
    expect(meant('Musuem')).toEqual({ type: 'Musuem' });
    expect(isKindOf('Museum', 'Museum')).toBe(true);
    expect(isKindOf('Nothing', 'Thing')).toBe(false);
  });
});

describe('the whole', () => {
  it.each<[unknown, string[]]>([
    [{ '@context': 'http://schema.org/', '@type': 'Thing' }, []],
    [{ '@context': ['https://schema.org', { x: 'y' }], '@type': 'Thing' }, []],
    [{ '@context': { '@vocab': 'https://schema.org/' }, '@type': 'Thing' }, []],
    [{ '@context': { '@vocab': 'https://fell.example/' }, '@type': 'Thing' }, ['@context no-context']],
    [{ '@context': 'https://schema.org.example', '@type': 'Thing' }, ['@context no-context']],
    [{ '@context': 'see https://schema.org', '@type': 'Thing' }, ['@context no-context']],
    [
      [{ ...CONTEXT, '@type': 'Thing' }, 7, null, [], { '@type': 'Thing' }],
      [' no-object', ' no-object', ' no-object', '@context no-context'],
    ],
    ['x', [' no-object']],
    [{ ...CONTEXT, '@graph': [{ '@type': 'Evnt' }, 7] }, ['@graph[0].@type type-mistyped']],
    [{ ...CONTEXT, '@graph': 'x', '@type': 'Thing' }, []],
  ])('%j', (data, expected) => expect(codes(JSON.stringify(data))).toEqual(expected));

  it.each([
    ['', ' not-json-empty'],
    ['  \n', ' not-json-empty'],
    ['{"a":', ' not-json-end'],
    ['{"a":1 \n', ' not-json-end'],
    ['[1,2', ' not-json-end'],
    ['['.repeat(500), ' not-json-end'],
    ['['.repeat(501), ' not-json-deep'],
    ['{"a":'.repeat(20_000), ' not-json-deep'],
    ['[]'.repeat(501), ' not-json-at'],
    [`{"a":"${'['.repeat(501)}"`, ' not-json-end'],
    [`${']'.repeat(2)}${'['.repeat(501)}`, ' not-json-deep'],
  ])('%j is no JSON', (text, expected) => expect(codes(text)).toEqual([expected]));

  it('that is no JSON names line and letter', () => {
    expect(checkData('{\n "a": x}')[0]?.message.parameters).toEqual({ line: 2, letter: 7 });
    expect(checkData('x')[0]?.message.parameters).toEqual({ line: 1, letter: 1 });
    expect(checkData('{}\n{}')[0]?.message.parameters).toEqual({ line: 2, letter: 1 });
    expect(checkData('{"a" 1}')[0]?.message.parameters).toEqual({ line: 1, letter: 6 });
    expect(checkData('{"a": 1, // why\n"b": 2}')[0]?.message.parameters).toEqual({ line: 1, letter: 10 });
    expect(checkData('{"a": "\\x"}')[0]?.message).toMatchObject({ code: 'structured.not-json-at' });
  });
});
