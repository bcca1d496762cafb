/** Where addresses are found, and what the configuration says of the world. */
import { describe, expect, it } from 'vitest';
import { readConfig } from '../../config/config.ts';
import { readEndpoint, createRoutes } from './routes.ts';

describe('an address with a port', () => {
  it.each([
    ['192.0.2.1:53', { address: '192.0.2.1', port: 53 }],
    ['192.0.2.1', { address: '192.0.2.1', port: 53 }],
    ['[2001:db8::1]:5353', { address: '2001:db8::1', port: 5353 }],
    ['2001:db8::1', { address: '2001:db8::1', port: 53 }],
    ['[2001:db8::1]', { address: '2001:db8::1', port: 53 }],
    ['ns1.example:8053', { address: 'ns1.example', port: 8053 }],
  ])('%s', (text, endpoint) => expect(readEndpoint(text)).toEqual(endpoint));
});

describe('routes', () => {
  const routes = createRoutes({ '198.51.100.24:443': '127.0.0.1:4304', '[2001:db8:51::24]:80': '127.0.0.1:4302' });

  it('lead where the table says, by address and port; everything else to itself', () => {
    expect(routes('198.51.100.24', 443)).toEqual({ address: '127.0.0.1', port: 4304 });
    expect(routes('2001:db8:51::24', 80)).toEqual({ address: '127.0.0.1', port: 4302 });
    expect(routes('198.51.100.24', 80)).toEqual({ address: '198.51.100.24', port: 80 });
    expect(routes('192.0.2.7', 53)).toEqual({ address: '192.0.2.7', port: 53 });
  });
});

describe('the configuration of the world', () => {
  const least = {
    FASTIGIUM_DATABASE_URL: 'postgres://x/y',
    FASTIGIUM_SECRET: 's'.repeat(40),
    FASTIGIUM_SEAL_KEY: 'ab'.repeat(32),
  };

  it('is a real internet where nothing is said: no stand-ins, no routes, no registrar, no authority', () => {
    expect(readConfig(least).world).toMatchObject({
      standInsUrl: undefined,
      routes: {},
      resolvers: [],
      registrar: undefined,
      acme: undefined,
    });
  });

  it('takes each service by itself', () => {
    const { world } = readConfig({
      ...least,
      FASTIGIUM_RESOLVERS: '[{"name":"Office","address":"192.0.2.53"}]',
      FASTIGIUM_ACME_DIRECTORY: 'https://ca.test/dir',
      FASTIGIUM_ACME_CAA: 'ca.test',
      FASTIGIUM_RDAP_URL: 'https://rdap.test/',
      FASTIGIUM_REGISTRAR_URL: 'https://registrar.test/',
    });
    expect(world).toMatchObject({
      resolvers: [{ name: 'Office', address: '192.0.2.53' }],
      acme: { directory: 'https://ca.test/dir', caaIdentity: 'ca.test' },
      registrar: { rdapUrl: 'https://rdap.test/' },
    });
  });

  it.each([
    ['FASTIGIUM_ROUTES', 'not json'],
    ['FASTIGIUM_ROUTES', '{"198.51.100.24": "127.0.0.1:80"}'],
    ['FASTIGIUM_RESOLVERS', '[{"name":""}]'],
    ['FASTIGIUM_SEAL_KEY', 'short'],
    ['FASTIGIUM_ACME_DIRECTORY', 'no address'],
  ])('names %s when it is wrong: %s', (name, value) =>
    expect(() => readConfig({ ...least, [name]: value })).toThrow(name),
  );
});
