<script setup lang="ts">
/** Before a page becomes home: where the one that was goes, and what leads to the front and will lead to the new one. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { pagesApi, type HomePreview } from '@fastigium/contracts/api/pages';
import { useDebounceFn } from '@vueuse/core';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import LabelledField from '../../components/LabelledField.vue';
import { useSite } from '../../stores/site.ts';
import { explain, speak } from '../../words/index.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

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
    const body = wanted === undefined || wanted.trim() === '' ? {} : { formerAddress: stripBase(wanted) };
    const answer = await call(pagesApi.previewHome, { params: { site: site.id, page: props.page.id }, body });
    if (wanted !== address.value) return;
    [preview.value, problem.value] = [answer, ''];
    if (answer.former?.canChoose) address.value ??= answer.former.address;
  } catch (error) {
    if (wanted === address.value) problem.value = explain(error);
  }
}
runInBackground(read());
const readSoon = useDebounceFn(read, 250);
watch(address, (now, before) => {
  if (before !== undefined && now !== before) runInBackground(readSoon());
});

/** The path the site is under is not the page's own to change. */
function stripBase(text: string): string {
  const base = site.overview?.basePath ?? '';
  return base !== '' && text.startsWith(`${base}/`) ? text.slice(base.length) : text;
}

const menuItems = computed(() => preview.value?.leading.filter(({ kind }) => kind === 'menu') ?? []);
const links = computed(() => preview.value?.leading.filter(({ kind }) => kind !== 'menu') ?? []);
const sayLeading = ({ kind, label }: HomePreview['leading'][number]) =>
  kind === 'logo'
    ? label === ''
      ? say('homeChoice.theLogo')
      : say('homeChoice.theLogo2', { label })
    : `“${label || say('homeChoice.aLinkWithoutWords')}”`;
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
    ...(chosen ? { formerAddress: stripBase(chosen) } : {}),
  });
  working.value = false;
  if (done) emit('chosen');
}
</script>

<template>
  <form v-if="preview" @submit.prevent="choose" @keydown.esc.stop="emit('leave')">
    <h1 class="title-face">{{ say('homeChoice.asHomePage', { label: preview.page.label }) }}</h1>
    <p>
      <RichWords
        :words="
          say.parts('homeChoice.itAnswersAtFromThe', {
            basePath: site.overview?.basePath,
            former: preview.page.address,
          })
        "
      />
    </p>
    <template v-if="preview.former">
      <h2 class="heading">{{ say('homeChoice.theHomePageOfToday') }}</h2>
      <p>{{ say('homeChoice.goesOnLivingUnderAn', { label: preview.former.label }) }}</p>
      <LabelledField
        v-if="preview.former.canChoose"
        :model-value="address ?? ''"
        class="address"
        :label="say('homeChoice.itsNewAddress')"
        maxlength="2000"
        @update:model-value="address = $event"
      />
      <p v-else class="address">{{ preview.former.address }}</p>
      <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    </template>
    <h2 class="heading">{{ say('homeChoice.whatLeadsToTheFront') }}</h2>
    <ul class="facts">
      <li v-for="each in menuItems" :key="`${each.menu && speak(each.menu)} ${each.label}`">
        <KeystoneMark mark="lapis" /><span
          >{{ say('homeChoice.in', { label: each.label, menu: each.menu && speak(each.menu) })
          }}<span class="quiet names">{{ say('homeChoice.onPages', { pages: each.pages }) }}</span></span
        >
      </li>
      <li v-for="each in links" :key="`${each.kind} ${each.label}`">
        <KeystoneMark mark="lapis" /><span
          >{{ sayLeading(each)
          }}<span class="quiet names">{{
            say('homeChoice.onPages2', { pages: each.pages, each: namesOf(each) })
          }}</span></span
        >
      </li>
      <li v-if="preview.leading.length === 0">
        <KeystoneMark mark="dashed" /><span>{{ say('homeChoice.noPageLeadsToThe') }}</span>
      </li>
    </ul>
    <p v-if="preview.readPages < preview.linkingPages" class="quiet">
      {{ say('homeChoice.readInOfPagesThat', { readPages: preview.readPages, linkingPages: preview.linkingPages }) }}
    </p>
    <div class="acts">
      <v-btn type="submit" variant="flat" color="primary" :disabled="problem !== ''" :loading="working">{{
        say('homeChoice.makeItTheHomePage')
      }}</v-btn>
      <v-btn @click="emit('leave')">{{ say('common.leaveIt') }}</v-btn>
    </div>
    <p class="quiet">{{ say('homeChoice.oneStepBackTakesAll') }}</p>
  </form>
  <template v-else-if="problem">
    <h1 class="title-face">{{ say('homeChoice.asHomePage2') }}</h1>
    <p class="wrong" role="alert">{{ problem }}</p>
    <v-btn @click="emit('leave')">{{ say('homeChoice.backToThePage') }}</v-btn>
  </template>
  <p v-else class="quiet" role="status">{{ say('homeChoice.lookingWhatLeadsToThe') }}</p>
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
