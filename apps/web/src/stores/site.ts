/** The site that is open: how it stands, what differs from live, and changing its draft. */
import { draftApi } from '@fastigium/contracts/api/draft';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { jobsApi, type Job } from '@fastigium/contracts/api/jobs';
import { releasesApi, type Changes } from '@fastigium/contracts/api/releases';
import { sitesApi, type SiteOverview } from '@fastigium/contracts/api/sites';
import { DomainError, errorFrom } from '@fastigium/contracts/errors';
import type { DecisionMessage } from '@fastigium/contracts/messages/decision';
import { defineStore } from 'pinia';
import { computed, ref, shallowRef } from 'vue';
import { call } from '../api/client.ts';
import { listenToSite } from '../api/events.ts';
import { useNotices } from './notices.ts';
import { useSession } from './session.ts';
import { speak } from '../words/index.ts';
import { runInBackground } from './background.ts';
import { createFreshness } from './freshness.ts';
import { createSteps } from './steps.ts';
import { say } from './words.ts';

/** A decision, or one that is made from what is shown when its turn comes; undefined where there is nothing to do then. */
export type Act = DecisionRequest | (() => DecisionRequest | undefined);

export const useSite = defineStore('site', () => {
  const notices = useNotices();
  const session = useSession();
  const overview = shallowRef<SiteOverview>();
  const changes = shallowRef<Changes>();
  const { versions, outdate } = createFreshness();
  const steps = createSteps();
  const jobs = ref(new Map<string, Job>());
  let stopListening: (() => void) | undefined;
  let changesAsked = 0;
  let overviewAsked = 0;
  let overviewShown = 0;

  const id = computed(() => overview.value?.id);
  /** The release that is live as far as anything here says; numbers only grow, and answers come in any order. */
  const liveNumber = computed(() =>
    [overview.value?.live?.number, changes.value?.sinceRelease].reduce<number | null>(
      (newest, each) => (each == null ? newest : Math.max(newest ?? 0, each)),
      null,
    ),
  );

  async function open(site: string): Promise<void> {
    if (overview.value?.id === site) return;
    close();
    overview.value = await call(sitesApi.overview, { params: { site } });
    jobs.value = new Map(overview.value.runningJobs.map((job) => [job.id, job]));
    stopListening = listenToSite(site, {
      event: (event) => runInBackground(onEvent(event)),
      connected: () => runInBackground(catchUp()),
      back: () => runInBackground(refresh()),
    });
    runInBackground(loadChanges());
  }

  /** What happened between reading how the site stands and hearing of it was not heard. */
  async function catchUp(): Promise<void> {
    const site = id.value;
    const before = JSON.stringify(overview.value);
    if (site === undefined) return;
    const next = await call(sitesApi.overview, { params: { site } });
    if (id.value !== site) return;
    // A job that ended in between is never heard of again; one that began is told with its next step.
    const running = new Set(next.runningJobs.map(({ id: job }) => job));
    if ([...jobs.value.keys()].some((job) => !running.has(job)))
      jobs.value = new Map([...jobs.value].filter(([job]) => running.has(job)));
    if (JSON.stringify(next) !== before) await refresh();
  }

  function close(): void {
    stopListening?.();
    stopListening = undefined;
    overview.value = undefined;
    changes.value = undefined;
    jobs.value = new Map();
  }

  /** Reads how the site stands. @returns false where another one, or none, is open by then */
  async function readOverview(): Promise<boolean> {
    const site = id.value;
    if (site === undefined) return false;
    const asked = (overviewAsked += 1);
    const next = await call(sitesApi.overview, { params: { site } });
    if (id.value !== site) return false;
    // An answer that comes after that to a later question is older than what is shown.
    if (asked < overviewShown) return true;
    overviewShown = asked;
    overview.value = next;
    return true;
  }

  async function refresh(): Promise<void> {
    if (!(await readOverview())) return;
    outdate('draft');
    await loadChanges();
  }

  async function refreshAddress(): Promise<void> {
    if (await readOverview()) outdate('address');
  }

  async function refreshSnags(): Promise<void> {
    if (!(await readOverview())) return;
    outdate('snags');
    if (changes.value === undefined) await loadChanges();
  }

  async function loadChanges(): Promise<void> {
    const site = id.value;
    if (site === undefined || (overview.value?.files ?? 0) === 0) return;
    const asked = (changesAsked += 1);
    const next = await call(releasesApi.changes, { params: { site } }).catch((error: unknown) => {
      notices.problem(error);
      return undefined;
    });
    // Only the answer to the latest question counts; an older one may arrive after it.
    if (next && asked === changesAsked && id.value === site) changes.value = next;
  }

  async function onEvent(event: Parameters<Parameters<typeof listenToSite>[1]['event']>[0]): Promise<void> {
    if (event.kind === 'job') {
      const { job } = event;
      const ended = job.state !== 'waiting' && job.state !== 'running';
      const next = new Map(jobs.value);
      if (ended) next.delete(job.id);
      else next.set(job.id, job);
      jobs.value = next;
      if (ended && job.kind === 'certificate') await refreshAddress();
      else if (
        ended &&
        job.kind !== 'compile' &&
        job.kind !== 'pictures' &&
        job.kind !== 'inspect' &&
        job.kind !== 'suggest'
      )
        await refresh();
      // The first import that fails is told where its pages would stand.
      if (ended && job.error && (job.kind !== 'import' || (overview.value?.files ?? 0) > 0))
        notices.problem(errorFrom(job.error));
    } else if (event.kind === 'address') {
      await refreshAddress();
    } else if (event.kind === 'redirects') {
      if (await readOverview()) outdate('redirects');
    } else if (event.kind === 'notice') {
      outdate('notices');
    } else if (event.kind === 'watch') {
      if (await readOverview()) outdate('watch');
    } else if (event.kind === 'pictures') {
      outdate('pictures');
    } else if (event.kind === 'snags') {
      await refreshSnags();
    } else {
      if (event.kind === 'draft' && event.by !== '' && event.by !== session.person?.name)
        notices.done(say('site.changedTheDraft', { by: event.by }));
      await refresh();
    }
  }

  /** Changes the draft; where somebody else changed the same, it is refused, what changed is shown, and what was typed stays. */
  async function decide(act: Act): Promise<boolean> {
    return (await make(act)) !== undefined;
  }

  /** The same, for decisions that bring something into being: its id, or an empty text for those that do not. */
  async function make(act: Act): Promise<string | undefined> {
    const made = await steps.inTurn(() => makeNow(act), typeof act === 'function');
    if (made !== undefined) await steps.shown();
    return made;
  }

  async function makeNow(act: Act): Promise<string | undefined> {
    const site = id.value;
    // What depends on what is shown is made when its turn comes, from what is shown then.
    const decision = typeof act === 'function' ? act() : act;
    if (site === undefined || site !== id.value || decision === undefined || overview.value === undefined)
      return undefined;
    try {
      const { message, made } = await call(draftApi.decide, {
        params: { site },
        body: { version: overview.value.version, decision },
      });
      // Told when it is shown; the next step need not wait for that.
      steps.showing(
        refresh()
          .catch(notices.problem)
          .then(() => tell(decision, message)),
      );
      return made ?? '';
    } catch (error) {
      notices.problem(error);
      if (error instanceof DomainError && (error.code === 'draft-stale' || error.code === 'same-changed'))
        await refresh();
      return undefined;
    }
  }

  function tell({ kind }: DecisionRequest, message: DecisionMessage): void {
    if (kind === 'step' || kind === 'undo') notices.done(speak(message));
    else
      notices.done(speak(message), {
        label: say('common.undo'),
        run: () => runInBackground(decide({ kind: 'step', direction: 'back' })),
      });
  }

  async function cancel(job: string): Promise<void> {
    await call(jobsApi.cancel, { params: { job } }).catch(notices.problem);
  }

  const runningJob = (kind: Job['kind']) => computed(() => [...jobs.value.values()].find((job) => job.kind === kind));
  return {
    id,
    overview,
    changes,
    liveNumber,
    versions,
    jobs,
    open,
    close,
    refresh,
    refreshSnags,
    loadChanges,
    decide,
    make,
    isBusy: steps.isBusy,
    cancel,
    noteReading: steps.noteReading,
    importing: runningJob('import'),
    publishing: runningJob('publish'),
    certifying: runningJob('certificate'),
    compiling: runningJob('compile'),
    inspecting: runningJob('inspect'),
    rehearsing: runningJob('rehearse'),
  };
});
