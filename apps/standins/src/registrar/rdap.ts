/** What a registry says of a name: RFC 9083 sections 5.3 (domain) and 6 (errors), with the events of section 10.2.3. */
import { formatReadableName } from '@fastigium/core/domain';
import { NAME_SERVERS, type Holding } from './registry.ts';

const formatInstant = (ms: number): string => new Date(ms).toISOString();

export function writeRdapAnswer(held: Holding): object {
  const unicode = formatReadableName(held.name);
  return {
    rdapConformance: ['rdap_level_0'],
    objectClassName: 'domain',
    ldhName: held.name,
    ...(unicode === held.name ? {} : { unicodeName: unicode }),
    status: ['active'],
    events: [
      { eventAction: 'registration', eventDate: formatInstant(held.registeredAtMs) },
      { eventAction: 'expiration', eventDate: formatInstant(held.expiresAtMs) },
    ],
    nameservers:
      held.heldBy === 'account' ? NAME_SERVERS.map((ldhName) => ({ objectClassName: 'nameserver', ldhName })) : [],
    notices: [{ title: 'Simulated', description: ['This registry is a stand-in on this machine.'] }],
  };
}

export function writeRdapNotFound(name: string): object {
  return {
    rdapConformance: ['rdap_level_0'],
    errorCode: 404,
    title: 'Not found',
    description: [`${name} is not registered.`],
  };
}
