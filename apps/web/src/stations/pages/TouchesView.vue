<script setup lang="ts">
/** Every touch made here: what it does, where it stands, and whether its place is still there after a newer export. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { pagesApi, type TouchRow } from '@fastigium/contracts/api/pages';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import StationLayout from '../../components/StationLayout.vue';
import { count, when } from '../../logic/format.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { speak } from '../../words.ts';

const props = defineProps<{ pages: readonly PageRow[] }>();
const GRID = 'minmax(0, 5fr) minmax(0, 3fr) minmax(0, 2fr)';
const site = useSite();
const session = useSession();
const touches = shallowRef<readonly TouchRow[]>([]);
const search = ref('');
const selected = ref<string>();
const benchOpen = ref(false);

useReadAgain(async (id) => {
  touches.value = await call(pagesApi.touches, { params: { site: id } });
});

const rows = computed(() =>
  touches.value.filter(({ message, where }) =>
    `${speak(message)} ${speak(where)}`.toLowerCase().includes(search.value.toLowerCase()),
  ),
);
watch(
  rows,
  (now) => {
    if (!now.some(({ seq }) => String(seq) === selected.value)) selected.value = now[0] && String(now[0].seq);
  },
  { immediate: true },
);
const row = computed(() => rows.value.find(({ seq }) => String(seq) === selected.value));
const page = computed(() => props.pages.find(({ id }) => id === row.value?.page));
const STANDING = {
  done: 'in place',
  waiting: 'waiting: its place is gone',
  changed: 'waiting: the export changed it',
} as const;
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" :bench-of="selected" bench-label="The selected touch">
    <template #ledger>
      <LedgerHead v-model="search" search-label="Search touches"><slot /></LedgerHead>
      <LedgerColumns :grid="GRID" :columns="[{ label: 'Touch' }, { label: 'Where' }, { label: 'How it stands' }]" />
      <LedgerList
        v-model="selected"
        :items="rows"
        :key-of="(each) => String(each.seq)"
        :row-height="39"
        label="Touches"
        @pick="benchOpen = true"
        @enter="benchOpen = true"
      >
        <template #default="{ item }">
          <div class="cells" :style="{ gridTemplateColumns: GRID }">
            <span class="one-line" :title="speak(item.message)"
              ><KeystoneMark class="mark" :mark="item.state === 'done' ? 'verdigris' : 'ochre'" />{{
                speak(item.message)
              }}</span
            >
            <span class="quiet one-line"
              >{{ speak(item.where) }}{{ item.pages > 1 ? `, ${item.pages} pages` : '' }}</span
            >
            <span class="quiet one-line" :class="{ wait: item.state !== 'done' }">{{ STANDING[item.state] }}</span>
          </div>
        </template>
        <template #empty
          ><p class="empty">
            {{
              search !== ''
                ? 'No touch holds these letters.'
                : 'Nothing was touched yet. Choose a page, then point at what is to change.'
            }}
          </p></template
        >
      </LedgerList>
    </template>
    <template #bench>
      <template v-if="row">
        <h1 class="title-face">A touch</h1>
        <p class="words">{{ speak(row.message) }}</p>
        <p class="quiet">{{ speak(row.where) }}; {{ count(row.places, 'place') }} in {{ count(row.pages, 'page') }}</p>
        <p class="quiet">by {{ row.by }}, {{ when(row.at, new Date()) }}</p>
        <p v-if="row.state !== 'done'" class="wait">
          {{
            row.state === 'changed'
              ? 'In the newer export something else stands in its place. Look at the page, then point at it anew, or take the touch away.'
              : 'Its place is in no page of the import any more. It waits: should the place come back, it is done again by itself.'
          }}
        </p>
        <RouterLink
          v-if="page"
          class="text-link"
          :to="{ name: 'pages', params: { page: page.id }, query: { point: '1' } }"
          >Point at it in “{{ page.label }}”</RouterLink
        >
        <template v-if="session.mayEdit"
          ><hr class="rule" />
          <v-btn @click="site.decide({ kind: 'touch-removed', of: row.seq })">Take the touch away</v-btn></template
        >
      </template>
      <template v-else>
        <h1 class="title-face">Touches</h1>
        <p class="quiet">
          A text corrected, a picture swapped, a link led elsewhere: each change to what a page says is listed here with
          its places, and is kept when a newer export comes in.
        </p>
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
.words {
  overflow-wrap: anywhere;
}
.wait {
  color: var(--ochre-dark);
}
p {
  margin: 4px 0 8px;
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
</style>
