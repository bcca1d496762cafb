<script setup lang="ts">
/** What kept releases had and today's draft has not, or has otherwise: beside today's, and to be taken. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { removalsApi, type ReleaseThing, type ReleaseThingDetail } from '@fastigium/contracts/api/removals';
import { releasesApi, type Release } from '@fastigium/contracts/api/releases';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../../api/client.ts';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import LedgerColumns from '../../../components/LedgerColumns.vue';
import LedgerHead from '../../../components/LedgerHead.vue';
import LedgerList from '../../../components/LedgerList.vue';
import StationLayout from '../../../components/StationLayout.vue';
import { formatWhen } from '../../../logic/format.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useReadAgain } from '../../../stores/readAgain.ts';
import { useSite } from '../../../stores/site.ts';
import { useWorld } from '../../../stores/world.ts';
import ReleaseThingBench from './ReleaseThingBench.vue';
import { say } from '../words.ts';

defineProps<{ pages: readonly PageRow[]; version: number }>();
const GRID = 'minmax(0, 4fr) minmax(0, 4fr) minmax(0, 3fr)';
const STANDING: Readonly<Record<ReleaseThing['today'], string>> = {
  missing: say('releasesView.notThereToday'),
  removed: say('releasesView.removedCanBePutBack'),
  different: say('releasesView.otherwiseToday'),
};
const world = useWorld();
const site = useSite();
const notices = useNotices();
const releases = shallowRef<readonly Release[]>([]);
const number = ref<number>();
const things = shallowRef<readonly ReleaseThing[]>();
const detail = shallowRef<ReleaseThingDetail>();
const search = ref('');
const selected = ref<string>();
const benchOpen = ref(false);

useReadAgain(async (id) => {
  releases.value = (await call(releasesApi.list, { params: { site: id } })).filter(
    ({ state }) => state === 'live' || state === 'past',
  );
  number.value ??= releases.value[0]?.number;
});
watch(
  [number, () => site.versions.draft],
  async ([wanted]) => {
    if (site.id === undefined || wanted === undefined) return;
    try {
      const next = await call(removalsApi.inRelease, { params: { site: site.id, number: wanted } });
      if (number.value === wanted) things.value = next;
    } catch (error) {
      notices.problem(error);
    }
  },
  { immediate: true },
);

const rows = computed(() =>
  (things.value ?? []).filter(({ label, address }) =>
    `${label} ${address}`.toLowerCase().includes(search.value.toLowerCase()),
  ),
);
watch(
  rows,
  (now) => {
    if (!now.some(({ path }) => path === selected.value)) selected.value = now[0]?.path;
  },
  { immediate: true },
);
watch(
  [selected, rows],
  async ([path]) => {
    if (
      site.id === undefined ||
      path === undefined ||
      number.value === undefined ||
      !rows.value.some((row) => row.path === path)
    ) {
      detail.value = undefined;
      return;
    }
    try {
      const next = await call(removalsApi.thingInRelease, {
        params: { site: site.id, number: number.value },
        query: { path },
      });
      if (selected.value === path) detail.value = next;
    } catch (error) {
      notices.problem(error);
    }
  },
  { immediate: true },
);
</script>

<template>
  <StationLayout
    v-model:bench-open="benchOpen"
    :bench-of="selected"
    :bench-label="say('releasesView.theSelectedThingOfA')"
  >
    <template #ledger>
      <LedgerHead v-model="search" :search-label="say('releasesView.searchTheRelease')">
        <slot />
        <template #after>
          <label v-if="releases.length > 0" class="quiet pick"
            >{{ say('releasesView.release') }}
            <select v-model.number="number" :aria-label="say('releasesView.whichRelease')">
              <option v-for="release in releases" :key="release.number" :value="release.number">
                {{ release.number }}, {{ formatWhen(release.liveAt ?? release.createdAt, world.now) }}
              </option>
            </select></label
          >
        </template>
      </LedgerHead>
      <LedgerColumns
        :grid="GRID"
        :columns="[
          { label: say('releasesView.inTheRelease') },
          { label: say('common.address') },
          { label: say('releasesView.againstTodaysDraft') },
        ]"
      />
      <LedgerList
        v-model="selected"
        :items="rows"
        :key-of="(each) => each.path"
        :row-height="39"
        :label="say('releasesView.thingsInTheRelease')"
        @pick="benchOpen = true"
        @enter="benchOpen = true"
      >
        <template #default="{ item }">
          <div class="cells" :style="{ gridTemplateColumns: GRID }">
            <span class="one-line" :title="item.label"
              ><KeystoneMark class="mark" :mark="item.today === 'different' ? 'ochre' : 'dashed'" />{{
                item.label
              }}</span
            >
            <span class="address one-line" :title="item.address">{{ item.address }}</span>
            <span class="quiet one-line">{{ STANDING[item.today] }}</span>
          </div>
        </template>
        <template #empty
          ><p class="empty">
            {{
              releases.length === 0
                ? say('releasesView.noReleaseIsKeptYet')
                : things === undefined
                  ? say('releasesView.comparing')
                  : search !== ''
                    ? say('releasesView.nothingInThisReleaseHolds')
                    : say('releasesView.releaseAndTodaysDraftAre', { number })
            }}
          </p></template
        >
      </LedgerList>
    </template>
    <template #bench>
      <ReleaseThingBench
        v-if="detail && number !== undefined"
        :key="`${number} ${detail.path}`"
        :thing="detail"
        :release="number"
        :version="version"
      />
      <template v-else>
        <h1 class="title-face">{{ say('releasesView.inReleases') }}</h1>
        <p class="quiet">{{ say('releasesView.anyPageSectionOrFile') }}</p>
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
}
.mark {
  margin-inline-end: 7px;
  vertical-align: -1px;
}
.pick {
  display: flex;
  gap: 6px;
  align-items: center;
}
select {
  font: inherit;
  font-size: 13px;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 3px 4px;
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
  max-width: 60ch;
}
</style>
