/**
 * What a page's look is made of: its own content and that of every file it loads, through its style
 * sheets on. Two pages at one address with the same parts look the same, so one picture serves both.
 */
import { listCandidateFiles, isPageFile, splitAddress } from '../address/index.ts';

export interface AppearanceSources {
  /** Hash of a published file's content; undefined where there is none. */
  readonly hashOf: (path: string) => string | undefined;
  /** Normal addresses inside the site that a page or style sheet refers to. */
  readonly refersTo: (path: string) => readonly string[];
}

/**
 * The parts as lines, in an order of their own, for the platform's SHA-256.
 *
 * @param path published page; pages it links to or frames are no part
 */
export function listAppearanceParts(path: string, { hashOf, refersTo }: AppearanceSources): string[] {
  const parts = new Map<string, string>([[path, hashOf(path) ?? '']]);
  const waiting = [path];
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    for (const address of refersTo(at)) {
      for (const file of listCandidateFiles(splitAddress(address).path)) {
        const hash = isPageFile(file) ? undefined : hashOf(file);
        if (hash === undefined || parts.has(file)) continue;
        parts.set(file, hash);
        if (file.endsWith('.css')) waiting.push(file);
      }
    }
  }
  return [...parts].map(([file, hash]) => `${file} ${hash}`).sort();
}
