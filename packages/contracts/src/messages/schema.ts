/** Messages as they are sent and kept. */
import type { Message, MessageOf, ParameterKind, Subject, Definitions, Parameter } from '@fastigium/core/messages';
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

function parameterOf(kind: ParameterKind): z.ZodType {
  if (typeof kind !== 'string') return z.enum([...kind]);
  switch (kind) {
    case 'number':
    case 'bytes':
    case 'seconds':
      return z.number();
    case 'message':
      return anyMessage;
    case 'part':
      return part;
    case 'list':
    case 'alternatives':
    case 'series':
    case 'clauses':
      return z.array(part);
    case 'day':
      return z.iso.date();
    case 'text':
    case 'instant':
      return z.string();
  }
}

/** The messages of one subject, and no others. */
export function messageOf<S extends string, D extends Definitions>({
  subject,
  definitions,
}: Subject<S, D>): z.ZodType<MessageOf<Subject<S, D>>> {
  const each = Object.entries(definitions).map(([name, kinds]) =>
    z.object({
      code: z.literal(`${subject}.${name}`),
      parameters: z.object(Object.fromEntries(Object.entries(kinds).map(([key, kind]) => [key, parameterOf(kind)]))),
    }),
  );
  const [first, ...more] = each;
  if (!first) throw new Error(`no message is about ${subject}`);
  return z.discriminatedUnion('code', [first, ...more]) as unknown as z.ZodType<MessageOf<Subject<S, D>>>;
}
