/** Every endpoint of the application, by feature. */
import { draftApi } from './api/draft.ts';
import { importsApi } from './api/imports.ts';
import { jobsApi } from './api/jobs.ts';
import { releasesApi } from './api/releases.ts';
import { sessionApi } from './api/session.ts';
import { sitesApi } from './api/sites.ts';

export const api = {
  session: sessionApi,
  sites: sitesApi,
  imports: importsApi,
  draft: draftApi,
  releases: releasesApi,
  jobs: jobsApi,
};
