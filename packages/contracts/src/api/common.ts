import { finding } from '@fastigium/core/inspection';
import { z } from 'zod';
import { id } from '../id.ts';
import { decision } from '../messages/decision.ts';
import { menu } from '../messages/names.ts';
import { createMessageSchema } from '../messages/schema.ts';

export const siteParams = z.object({ site: id });
/** RFC 3339 in UTC. */
export const instant = z.iso.datetime();
export const done = z.object({ done: z.literal(true) });

export const personRef = z.object({ id, name: z.string(), initials: z.string() });
export type PersonRef = z.infer<typeof personRef>;

/** Every change of a draft says which draft it was made on, so that a stale one can be refused. */
export const version = z.number().int().min(0);

/** What a decision did. */
export const decisionMessage = createMessageSchema(decision);

/** What is otherwise than published, as the end of a sentence about an address. */
export const findingMessage = createMessageSchema(finding);

/** What a menu is called. */
export const menuMessage = createMessageSchema(menu);

/** Numbers of decisions that stay in the draft and do not go out with a release. */
export const leaveOut = z.array(z.number().int().min(1)).max(300).default([]);
