/** Every endpoint of the application, by feature. */
import { accountApi } from './api/account.ts';
import { addressApi } from './api/address.ts';
import { clientViewApi } from './api/clientView.ts';
import { draftApi } from './api/draft.ts';
import { hostingApi } from './api/hosting.ts';
import { importsApi } from './api/imports.ts';
import { inspectionApi } from './api/inspection.ts';
import { jobsApi } from './api/jobs.ts';
import { metadataApi } from './api/metadata.ts';
import { pagesApi } from './api/pages.ts';
import { peopleApi } from './api/people.ts';
import { picturesApi } from './api/pictures.ts';
import { redirectProofApi } from './api/redirectProof.ts';
import { redirectsApi } from './api/redirects.ts';
import { ruleFilesApi } from './api/ruleFiles.ts';
import { removalsApi } from './api/removals.ts';
import { releasesApi } from './api/releases.ts';
import { sessionApi } from './api/session.ts';
import { setTimeApi } from './api/setTime.ts';
import { sitesApi } from './api/sites.ts';
import { snagsApi } from './api/snags.ts';
import { standInsApi } from './api/standIns.ts';
import { trailApi } from './api/trail.ts';
import { tellingApi } from './api/telling.ts';
import { rehearsalApi } from './api/rehearsal.ts';
import { moveApi } from './api/move.ts';
import { visitorsApi } from './api/visitors.ts';
import { watchApi } from './api/watch.ts';

export const api = {
  session: sessionApi,
  account: accountApi,
  people: peopleApi,
  trail: trailApi,
  clientView: clientViewApi,
  sites: sitesApi,
  imports: importsApi,
  draft: draftApi,
  metadata: metadataApi,
  pages: pagesApi,
  pictures: picturesApi,
  snags: snagsApi,
  redirects: redirectsApi,
  redirectProof: redirectProofApi,
  ruleFiles: ruleFilesApi,
  removals: removalsApi,
  releases: releasesApi,
  setTime: setTimeApi,
  inspection: inspectionApi,
  address: addressApi,
  hosting: hostingApi,
  standIns: standInsApi,
  watch: watchApi,
  telling: tellingApi,
  visitors: visitorsApi,
  move: moveApi,
  rehearsal: rehearsalApi,
  jobs: jobsApi,
};
