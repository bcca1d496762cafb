/** What a kind of host is: how an account there is tried, kept, opened and spoken of. */
import type { HostMessage } from '@fastigium/contracts/messages/address';
import type { HostPort } from '@fastigium/contracts/ports/host';
import type { z } from 'zod';
import type { PlacesConfig } from '../../../config/config.ts';
import type { Gate } from '../../web/gate.ts';

export interface HostTools {
  readonly gate: Gate;
  /** What of this machine may be used, asked at each use: what was open once may not be any more. */
  readonly places: PlacesConfig;
}

/** An account as it is kept. */
export interface HostAccount<Settings, Secret> {
  readonly settings: Settings;
  readonly secret: Secret;
  /** The key its server has to show, where the protocol has such keys. */
  readonly pinnedKey: string | undefined;
}

export type OpenHost = HostPort & { close?(): Promise<void> };

export interface HostKind<Request = unknown, Settings = unknown, Secret = unknown> {
  readonly settings: z.ZodType<Settings>;
  readonly secret: z.ZodType<Secret>;
  /** Tries an account before it counts. Throws a DomainError that says what does not work. */
  probe(request: Request, tools: HostTools): Promise<HostAccount<Settings, Secret>>;
  open(account: HostAccount<Settings, Secret>, tools: HostTools): Promise<OpenHost>;
  /** Where it publishes to. */
  message(settings: Settings): HostMessage;
}
