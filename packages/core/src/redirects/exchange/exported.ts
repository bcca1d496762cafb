import type { UnsaidMessage } from '../messages.ts';

/** One file of an export. */
export interface ExportedFile {
  readonly name: string;
  readonly text: string;
}

export interface Exported {
  readonly files: readonly ExportedFile[];
  /** What this form cannot say, and why; nothing is left out without a word. */
  readonly leftOut: readonly {
    readonly from: string;
    readonly why: UnsaidMessage;
    /** It is there letter by letter, other spellings of it are not. */ readonly spellings?: true;
  }[];
}
