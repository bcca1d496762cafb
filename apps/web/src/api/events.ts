/** A site's stream of events; the browser reconnects by itself. */
import { jobsApi, siteEvent, type SiteEvent } from '@fastigium/contracts/api/jobs';
import { pathOf } from './client.ts';

export function listenToSite(
  site: string,
  on: { event(event: SiteEvent): void; connected(): void; back(): void },
): () => void {
  const source = new EventSource(pathOf(jobsApi.events, { site }));
  let wasLost = false;
  source.onmessage = ({ data }) => {
    const parsed = siteEvent.safeParse(JSON.parse(String(data)));
    if (parsed.success) on.event(parsed.data);
  };
  source.onerror = () => (wasLost = true);
  source.onopen = () => {
    // What happened while the line was down was not heard: look at everything again.
    if (wasLost) on.back();
    else on.connected();
    wasLost = false;
  };
  return () => source.close();
}
