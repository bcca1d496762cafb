/** Who calls, as every handler knows it. */
import type { Role } from '@fastigium/contracts/endpoint';

export interface Caller {
  readonly id: string;
  readonly team: string;
  readonly name: string;
  readonly email: string;
  readonly role: Role;
}
