/** Before each file of tests: the words of sites, as in the frame of a site, and large answers read without a worker. */
import '../words/ofSites.ts';
import { vi } from 'vitest';

vi.mock('../api/large.ts', () => import('./large.ts'));
