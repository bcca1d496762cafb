/** Ways in which the stand-ins can be told to fail, one at a time or together; the application's panel plays them. */
import { z } from 'zod';

const nameServerFault = z.enum(['none', 'silent', 'refuses', 'lags', 'truncates']);
const resolverFault = z.enum(['none', 'silent', 'refuses', 'lies', 'mixes-up']);

export const worldFaults = z.object({
  /** The first and the second name server. */
  nameServers: z.tuple([nameServerFault, nameServerFault]).default(['none', 'none']),
  resolvers: z.record(z.string(), resolverFault).default({}),
  certificate: z.enum(['none', 'expired', 'wrong-name']).default('none'),
  authority: z.enum(['none', 'refuses', 'silent']).default('none'),
  registrar: z.enum(['none', 'silent', 'refuses']).default('none'),
});
export type WorldFaults = z.infer<typeof worldFaults>;
export type NameServerFault = z.infer<typeof nameServerFault>;
export type ResolverFault = z.infer<typeof resolverFault>;

export class FaultBoard {
  now: WorldFaults = worldFaults.parse({});

  set(faults: WorldFaults): void {
    this.now = faults;
  }
}
