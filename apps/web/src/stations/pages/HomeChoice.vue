<script setup lang="ts">
/** Before a page becomes home: where the one that was goes, and what leads to the front and will lead to the new one. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { pagesApi, type HomePreview } from '@fastigium/contracts/api/pages';
import { useDebounceFn } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import LabelledField from '../../components/LabelledField.vue';
import { count } from '../../logic/format.ts';
import { useSite } from '../../stores/site.ts';
import { explain, speak } from '../../words.ts';
import { inBackground } from '../../stores/background.ts';

const props = defineProps<{ page: PageRow }>();
const emit = defineEmits<{ leave: []; chosen: [] }>();
const site = useSite();
const preview = shallowRef<HomePreview>();
const address = ref<string>();
const problem = ref('');
const working = ref(false);
const MOST_NAMED = 3;

async function read(): Promise<void> {
  if (site.id === undefined) return;
  const wanted = address.value;
  try {
    const body = wanted === undefined || wanted.trim() === '' ? {} : { formerAddress: inside(wanted) };
    const answer = await call(pagesApi.previewHome, { params: { site: site.id, page: props.page.id }, body });
    if (wanted !== address.value) return;
    [preview.value, problem.value] = [answer, ''];
    if (answer.former?.canChoose) address.value ??= answer.former.address;
  } catch (error) {
    if (wanted === address.value) problem.value = explain(error);
  }
}
inBackground(read());
const readSoon = useDebounceFn(read, 250);
watch(address, (now, before) => {
  if (before !== undefined && now !== before) inBackground(readSoon());
});

/** The path the site is under is not the page's own to change. */
function inside(text: string): string {
  const base = site.overview?.basePath ?? '';
  return base !== '' && text.startsWith(`${base}/`) ? text.slice(base.length) : text;
}

const menuItems = computed(() => preview.value?.leading.filter(({ kind }) => kind === 'menu') ?? []);
const links = computed(() => preview.value?.leading.filter(({ kind }) => kind !== 'menu') ?? []);
const wordsFor = ({ kind, label }: HomePreview['leading'][number]) =>
  kind === 'logo' ? (label === '' ? 'The logo' : `The logo “${label}”`) : `“${label || 'a link without words'}”`;
const namesOf = ({ on, pages }: HomePreview['leading'][number]) =>
  on
    .slice(0, MOST_NAMED)
    .map(({ label }) => label)
    .join(', ') + (pages > MOST_NAMED ? ' …' : '');

async function choose(): Promise<void> {
  if (!preview.value || problem.value !== '') return;
  working.value = true;
  const chosen = preview.value.former?.canChoose ? address.value?.trim() : undefined;
  const done = await site.decide({
    kind: 'home',
    page: props.page.id,
    ...(chosen ? { formerAddress: inside(chosen) } : {}),
  });
  working.value = false;
  if (done) emit('chosen');
}
</script>

<template>
  <form v-if="preview" @submit.prevent="choose" @keydown.esc.stop="emit('leave')">
    <h1 class="title-face">“{{ preview.page.label }}” as home page</h1>
    <p>
      It answers at <span class="address">{{ site.overview?.basePath }}/</span> from the next release on.
      <span class="quiet"
        >Its old address <span class="address">{{ preview.page.address }}</span> leads there.</span
      >
    </p>
    <template v-if="preview.former">
      <h2 class="heading">The home page of today</h2>
      <p>“{{ preview.former.label }}” goes on living under an address of its own.</p>
      <LabelledField
        v-if="preview.former.canChoose"
        :model-value="address ?? ''"
        class="address"
        label="Its new address"
        maxlength="2000"
        @update:model-value="address = $event"
      />
      <p v-else class="address">{{ preview.former.address }}</p>
      <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    </template>
    <h2 class="heading">What leads to the front, and will lead to the new home</h2>
    <ul class="facts">
      <li v-for="each in menuItems" :key="`${each.menu && speak(each.menu)} ${each.label}`">
        <KeystoneMark mark="lapis" /><span
          >“{{ each.label }}” in {{ each.menu && speak(each.menu)
          }}<span class="quiet names">on {{ count(each.pages, 'page') }}</span></span
        >
      </li>
      <li v-for="each in links" :key="`${each.kind} ${each.label}`">
        <KeystoneMark mark="lapis" /><span
          >{{ wordsFor(each)
          }}<span class="quiet names">on {{ count(each.pages, 'page') }}: {{ namesOf(each) }}</span></span
        >
      </li>
      <li v-if="preview.leading.length === 0"><KeystoneMark mark="dashed" /><span>No page leads to the front</span></li>
    </ul>
    <p v-if="preview.readPages < preview.linkingPages" class="quiet">
      Read in {{ preview.readPages }} of {{ count(preview.linkingPages, 'page') }} that lead there; all of them will.
    </p>
    <div class="acts">
      <v-btn type="submit" variant="flat" color="primary" :disabled="problem !== ''" :loading="working"
        >Make it the home page</v-btn
      >
      <v-btn @click="emit('leave')">Leave it</v-btn>
    </div>
    <p class="quiet">One step back takes all of it back.</p>
  </form>
  <template v-else-if="problem">
    <h1 class="title-face">As home page</h1>
    <p class="wrong" role="alert">{{ problem }}</p>
    <v-btn @click="emit('leave')">Back to the page</v-btn>
  </template>
  <p v-else class="quiet" role="status">Looking what leads to the front …</p>
</template>

<style scoped>
form {
  display: grid;
  gap: 10px;
}
form > p {
  margin: 0;
  overflow-wrap: anywhere;
}
h1 {
  margin: 0;
}
h2 {
  margin: 6px 0 0;
}
.facts {
  list-style: none;
  margin: 0;
  padding: 0;
}
.facts li {
  display: grid;
  grid-template-columns: 16px 1fr;
  gap: 8px;
  padding: 5px 0;
  border-bottom: var(--line);
  align-items: baseline;
}
.names {
  display: block;
  font-size: 12px;
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
</style>
