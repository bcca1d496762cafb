/** A site's stream of events; the browser reconnects by itself, but for answers that are none, such as to who is signed out. */
import { jobsApi, siteEvent, type SiteEvent } from '@fastigium/contracts/api/jobs';
import { writePath } from './client.ts';

const OPEN_AGAIN_MS = 3000;

export function listenToSite(
  site: string,
  on: { event(event: SiteEvent): void; connected(): void; back(): void },
): () => void {
  let wasLost = false;
  let source: EventSource;
  let retry: number | undefined;
  const open = () => {
    source = new EventSource(writePath(jobsApi.events, { site }));
    source.onmessage = ({ data }) => {
      const parsed = siteEvent.safeParse(JSON.parse(String(data)));
      if (parsed.success) on.event(parsed.data);
    };
    source.onerror = () => {
      wasLost = true;
      // HTML standard, section 9.2.3: given up for good, whoever signs in meanwhile.
      if (source.readyState === EventSource.CLOSED) retry = window.setTimeout(open, OPEN_AGAIN_MS);
    };
    source.onopen = () => {
      // What happened while the line was down was not heard: look at everything again.
      if (wasLost) on.back();
      else on.connected();
      wasLost = false;
    };
  };
  open();
  return () => {
    window.clearTimeout(retry);
    source.close();
  };
}
