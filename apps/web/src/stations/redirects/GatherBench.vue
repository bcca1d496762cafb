<script setup lang="ts">
/** Bringing in old addresses: files, pasted text, or asked for from outside. */
import { redirectsApi, type Gathering } from '@fastigium/contracts/api/redirects';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import JobProgress from '../../components/JobProgress.vue';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { useSite } from '../../stores/site.ts';
import ColumnMatch from './ColumnMatch.vue';
import { useGathering } from './gathering.ts';
import OldDomains from './OldDomains.vue';
import { SOURCE_WORDS } from '../shared/settling/sources.ts';
import { explain, speak } from '../../words/index.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const props = defineProps<{ /** Grows when old addresses changed. */ tick: number }>();
defineEmits<{ leave: [] }>();
const site = useSite();
const pasted = ref('');
const source = ref<'sitemap' | 'index' | 'crawl'>('sitemap');
const address = ref('');
const domain = ref('');
const past = shallowRef<Gathering[]>([]);
const isOver = ref(false);
const searchIndex = ref<string | null>(null);
const domains = ref<string[]>([]);
/** Whose addresses those without a host are; empty for the site itself. */
const whose = ref('');
const { busy, problem, matching, stop, takeFiles, match, paste, tellOf } = useGathering(() =>
  whose.value === '' ? {} : { domain: whose.value },
);
// The index's address may come in after it was chosen as the source.
watch([source, searchIndex], ([now, index]) => {
  if (now === 'index' && address.value === '' && index !== null) address.value = index;
  else if (now !== 'index' && address.value === index) address.value = '';
});
const job = computed(() => [...site.jobs.values()].find(({ kind }) => kind === 'gather'));
const HINTS = {
  sitemap: say('gatherBench.theAddressOfASitemap'),
  index: say('gatherBench.theAddressOfASearch'),
  crawl: say('gatherBench.theOldSiteIsGone'),
} as const;

async function readDomains(): Promise<void> {
  if (site.id === undefined) return;
  domains.value = await call(redirectsApi.oldDomains, { params: { site: site.id } });
  if (!domains.value.includes(whose.value)) whose.value = '';
}
watch(
  [() => site.id, () => props.tick],
  async () => {
    if (site.id === undefined) return;
    runInBackground(readDomains());
    const so = await call(redirectsApi.gatherings, { params: { site: site.id } });
    [past.value, searchIndex.value] = [so.done, so.searchIndex];
    tellOf(so.done);
  },
  { immediate: true },
);

async function takePasted(): Promise<void> {
  if (await paste(pasted.value)) pasted.value = '';
}

async function fetchThem(): Promise<void> {
  const id = site.id;
  if (id === undefined || address.value.trim() === '') return;
  problem.value = '';
  try {
    await call(redirectsApi.fetched, {
      params: { site: id },
      body: {
        source: source.value,
        address: address.value,
        ...(source.value === 'index' ? { domain: domain.value } : {}),
      },
    });
  } catch (error) {
    problem.value = explain(error);
  }
}

function onDrop(event: DragEvent): void {
  isOver.value = false;
  runInBackground(takeFiles([...(event.dataTransfer?.files ?? [])]));
}

function onChoose(event: Event): void {
  const input = event.target as HTMLInputElement;
  const files = [...(input.files ?? [])];
  input.value = '';
  runInBackground(takeFiles(files));
}
</script>

<template>
  <h1 class="title-face">{{ say('gatherBench.bringInOldAddresses') }}</h1>
  <p class="quiet">
    {{ say('gatherBench.fromWhereverTheyAreStill') }}
  </p>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <JobProgress
    v-if="job"
    class="job"
    :job="job"
    :waiting="say('common.waitingToBegin')"
    :can-cancel="true"
    @cancel="site.cancel(job.id)"
  />
  <ColumnMatch
    v-if="matching"
    :key="matching.file.name"
    :name="matching.file.name"
    :table="matching.table"
    @match="match"
    @leave="match()"
  />
  <template v-else>
    <hr class="rule" />
    <label v-if="domains.length > 0" class="whose"
      >{{ say('gatherBench.addressesWithoutADomainAre') }}
      <select v-model="whose">
        <option value="">{{ say('gatherBench.thisSite') }}</option>
        <option v-for="each in domains" :key="each" :value="each">{{ each }}</option>
      </select></label
    >
    <h2 class="heading">
      {{ say('common.files') }} <span class="quiet">{{ say('gatherBench.accessLogsSitemapsTablesListings') }}</span>
    </h2>
    <label
      class="drop"
      :class="{ over: isOver }"
      @dragover.prevent="isOver = true"
      @dragleave="isOver = false"
      @drop.prevent="onDrop"
    >
      <input class="visually-hidden" type="file" multiple data-testid="old-files" @change="onChoose" />
      <span v-if="busy"
        >{{ busy }} …{{ ' '
        }}<button v-if="stop" class="text-link" type="button" @click.prevent="stop()">
          {{ say('gatherBench.stop') }}
        </button></span
      ><span v-else><RichWords :words="say.parts('gatherBench.dropThemHereOrChoose')" /></span>
    </label>
    <h2 class="heading next">
      {{ say('gatherBench.pasted') }} <span class="quiet">{{ say('gatherBench.linesTextOrAPages') }}</span>
    </h2>
    <form @submit.prevent="takePasted">
      <textarea
        v-model="pasted"
        class="address"
        rows="4"
        :aria-label="say('common.oldAddresses')"
        placeholder="/visit.php?id=3&#10;https://www.old-site.example/news/"
        maxlength="2000000"
        @keydown.ctrl.enter.prevent="takePasted"
      />
      <v-btn type="submit" height="32" :disabled="pasted.trim() === '' || busy !== ''">{{
        say('gatherBench.takeThem')
      }}</v-btn>
    </form>
    <h2 class="heading next">{{ say('gatherBench.askedFor') }}</h2>
    <form class="asked" @submit.prevent="fetchThem">
      <SegmentedChoice
        v-model="source"
        :label="say('gatherBench.whereToAsk')"
        :options="[
          { value: 'sitemap', label: say('gatherBench.sitemap') },
          { value: 'index', label: say('gatherBench.searchIndex') },
          { value: 'crawl', label: say('gatherBench.theOldSite') },
        ]"
      />
      <p class="quiet">{{ HINTS[source] }}</p>
      <LabelledField
        v-model="address"
        class="address"
        :label="say('common.address')"
        :placeholder="
          source === 'sitemap'
            ? 'old-site.example/sitemap.xml'
            : source === 'index'
              ? 'search.example/opensearch.xml'
              : 'old-site.example'
        "
        maxlength="2000"
      />
      <LabelledField
        v-if="source === 'index'"
        v-model="domain"
        class="address"
        :label="say('gatherBench.domainToList')"
        placeholder="old-site.example"
        maxlength="253"
      />
      <v-btn
        type="submit"
        height="32"
        :disabled="job !== undefined || address.trim() === '' || (source === 'index' && domain.trim() === '')"
        >{{ say('gatherBench.ask') }}</v-btn
      >
    </form>
  </template>
  <OldDomains v-if="!matching" :domains="domains" @changed="readDomains" />
  <template v-if="past.length > 0">
    <hr class="rule" />
    <h2 class="heading">{{ say('gatherBench.soFar') }}</h2>
    <ul>
      <li v-for="each in past" :key="each.id">
        <span class="one-line" :title="each.name"
          ><b>{{ SOURCE_WORDS[each.source] }}</b> <span class="address">{{ each.name }}</span></span
        >
        <span class="quiet">{{
          say('gatherBench.readNewBy', { read: each.read, fresh: each.fresh, name: each.by.name })
        }}</span>
        <span v-if="each.leftOut > 0" class="quiet">{{
          say('gatherBench.countedAndNotKept', { leftOut: each.leftOut })
        }}</span>
        <details v-if="each.notRead > 0">
          <summary class="caution">{{ say('gatherBench.linesNotTaken', { notRead: each.notRead }) }}</summary>
          <p v-for="line in each.problems" :key="line.line" class="quiet">
            {{ say('gatherBench.line', { line: line.line }) }} <span class="address">{{ line.text }}</span>,
            {{ speak(line.why) }}.
          </p>
        </details>
      </li>
    </ul>
  </template>
  <div class="acts">
    <v-btn height="32" @click="$emit('leave')">{{ say('common.backToTheList') }}</v-btn>
  </div>
</template>

<style scoped>
.job {
  margin-block-start: 10px;
}
p {
  margin: 4px 0;
}
.whose {
  display: flex;
  gap: 8px;
  align-items: center;
  font-size: 13px;
  margin-bottom: 10px;
}
select {
  font: inherit;
  font-size: 13px;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 3px 6px;
}
.drop {
  display: block;
  border: 1px dashed var(--stone-5);
  border-radius: 3px;
  padding: 18px 12px;
  text-align: center;
  cursor: pointer;
  color: var(--ink-7);
}
.drop:hover,
.drop.over {
  border-color: var(--lapis);
  background: var(--lapis-tint);
}
.drop:focus-within {
  outline: 2px solid var(--lapis);
  outline-offset: 1px;
}
.next {
  margin-top: 16px;
}
textarea {
  margin-block-end: 6px;
}
.asked {
  display: grid;
  gap: 8px;
}
.asked > .v-btn {
  justify-self: start;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  border-bottom: var(--line);
  padding: 6px 0;
  display: grid;
}
.caution {
  color: var(--ochre-dark);
  font-size: 12px;
  cursor: pointer;
}
.acts {
  margin-top: 16px;
}
</style>
