/** Following an old address to where a visitor ends up. */
import { formatAddress, parseAddress, type Address } from '../address/index.ts';
import { decide, listFilesInQuestion, type FileSet } from './decide.ts';
import type { RuleIndex } from './ruleIndex.ts';

export interface Hop {
  readonly address: string;
  readonly status: number;
  readonly location: string | undefined;
}

export type ProofEnd =
  | { readonly kind: 'page'; readonly address: string; readonly file: string }
  | { readonly kind: 'gone' }
  | { readonly kind: 'missing'; readonly address: string }
  | { readonly kind: 'outside'; readonly url: string }
  | { readonly kind: 'loop' };

export interface Proof {
  readonly hops: readonly Hop[];
  readonly end: ProofEnd;
}

// Browsers give up after 20 (Fetch standard, "HTTP-redirect fetch", step 5).
const MOST_HOPS = 20;

/**
 * The steps of a proof. Each step yields the paths it has to know about and is resumed with a set
 * that knows them, so that whoever holds the files, in memory or in a database, can drive it.
 */
export function* walkProof(start: Address, rules: RuleIndex): Generator<readonly string[], Proof, FileSet> {
  const hops: Hop[] = [];
  const seen = new Set<string>();
  let address = start;
  while (hops.length <= MOST_HOPS) {
    const asked = formatAddress(address);
    if (seen.has(asked)) return { hops, end: { kind: 'loop' } };
    seen.add(asked);
    const files = yield listFilesInQuestion(address, rules);
    const answer = decide(address, files, rules);
    if (answer.kind === 'file') {
      hops.push({ address: asked, status: 200, location: undefined });
      return { hops, end: { kind: 'page', address: asked, file: answer.file } };
    }
    if (answer.kind === 'gone') {
      hops.push({ address: asked, status: 410, location: undefined });
      return { hops, end: { kind: 'gone' } };
    }
    if (answer.kind === 'missing') {
      hops.push({ address: asked, status: 404, location: undefined });
      return { hops, end: { kind: 'missing', address: asked } };
    }
    hops.push({ address: asked, status: answer.status, location: answer.location });
    const next = parseAddress(answer.location);
    if (!next.ok || next.host !== undefined) return { hops, end: { kind: 'outside', url: answer.location } };
    address = next.address;
  }
  return { hops, end: { kind: 'loop' } };
}

/** The proof over files that are all at hand. */
export function prove(start: Address, files: FileSet, rules: RuleIndex): Proof {
  const steps = walkProof(start, rules);
  for (let step = steps.next(files); ; step = steps.next(files)) if (step.done) return step.value;
}
