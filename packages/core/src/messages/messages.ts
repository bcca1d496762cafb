/**
 * What is told to people, as data: a code and what fills it. Words are made of it at the edge, in the language of
 * whoever reads, so that what is kept and sent holds for every language and nothing is decided by matching words.
 */

/**
 * What a parameter is.
 *
 * - `text`: as it stands, such as an address or a title
 * - `number`: a count or another figure
 * - `bytes`: a size in bytes
 * - `seconds`: a length of time
 * - `day`: `2027-03-31` (ISO 8601), of no time zone
 * - `instant`: `2027-03-31T08:00:00.000Z`, with `[Europe/London]` behind it where it is told by that zone (RFC 9557)
 * - `message`: a message within the message
 * - `part`: a message, or a text as it stands, such as what another program said
 * - `list`: texts and messages, joined as an enumeration with "and"
 * - `alternatives`: the same with "or"
 * - `series`: texts and messages, one after another
 * - `clauses`: the same, apart enough for parts that are series themselves
 * - several words, of letters alone: one of them, for a choice between sentences
 */
export type ParameterKind =
  | 'text'
  | 'number'
  | 'bytes'
  | 'seconds'
  | 'day'
  | 'instant'
  | 'message'
  | 'part'
  | 'list'
  | 'alternatives'
  | 'series'
  | 'clauses'
  | readonly string[];

export type ParameterKinds = Readonly<Record<string, ParameterKind>>;
export type Definitions = Readonly<Record<string, ParameterKinds>>;

export type Part = string | Message;
export type Parameter = string | number | Message | readonly Part[];

/** A message of any subject. */
export interface Message {
  /** `subject.name` */
  readonly code: string;
  readonly parameters: Readonly<Record<string, Parameter>>;
}

type Filling<K extends ParameterKind> = K extends readonly (infer Choice)[]
  ? Choice
  : K extends 'number' | 'bytes' | 'seconds'
    ? number
    : K extends 'message'
      ? Message
      : K extends 'part'
        ? Part
        : K extends 'list' | 'alternatives' | 'series' | 'clauses'
          ? readonly Part[]
          : string;

export type ParametersOf<K extends ParameterKinds> = { readonly [Name in keyof K]: Filling<K[Name]> };

/** Makes messages of one subject, and says which there are. */
export interface Subject<S extends string, D extends Definitions> {
  <Name extends keyof D & string>(
    name: Name,
    ...filling: keyof D[Name] extends never ? [] : [ParametersOf<D[Name]>]
  ): MessageNamed<S, D, Name>;
  readonly subject: S;
  readonly definitions: D;
}

type MessageNamed<S extends string, D extends Definitions, Name extends keyof D & string> = {
  readonly code: `${S}.${Name}`;
  readonly parameters: ParametersOf<D[Name]>;
};

/** Every message of a subject, told apart by its code. */
export type MessageOf<T> =
  T extends Subject<infer S, infer D>
    ? { [Name in keyof D & string]: MessageNamed<S, D, Name> }[keyof D & string]
    : never;

/** @param subject the first part of all its codes */
export function defineMessages<const S extends string, const D extends Definitions>(
  subject: S,
  definitions: D,
): Subject<S, D> {
  const make = (name: string, parameters: Message['parameters'] = {}) => ({ code: `${subject}.${name}`, parameters });
  return Object.assign(make, { subject, definitions }) as unknown as Subject<S, D>;
}

/** Whether two messages say the same. */
export function isSameMessage(one: Message, other: Message): boolean {
  return one.code === other.code && isSameParameter(one.parameters, other.parameters);
}

function isSameParameter(one: unknown, other: unknown): boolean {
  if (typeof one !== 'object' || typeof other !== 'object' || one === null || other === null) return one === other;
  const [left, right] = [Object.entries(one), new Map(Object.entries(other))];
  return (
    left.length === right.size &&
    left.every(([name, value]) => right.has(name) && isSameParameter(value, right.get(name)))
  );
}
