/** What screens show of a site, by what makes it out of date: each reads again when a topic of its own has a newer version. */
import { reactive, readonly, type DeepReadonly } from 'vue';

/**
 * - `draft`: the draft, and all that is reckoned from it
 * - `snags`: what the checks found
 * - `pictures`: pictures of pages
 * - `address`: looks at the world, which change nothing in the draft
 * - `redirects`: old addresses and suggestions for them
 * - `notices`: what somebody is to be told
 * - `watch`: what visitors of the live site met
 */
export const TOPICS = ['draft', 'snags', 'pictures', 'address', 'redirects', 'notices', 'watch'] as const;
export type Topic = (typeof TOPICS)[number];
type Versions = Record<Topic, number>;

export interface Freshness {
  /** They only grow. */
  readonly versions: DeepReadonly<Versions>;
  outdate(topic: Topic): void;
}

export function createFreshness(): Freshness {
  const versions = reactive(Object.fromEntries(TOPICS.map((topic) => [topic, 0])) as Versions);
  return {
    versions: readonly(versions),
    outdate(topic) {
      versions[topic] += 1;
    },
  };
}
