/** Bringing in files and pasted text: one after another, what is large as a job, tables only once their columns are matched. */
import { redirectsApi, type Gathered, type Gathering } from '@fastigium/contracts/api/redirects';
import { ref, shallowRef, type Ref, type ShallowRef } from 'vue';
import { sendFile } from '../../api/asset.ts';
import { call } from '../../api/client.ts';
import { sendLargeFile } from '../../api/upload.ts';
import { reckonPercent } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { explain } from '../../words/index.ts';
import { say } from './words.ts';

/** On its way for longer than a moment: how far it is is told, and it can be stopped. */
const LARGE_BYTES = 1024 * 1024; // 1 MiB

export interface GatheringFiles {
  /** What is being brought in now; empty where nothing is. */
  readonly busy: Readonly<Ref<string>>;
  readonly problem: Ref<string>;
  /** A table waits here until a person has matched its columns. */
  readonly matching: Readonly<
    ShallowRef<{ readonly file: File; readonly table: Extract<Gathered, { state: 'columns' }> } | undefined>
  >;
  /** Stops what is being sent; undefined while nothing large is. */
  readonly stop: Readonly<ShallowRef<(() => void) | undefined>>;
  takeFiles(files: readonly File[]): Promise<void>;
  /** With the columns as they were matched; without them, the table is left out. */
  match(how?: Readonly<Record<string, string>>): Promise<void>;
  /** @returns whether it was taken */
  paste(text: string): Promise<boolean>;
  /** Says what came of a job that was waited for, once it stands among what was gathered. */
  tellOf(past: readonly Gathering[]): void;
}

/** @param readDomain whose addresses those without a host are, as the server takes it */
export function useGathering(readDomain: () => { domain?: string }): GatheringFiles {
  const site = useSite();
  const notices = useNotices();
  const busy = ref('');
  const problem = ref('');
  const matching = shallowRef<{ file: File; table: Extract<Gathered, { state: 'columns' }> }>();
  const waiting = shallowRef<readonly File[]>([]);
  const stop = shallowRef<() => void>();
  const awaited = new Set<string>();

  const tellTaken = ({ read, fresh }: { read: number; fresh: number }) =>
    notices.done(say('gathering.oldAddressesReadOfThem', { read, fresh }));

  async function tell(work: () => Promise<Gathered>): Promise<Gathered | undefined> {
    problem.value = '';
    try {
      const gathered = await work();
      if (gathered.state === 'taken') tellTaken(gathered);
      else if (gathered.state === 'taking') awaited.add(gathered.job);
      return gathered;
    } catch (error) {
      problem.value = explain(error);
      return undefined;
    } finally {
      busy.value = '';
      stop.value = undefined;
    }
  }

  function send(id: string, file: File, query: Record<string, string>): Promise<Gathered> {
    if (file.size <= LARGE_BYTES) return sendFile(redirectsApi.file, { site: id }, query, file);
    const stopping = new AbortController();
    stop.value = () => stopping.abort();
    return sendLargeFile(redirectsApi.file, { site: id }, query, file, {
      signal: stopping.signal,
      progress: (sent, total) => {
        busy.value =
          sent < total
            ? say('gathering.sending', { name: file.name, percent: reckonPercent(sent, total) })
            : say('gathering.reading', { name: file.name });
      },
    });
  }

  async function takeOne(file: File, how: Readonly<Record<string, string>>): Promise<void> {
    const { id } = site;
    if (id === undefined) return;
    busy.value = say('gathering.reading', { name: file.name });
    const gathered = await tell(() => send(id, file, { fileName: file.name, ...how, ...readDomain() }));
    if (gathered?.state === 'columns') matching.value = { file, table: gathered };
  }

  /** The first table that has to be matched stops the rest and loses none. */
  async function takeFiles(files: readonly File[]): Promise<void> {
    waiting.value = [...waiting.value, ...files];
    while (waiting.value.length > 0 && !matching.value) {
      const [file, ...rest] = waiting.value;
      waiting.value = rest;
      if (file) await takeOne(file, {});
    }
  }

  return {
    busy,
    problem,
    matching,
    stop,
    takeFiles,
    async match(how) {
      const file = matching.value?.file;
      matching.value = undefined;
      if (file && how) await takeOne(file, how);
      await takeFiles([]);
    },
    async paste(text) {
      const { id } = site;
      if (id === undefined || text.trim() === '') return false;
      busy.value = say('gathering.readingWhatWasPasted');
      const body = { text, ...readDomain() };
      return (await tell(() => call(redirectsApi.paste, { params: { site: id }, body }))) !== undefined;
    },
    tellOf(past) {
      for (const each of past) if (each.job !== null && awaited.delete(each.job)) tellTaken(each);
    },
  };
}
