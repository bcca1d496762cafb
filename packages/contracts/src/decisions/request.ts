/** Every decision the web may ask for; the server adds what only it knows and records a decision of the core. */
import { z } from 'zod';
import { addressRequests } from './addresses.ts';
import { headRequests } from './head.ts';
import { listRequests } from './lists.ts';
import { pageRequests } from './pages.ts';
import { redirectRequests } from './redirects.ts';
import { removalRequests } from './removals.ts';
import { stepRequests } from './steps.ts';
import { touchRequests } from './touches.ts';
import { treeRequests } from './tree.ts';
import { visitorRequests } from './visitors.ts';

export const decisionRequest = z.discriminatedUnion('kind', [
  ...addressRequests,
  ...headRequests,
  ...listRequests,
  ...pageRequests,
  ...redirectRequests,
  ...removalRequests,
  ...stepRequests,
  ...touchRequests,
  ...treeRequests,
  ...visitorRequests,
]);
export type DecisionRequest = z.infer<typeof decisionRequest>;
