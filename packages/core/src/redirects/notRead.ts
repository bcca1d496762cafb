import type { PatternMessage, UnreadMessage } from './messages.ts';

/** Something in a file or a text that could not be taken, and where it stood. */
export interface NotRead {
  /** From 1. */
  readonly line: number;
  readonly text: string;
  readonly why: UnreadMessage | PatternMessage;
}
