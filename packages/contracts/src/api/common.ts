import { z } from 'zod';

export const id = z.uuid();
export const siteParams = z.object({ site: id });
/** RFC 3339 in UTC. */
export const instant = z.iso.datetime();
export const done = z.object({ done: z.literal(true) });

export const personRef = z.object({ id, name: z.string(), initials: z.string() });
export type PersonRef = z.infer<typeof personRef>;

/** Every change of a draft says which draft it was made on, so that a stale one can be refused. */
export const version = z.number().int().min(0);

/** Numbers of decisions that stay in the draft and do not go out with a release. */
export const leaveOut = z.array(z.number().int().min(1)).max(300).default([]);
