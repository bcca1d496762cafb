/** What the host stand-in sells, and where it wants visitors sent. Names and prices are invented. */
import type { HostOffer } from '@fastigium/contracts/ports/host';

const GIB = 1024 ** 3;

/** Documentation addresses (RFC 5737, RFC 3849): they lead nowhere but to this machine's stand-in. */
export const TARGETS = { ipv4: ['198.51.100.24'], ipv6: ['2001:db8:51::24'], edge: 'edge.host.test' } as const;

const plan = { currency: 'USD', setUpWaivedFromMonths: 12 } as const;

export const OFFER: HostOffer = {
  name: 'Host stand-in',
  simulated: true,
  targets: { ipv4: [...TARGETS.ipv4], ipv6: [...TARGETS.ipv6], edge: TARGETS.edge },
  plans: [
    {
      ...plan,
      id: 'lean-to',
      name: 'Lean-to',
      monthlyCents: 0,
      setUpCents: 0,
      sites: 1,
      storageBytes: GIB / 16,
      files: 500,
      ownDomain: false,
      certificate: false,
      password: false,
      backupDays: 0,
      uptimePercent: 99,
    },
    {
      ...plan,
      id: 'one-bay',
      name: 'One-bay',
      monthlyCents: 500,
      setUpCents: 1500,
      sites: 1,
      storageBytes: GIB,
      files: 20_000,
      ownDomain: true,
      certificate: true,
      password: false,
      backupDays: 7,
      uptimePercent: 99.5,
    },
    {
      ...plan,
      id: 'two-bay',
      name: 'Two-bay',
      monthlyCents: 900,
      setUpCents: 2000,
      sites: 2,
      storageBytes: 10 * GIB,
      files: 200_000,
      ownDomain: true,
      certificate: true,
      password: true,
      backupDays: 30,
      uptimePercent: 99.9,
    },
    {
      ...plan,
      id: 'nave',
      name: 'Nave',
      monthlyCents: 2900,
      setUpCents: 4000,
      sites: 20,
      storageBytes: 100 * GIB,
      files: 2_000_000,
      ownDomain: true,
      certificate: true,
      password: true,
      backupDays: 90,
      uptimePercent: 99.99,
    },
  ],
  regions: [
    { id: 'isles', name: 'Isles', latitude: 53.4, longitude: -2.3 },
    { id: 'baltic', name: 'Baltic', latitude: 59.3, longitude: 18.1 },
    { id: 'alpine', name: 'Alpine', latitude: 47.4, longitude: 8.5 },
    { id: 'atlantic-west', name: 'Atlantic West', latitude: 39.0, longitude: -77.5 },
    { id: 'pacific-south', name: 'Pacific South', latitude: -33.9, longitude: 151.2 },
  ],
};
