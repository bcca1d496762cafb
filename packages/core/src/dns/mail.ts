/** What happens to mail when records change; nobody expects a web site to end it. */
import { mail, type MailMessage } from './messages.ts';
import type { RecordChange } from './needed.ts';
import { isWithin, type DomainName } from './name.ts';
import type { RecordSet } from './record.ts';

export interface MailVerdict {
  /** Mail would stop, or go where nobody reads it. */
  readonly endangered: boolean;
  readonly message: MailMessage;
}

/**
 * Mail follows MX records; without one it goes to the name's own address (RFC 5321 section 5.1). So it
 * moves with the web site in two cases: no MX at all, or an MX that names a host whose address changes.
 */
export function judgeMailOfZone(
  zone: DomainName,
  sets: readonly RecordSet[],
  changes: readonly RecordChange[],
): MailVerdict {
  const mx = sets.find(({ name, type }) => name === zone && type === 'MX');
  const changedAddresses = new Set(
    changes.filter(({ type }) => type === 'A' || type === 'AAAA' || type === 'CNAME').map(({ name }) => name),
  );
  if (!mx) {
    const hasAddress = sets.some(({ name, type }) => name === zone && (type === 'A' || type === 'AAAA'));
    return hasAddress && changedAddresses.has(zone)
      ? { endangered: false, message: mail('goes-to-address', { zone }) }
      : { endangered: false, message: mail('no-mx', { zone }) };
  }
  const servers = mx.data.map((data) => (data.split(' ')[1] ?? '').replace(/\.$/, ''));
  if (servers.length === 1 && servers[0] === '') return { endangered: false, message: mail('null-mx', { zone }) };
  const moved = servers.filter((server) => changedAddresses.has(server));
  if (moved.length > 0) return { endangered: true, message: mail('server-would-move', { servers: moved, zone }) };
  const where = servers.every((server) => isWithin(server, zone)) ? 'inside' : 'outside';
  return { endangered: false, message: mail('stays', { servers, where }) };
}
