/** What happens to mail when records change, in words; nobody expects a web site to end it. */
import type { RecordChange } from './needed.ts';
import { isWithin, type DomainName } from './name.ts';
import type { RecordSet } from './record.ts';

export interface MailVerdict {
  /** Mail would stop, or go where nobody reads it. */
  readonly endangered: boolean;
  readonly words: string;
}

/**
 * Mail follows MX records; without one it goes to the name's own address (RFC 5321 section 5.1). So it
 * moves with the web site in two cases: no MX at all, or an MX that names a host whose address changes.
 */
export function mailVerdict(
  zone: DomainName,
  sets: readonly RecordSet[],
  changes: readonly RecordChange[],
): MailVerdict {
  const mx = sets.find(({ name, type }) => name === zone && type === 'MX');
  const changedAddresses = new Set(
    changes.filter(({ type }) => type === 'A' || type === 'AAAA' || type === 'CNAME').map(({ name }) => name),
  );
  if (changes.some(({ name, type, kind }) => name === zone && type === 'MX' && kind !== 'add'))
    return {
      endangered: true,
      words: 'The MX record itself would change: mail would stop arriving. This is never needed for a web site.',
    };
  if (!mx) {
    const hasAddress = sets.some(({ name, type }) => name === zone && (type === 'A' || type === 'AAAA'));
    return hasAddress && changedAddresses.has(zone)
      ? {
          endangered: false,
          words: `${zone} has no MX record. If mail is read there at all, it goes to the address of ${zone} and would now reach the web host, which takes none.`,
        }
      : { endangered: false, words: `${zone} takes no mail: it has no MX record.` };
  }
  const servers = mx.data.map((data) => (data.split(' ')[1] ?? '').replace(/\.$/, ''));
  if (servers.length === 1 && servers[0] === '')
    return { endangered: false, words: `${zone} says that it takes no mail (RFC 7505).` };
  const moved = servers.filter((server) => changedAddresses.has(server));
  if (moved.length > 0) {
    return {
      endangered: true,
      words: `Mail goes to ${moved.join(' and ')}, whose own address would change: mail would reach the web host, which takes none. Give the mail server a name of its own (mail.${zone}) with its present address and point the MX record there first.`,
    };
  }
  return {
    endangered: false,
    words: `Mail stays as it is: it goes to ${servers.join(' and ')}${servers.every((server) => isWithin(server, zone)) ? ', whose address is not touched' : ''}.`,
  };
}
