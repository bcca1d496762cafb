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
import { formatWhen } from '../../logic/format.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

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
  done: say('touchesView.inPlace'),
  waiting: say('touchesView.waitingItsPlaceIsGone'),
  changed: say('touchesView.waitingTheExportChangedIt'),
} as const;
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" :bench-of="selected" :bench-label="say('touchesView.theSelectedTouch')">
    <template #ledger>
      <LedgerHead v-model="search" :search-label="say('touchesView.searchTouches')"><slot /></LedgerHead>
      <LedgerColumns
        :grid="GRID"
        :columns="[
          { label: say('touchesView.touch') },
          { label: say('common.where') },
          { label: say('touchesView.howItStands') },
        ]"
      />
      <LedgerList
        v-model="selected"
        :items="rows"
        :key-of="(each) => String(each.seq)"
        :row-height="39"
        :label="say('touchesView.touches')"
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
            <span class="quiet one-line">{{
              say('touchesView.pages', { where: speak(item.where), hasPages: item.pages > 1, pages: item.pages })
            }}</span>
            <span class="quiet one-line" :class="{ wait: item.state !== 'done' }">{{ STANDING[item.state] }}</span>
          </div>
        </template>
        <template #empty
          ><p class="empty">
            {{
              search !== ''
                ? say('touchesView.noTouchHoldsTheseLetters')
                : say('touchesView.nothingWasTouchedYetChoose')
            }}
          </p></template
        >
      </LedgerList>
    </template>
    <template #bench>
      <template v-if="row">
        <h1 class="title-face">{{ say('touchesView.aTouch') }}</h1>
        <p class="words">{{ speak(row.message) }}</p>
        <p class="quiet">
          {{ say('touchesView.placesInPages', { where: speak(row.where), places: row.places, pages: row.pages }) }}
        </p>
        <p class="quiet">{{ say('touchesView.by', { by: row.by, at: formatWhen(row.at, new Date()) }) }}</p>
        <p v-if="row.state !== 'done'" class="wait">
          {{
            row.state === 'changed' ? say('touchesView.inTheNewerExportSomething') : say('touchesView.itsPlaceIsInNo')
          }}
        </p>
        <RouterLink
          v-if="page"
          class="text-link"
          :to="{ name: 'pages', params: { page: page.id }, query: { point: '1' } }"
          >{{ say('touchesView.pointAtItIn', { label: page.label }) }}</RouterLink
        >
        <template v-if="session.mayEdit"
          ><hr class="rule" />
          <v-btn @click="site.decide({ kind: 'touch-removed', of: row.seq })">{{
            say('touchesView.takeTheTouchAway')
          }}</v-btn></template
        >
      </template>
      <template v-else>
        <h1 class="title-face">{{ say('touchesView.touches') }}</h1>
        <p class="quiet">
          {{ say('touchesView.aTextCorrectedAPicture') }}
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
