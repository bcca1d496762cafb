<script setup lang="ts">
/** Pages that say the same in several languages: recognised, and corrected by hand. */
import type { Metadata, MetadataRow } from '@fastigium/contracts/api/metadata';
import { computed, ref, watch } from 'vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import LedgerColumns from '../../components/LedgerColumns.vue';
import LedgerHead from '../../components/LedgerHead.vue';
import LedgerList from '../../components/LedgerList.vue';
import StationLayout from '../../components/StationLayout.vue';
import { useSession } from '../../stores/session.ts';
import { nameLanguage, groupTranslations, type TranslationRow } from './languages.ts';
import { useSetHead } from './metadata.ts';
import { findSetting } from './site/settings.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const props = defineProps<{ metadata: Metadata }>();
const session = useSession();
const set = useSetHead();
const search = ref('');
const benchOpen = ref(false);
const selected = ref<string>();
const chosen = ref<Record<string, string>>({});
const first = computed(() => props.metadata.languages[0] ?? '');
const others = computed(() => props.metadata.languages.slice(1));
const grid = computed(() => ['minmax(0, 3fr)', ...others.value.map(() => 'minmax(0, 3fr)')].join(' '));
const rows = computed(() =>
  groupTranslations(props.metadata).filter(({ pages }) =>
    `${[...pages.values()].map(({ label, address }) => `${label} ${address}`).join(' ')}`
      .toLowerCase()
      .includes(search.value.toLowerCase()),
  ),
);
watch(
  rows,
  (now) => {
    if (!now.some(({ key }) => key === selected.value)) selected.value = now[0]?.key;
  },
  { immediate: true },
);
const row = computed(() => rows.value.find(({ key }) => key === selected.value));
watch(
  () => row.value?.key,
  () => (chosen.value = {}),
);
const isOn = computed(() => findSetting(props.metadata, 'alternates')?.text === 'on');
const whole = computed(() => rows.value.filter(({ pages }) => pages.size === props.metadata.languages.length).length);

/** Pages of a language that stand alone so far. */
const listFree = (language: string): MetadataRow[] =>
  props.metadata.rows.filter(
    (each) =>
      each.language.text === language && !props.metadata.groups.some((group) => group.some(({ id }) => id === each.id)),
  );
const findOriginal = (of: TranslationRow): MetadataRow | undefined =>
  of.pages.get(first.value) ?? [...of.pages.values()][0];

function partPage(page: MetadataRow): void {
  runInBackground(set([{ scope: { kind: 'page', page: page.id }, name: 'translates', text: false }]));
}

function join(of: TranslationRow, language: string): void {
  const to = findOriginal(of);
  const page = chosen.value[language];
  if (to && page !== undefined && page !== '')
    runInBackground(set([{ scope: { kind: 'page', page }, name: 'translates', text: to.id }]));
}
</script>

<template>
  <StationLayout
    v-model:bench-open="benchOpen"
    :bench-of="selected"
    :bench-label="say('languagesView.theSelectedPageInIts')"
  >
    <template #ledger>
      <LedgerHead v-model="search" :search-label="say('common.searchPages')"><slot /></LedgerHead>
      <LedgerColumns
        :grid="grid"
        :columns="metadata.languages.map((tag) => ({ label: `${nameLanguage(tag)} (${tag})` }))"
      />
      <LedgerList
        v-model="selected"
        :items="rows"
        :key-of="(each) => each.key"
        :row-height="46"
        :label="say('languagesView.pagesByLanguage')"
        @pick="benchOpen = true"
        @enter="benchOpen = true"
      >
        <template #default="{ item }">
          <div class="cells" :style="{ gridTemplateColumns: grid }">
            <span v-for="tag in metadata.languages" :key="tag" class="cell">
              <template v-if="item.pages.get(tag)"
                ><span class="one-line">{{ item.pages.get(tag)?.label }}</span
                ><span class="address quiet one-line">{{ item.pages.get(tag)?.address }}</span></template
              >
              <span v-else class="quiet missing"><KeystoneMark mark="dashed" />{{ say('common.none') }}</span>
            </span>
          </div>
        </template>
        <template #empty
          ><p class="empty">{{ say('languagesView.noPageSaysItsLanguage') }}</p></template
        >
      </LedgerList>
    </template>
    <template #bench>
      <h1 class="title-face">{{ say('languagesView.languages') }}</h1>
      <p v-if="others.length === 0" class="quiet">{{ say('languagesView.everyPageIsInOne') }}</p>
      <template v-else>
        <p>
          {{
            say('languagesView.ofPagesInAllLanguages', {
              whole,
              rows: rows.length,
              others: others.length,
              languages: metadata.languages.length,
              isOn,
            })
          }}
        </p>
        <v-btn
          v-if="session.mayEdit"
          :variant="isOn ? 'outlined' : 'flat'"
          :color="isOn ? undefined : 'primary'"
          @click="set([{ scope: { kind: 'everywhere' }, name: 'alternates', text: isOn ? null : 'on' }])"
          >{{ isOn ? say('languagesView.stopLinkingThem') : say('languagesView.linkThemToEachOther') }}</v-btn
        >
        <p v-if="metadata.origin === null" class="wait">
          {{ say('languagesView.theseLinksNeedWholeAddresses') }}
        </p>
        <hr class="rule" />
      </template>
      <template v-if="row && others.length > 0">
        <div v-for="tag in metadata.languages" :key="tag" class="language">
          <h2 class="heading">
            {{ nameLanguage(tag)
            }}<span class="quiet">{{ say('languagesView.forEverybodyElseToo', { tag, isTag: tag === first }) }}</span>
          </h2>
          <template v-if="row.pages.get(tag)">
            <p>
              {{ row.pages.get(tag)?.label }}<br /><span class="address quiet">{{ row.pages.get(tag)?.address }}</span>
            </p>
            <button
              v-if="session.mayEdit && row.pages.size > 1"
              class="text-link"
              type="button"
              @click="partPage(row.pages.get(tag) as MetadataRow)"
            >
              {{ say('languagesView.thisIsNoTranslation') }}
            </button>
          </template>
          <form v-else-if="session.mayEdit" class="join" @submit.prevent="join(row, tag)">
            <select v-model="chosen[tag]" :aria-label="say('languagesView.pageIn', { tag: nameLanguage(tag) })">
              <option :value="undefined">
                {{
                  listFree(tag).length === 0 ? say('languagesView.everyPageHasItsPlace') : say('languagesView.noneYet')
                }}
              </option>
              <option v-for="each in listFree(tag)" :key="each.id" :value="each.id">
                {{ each.label }} · {{ each.address }}
              </option>
            </select>
            <v-btn type="submit" height="30" :disabled="!chosen[tag]">{{ say('languagesView.putTogether') }}</v-btn>
          </form>
        </div>
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
  line-height: 18px;
}
.cell {
  display: grid;
  min-width: 0;
}
.cell .address {
  font-size: 11px;
}
.missing {
  display: flex;
  gap: 6px;
  align-items: center;
}
.empty {
  padding: 20px;
  margin: 0;
  color: var(--ink-5);
}
p {
  margin: 6px 0 10px;
}
.wait {
  color: var(--ochre-dark);
}
.language {
  margin-bottom: 16px;
}
.join {
  display: flex;
  gap: 8px;
}
select {
  font: inherit;
  font-size: 13px;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 3px 4px;
  min-width: 0;
  flex: 1;
}
</style>
