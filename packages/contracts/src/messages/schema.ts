/** Messages as they are sent and kept. */
import type { Definitions, Message, MessageOf, Parameter, Subject } from '@fastigium/core/messages';
import { z } from 'zod';

export const parameter: z.ZodType<Parameter> = z.lazy(() =>
  z.union([z.string(), z.number(), anyMessage, z.array(z.union([z.string(), anyMessage]))]),
);

/** A message of any subject. */
export const anyMessage: z.ZodType<Message> = z.object({
  code: z.string().regex(/^[a-z-]+\.[a-z-]+$/),
  parameters: z.record(z.string(), parameter),
});

/** A text as it stands, or a message. */
export const part = z.union([z.string(), anyMessage]);

/**
 * The messages of one subject. What is in one is known where it is made, by its type; here it is read as it comes, since
 * rows outlive the version that kept them and pages the server they came from: one with a code or a filling of another
 * version says less, and takes nothing else of the answer with it.
 */
export function createMessageSchema<S extends string, D extends Definitions>({
  subject,
}: Subject<S, D>): z.ZodType<MessageOf<Subject<S, D>>> {
  return anyMessage.refine(({ code }) => code.startsWith(`${subject}.`), {
    error: `a message about ${subject} is meant`,
  }) as z.ZodType<MessageOf<Subject<S, D>>>;
}
