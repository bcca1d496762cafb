<script setup lang="ts">
/** Publish: what visitors will notice, what will be sent, the releases. */
import { releasesApi, type Change, type Release } from '@fastigium/contracts/api/releases';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import LedgerList from '../../components/LedgerList.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import StationLayout from '../../components/StationLayout.vue';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSite } from '../../stores/site.ts';
import { useNotices } from '../../stores/notices.ts';
import ChangeEvidence from './ChangeEvidence.vue';
import ChangeLine from './ChangeLine.vue';
import type { Two } from './compared.ts';
import ComparedReleases from './ComparedReleases.vue';
import { listPeople, useCauses } from './causes.ts';
import { groupChanges, groupByPerson, isHeading, type LedgerItem } from './grouped.ts';
import ReleaseBench from './ReleaseBench.vue';
import { say } from './words.ts';

const site = useSite();
const releases = shallowRef<Release[]>([]);
const selected = ref<string>();
const benchOpen = ref(false);
const notices = useNotices();
/** Two releases instead of live and draft. */
const two = ref<Two>();
const compared = shallowRef<readonly Change[]>();

useReadAgain(async (id) => {
  releases.value = await call(releasesApi.list, { params: { site: id } });
});

watch(two, async (now) => {
  compared.value = undefined;
  if (!now || site.id === undefined) return;
  try {
    const { changes } = await call(releasesApi.compare, { params: { site: site.id }, query: { ...now } });
    if (two.value === now) compared.value = changes;
  } catch (error) {
    notices.problem(error);
    two.value = undefined;
  }
});
const changes = computed(() => (two.value ? (compared.value ?? []) : (site.changes?.changes ?? [])));
const causes = useCauses();
const by = ref<'kind' | 'person'>('kind');
/** Decisions are known between live and draft alone. */
const listPeopleOf = (item: LedgerItem) => (two.value || isHeading(item) ? [] : listPeople(causes.causesOf(item)));
const items = computed<LedgerItem[]>(() =>
  by.value === 'person' && !two.value ? groupByPerson(changes.value, listPeopleOf) : groupChanges(changes.value),
);
const change = computed<Change | undefined>(() => changes.value.find(({ key }) => key === selected.value));
/** With the live one; the live one itself with what was live before it. */
function compare(number: number): void {
  const live = site.overview?.live?.number ?? number;
  const before = releases.value.find((each) => each.number < live && each.state === 'past')?.number ?? live;
  two.value =
    number === live ? { before, after: live } : { before: Math.min(number, live), after: Math.max(number, live) };
}
watch(
  items,
  (now) => {
    if (!now.some((item) => item.key === selected.value)) selected.value = now.find((item) => !isHeading(item))?.key;
  },
  { immediate: true },
);
const title = computed(() => {
  if (!site.changes) return say('publishStation.reckoningWhatVisitorsWillNotice');
  if (site.changes.sinceRelease === null) return say('publishStation.whatVisitorsWillNoticeThe');
  const n = site.changes.changes.length;
  return n === 0
    ? say('publishStation.liveAndDraftAreThe', { sinceRelease: site.changes.sinceRelease })
    : say('publishStation.whatVisitorsWillNoticeChanges', { n, sinceRelease: site.changes.sinceRelease });
});
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" :bench-label="say('publishStation.theNextRelease')">
    <template #ledger>
      <ComparedReleases
        v-if="two"
        v-model="two"
        :releases="releases"
        :changes="compared?.length"
        @leave="two = undefined"
      />
      <div v-else class="head">
        <h1 class="strong">{{ title }}</h1>
        <SegmentedChoice
          v-if="causes.causes.length > 0 && changes.length > 1"
          v-model="by"
          :label="say('publishStation.grouped')"
          :options="[
            { value: 'kind', label: say('publishStation.byKind') },
            { value: 'person', label: say('publishStation.byPerson') },
          ]"
        />
        <button class="text-link to-bench" type="button" @click="benchOpen = true">
          {{ say('publishStation.toTheRelease') }}
        </button>
      </div>
      <LedgerList
        v-model="selected"
        :items="items"
        :key-of="(item) => item.key"
        :is-heading="isHeading"
        :row-height="38"
        :label="say('publishStation.changes')"
        @pick="benchOpen = true"
        @enter="benchOpen = true"
      >
        <template #default="{ item }"
          ><ChangeLine
            :item="item"
            :people="by === 'person' ? [] : listPeopleOf(item)"
            :is-out="!two && !isHeading(item) && causes.isLeftOut(item)"
        /></template>
        <template #empty>
          <p v-if="two" class="empty">{{ compared ? say('publishStation.visitorsGotTheSameFrom') : '' }}</p>
          <p v-else class="empty">
            {{
              site.compiling
                ? say('publishStation.theDraftIsBeingCompiled')
                : site.changes
                  ? say('publishStation.changeSomethingInPagesOr')
                  : ''
            }}
          </p>
        </template>
      </LedgerList>
      <ChangeEvidence
        v-if="change && (!two || change.key.startsWith('file:'))"
        :key="`${change.key} ${two?.before} ${two?.after}`"
        :change="change"
        :two="two"
      />
    </template>
    <template #bench><ReleaseBench :releases="releases" @compare="compare" /></template>
  </StationLayout>
</template>

<style scoped>
.head {
  display: flex;
  align-items: center;
  min-height: 46px;
  padding-inline: 20px;
  border-bottom: var(--line);
  gap: 16px;
}
h1 {
  font-size: 14px;
  margin: 0;
  flex: 1;
}
.to-bench {
  display: none;
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
@media (max-width: 999px) {
  .to-bench {
    display: block;
  }
}
</style>
