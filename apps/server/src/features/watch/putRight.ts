/** What the live host gives otherwise is put right: the live release goes out again whole, as a release of its own, and what drifted is sent anew. */
import { DomainError } from '@fastigium/contracts/errors';
import type { Deps } from '../../deps.ts';
import { publishAgain } from '../releases/publish.ts';
import { readDrift } from '../inspection/drift.ts';

export async function putRight(deps: Deps, site: string, by: string): Promise<{ release: number; job: string }> {
  const drift = await readDrift(deps.db, site);
  if (!drift || drift.findings.length === 0) throw new DomainError('nothing-drifted');
  return publishAgain(deps, site, by);
}
