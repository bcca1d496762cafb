<script setup lang="ts">
/** Answered now beside needed, for every name of the site; everything else stays as it is. */
import { addressApi, type RecordRowView } from '@fastigium/contracts/api/address';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { useAddress } from './address.ts';
import { formatName } from './records.ts';
import ZoneFile from './ZoneFile.vue';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const { view, standing, zone } = useAddress();
const site = useSite();
const notices = useNotices();
const zoneOpen = ref(false);
const all = computed(() => standing.value?.records ?? []);
const showsAll = ref(false);
/** Mail is always in sight; the rest of what stays as it is can be opened. */
const isQuiet = (row: RecordRowView) => (row.state === 'kept' && row.type !== 'MX') || row.state === 'unneeded';
const hidden = computed(() => all.value.filter(isQuiet));
const rows = computed(() => (showsAll.value ? all.value : all.value.filter((row) => !isQuiet(row))));
/** The zone file is that of the main domain; the others' stay with whoever holds them. */
const isMain = computed(() => zone.value === view.value?.domain?.zone);

async function copyAll(): Promise<void> {
  if (site.id === undefined) return;
  try {
    await navigator.clipboard.writeText((await call(addressApi.zone, { params: { site: site.id } })).text);
    notices.done(say('recordsTable.theZoneFileWithEvery'));
  } catch (error) {
    notices.problem(error);
  }
}
</script>

<template>
  <section>
    <div class="head">
      <h2 class="heading">{{ say('recordsTable.recordsAtTheNameServers') }}</h2>
      <span class="gap" />
      <template v-if="isMain">
        <button class="text-link small" type="button" @click="zoneOpen = true">
          {{ say('recordsTable.zoneFile') }}
        </button>
        <button class="text-link small" type="button" @click="copyAll">{{ say('recordsTable.copyAll') }}</button>
      </template>
    </div>
    <div class="table" role="table" :aria-label="say('recordsTable.records')">
      <div class="row head-row quiet" role="row">
        <span role="columnheader">{{ say('common.name') }}</span><span role="columnheader">{{
          say('recordsTable.type')
        }}</span
        ><span role="columnheader">{{ say('recordsTable.answeredNow') }}</span
        ><span role="columnheader">{{ say('recordsTable.needed') }}</span
        ><span class="figure" role="columnheader">{{ say('recordsTable.ttl') }}</span>
      </div>
      <div v-for="row in rows" :key="`${row.name} ${row.type}`" class="row" role="row">
        <span class="strong address one-line" role="cell" :title="row.name">{{ formatName(row.name, zone) }}</span>
        <span class="address" role="cell">{{ row.type }}</span>
        <span
          class="address data"
          role="cell"
          :class="{ wrong: ['wrong', 'missing', 'in-the-way'].includes(row.state) }"
        >
          <template v-if="row.answered.length > 0"
            ><span v-for="each in row.answered" :key="each">{{ each }}</span></template
          ><template v-else>{{ say('common.none') }}</template>
        </span>
        <span class="address data" role="cell">
          <span v-if="row.state === 'kept'" class="quiet plain">{{ say('recordsTable.leftAsItIs') }}</span>
          <span v-else-if="row.state === 'unneeded'" class="quiet plain">{{ say('recordsTable.noneNeeded') }}</span>
          <span v-else-if="row.needed?.length === 0" class="plain">{{ say('recordsTable.mustGo') }}</span>
          <span v-else-if="row.state === 'right'" class="right plain">{{ say('recordsTable.right') }}</span>
          <template v-else
            ><span v-for="each in row.needed" :key="each" class="strong">{{ each }}</span></template
          >
          <span v-if="row.note && row.state !== 'unneeded' && row.state !== 'right'" class="quiet plain">{{
            speak(row.note)
          }}</span>
        </span>
        <span class="figure quiet" role="cell">{{ row.answeredTtlSeconds ?? '' }}</span>
      </div>
    </div>
    <p v-if="all.length === 0" class="quiet none">{{ say('recordsTable.noNameServerAnsweredSo') }}</p>
    <button
      v-if="hidden.length > 0"
      class="more text-link"
      type="button"
      :aria-expanded="showsAll"
      @click="showsAll = !showsAll"
    >
      {{
        showsAll
          ? say('recordsTable.showOnlyWhatTheSite')
          : say('recordsTable.moreStayAsTheyAre', {
              hidden: hidden.length,
              hidden2: [...new Set(hidden.map(({ type }) => type))].join(', '),
            })
      }}
    </button>
    <ZoneFile v-if="zoneOpen" @close="zoneOpen = false" />
  </section>
</template>

<style scoped>
.head {
  display: flex;
  align-items: baseline;
  gap: 16px;
  padding: 10px 20px 0;
}
.head .heading {
  margin: 0;
  font-size: 13px;
  color: var(--ink-7);
}
.gap {
  flex: 1;
}
.small {
  font-size: 12px;
}
.row {
  display: grid;
  grid-template-columns: 92px 62px minmax(0, 1.15fr) minmax(0, 1fr) 56px;
  gap: 12px;
  padding: 5px 20px;
  border-bottom: var(--line);
  min-height: 22px;
  align-items: start;
}
.head-row {
  padding-block: 2px;
}
.data {
  display: grid;
  gap: 2px;
}
.none {
  padding: 8px 20px;
  margin: 0;
}
.more {
  font-size: 12px;
  padding: 6px 20px;
}
.plain {
  font-family: var(--face-text);
}
@media (max-width: 699px) {
  .row {
    grid-template-columns: 44px 54px minmax(0, 1fr) minmax(0, 1fr);
    gap: 8px;
    padding-inline: 12px;
  }
  .row > .figure {
    display: none;
  }
}
</style>
