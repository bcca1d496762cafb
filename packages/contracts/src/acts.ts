/** What the audit trail says of an endpoint that stands there. */
import { act, type ActMessage } from './messages/act.ts';
import { api } from './api.ts';
import type { Endpoint } from './endpoint.ts';

const inKebabCase = (name: string): string => name.replace(/[A-Z]/g, (letter) => `-${letter.toLowerCase()}`);

const NAMES = new Map<Endpoint, string>(
  Object.entries(api).flatMap(([feature, endpoints]) =>
    Object.entries(endpoints as Readonly<Record<string, Endpoint>>).map(
      ([name, endpoint]) => [endpoint, `${inKebabCase(feature)}-${inKebabCase(name)}`] as const,
    ),
  ),
);

/** Throws where nothing is said of it, which a test holds for all that stand on the trail. */
export function findAct(endpoint: Endpoint): ActMessage {
  const name = NAMES.get(endpoint);
  if (name === undefined || !(name in act.definitions)) throw new Error(`there are no words for ${endpoint.path}`);
  return (act as unknown as (name: string) => ActMessage)(name);
}
