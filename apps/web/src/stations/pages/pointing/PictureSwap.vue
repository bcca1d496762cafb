<script setup lang="ts">
/** A picture: its words, and another one in its place, here or wherever it is shown. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { TouchRequest } from '@fastigium/contracts/decisions/touches';
import { importsApi } from '@fastigium/contracts/api/imports';
import type { Pointed } from '@fastigium/contracts/api/pages';
import { computed, onMounted, ref } from 'vue';
import { addAsset } from '../../../api/asset.ts';
import { call } from '../../../api/client.ts';
import LabelledField from '../../../components/LabelledField.vue';
import { useNotices } from '../../../stores/notices.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import ScopeChoice from './ScopeChoice.vue';
import { say } from '../words.ts';

const props = defineProps<{ picture: NonNullable<Pointed['picture']>; page: PageRow }>();
const emit = defineEmits<{ done: [] }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const alt = ref(props.picture.alt ?? '');
const known = ref('');
const file = ref<File>();
const scope = ref<'page' | 'branch' | 'everywhere'>('page');
const pictures = ref<string[]>([]);
const working = ref(false);

onMounted(async () => {
  if (site.id === undefined) return;
  const survey = await call(importsApi.survey, { params: { site: site.id } }).catch(() => undefined);
  pictures.value = (survey?.assets ?? [])
    .filter(({ type }) => type.startsWith('image/'))
    .map(({ path }) => `/${path}`)
    .filter((path) => path !== props.picture.address);
});

const makeScope = (): TouchRequest['scope'] =>
  scope.value === 'everywhere' ? { kind: 'everywhere' } : { kind: scope.value, page: props.page.id };
const probe = computed((): TouchRequest => ({
  kind: 'picture',
  scope: makeScope(),
  from: props.picture.address ?? '/',
  to: props.picture.address ?? '/',
}));
const altTouch = computed((): TouchRequest => ({
  kind: 'attributes',
  scope: makeScope(),
  place: props.picture.anchor,
  set: { alt: alt.value },
}));

async function swap(): Promise<void> {
  if (site.id === undefined || props.picture.address === null) return;
  working.value = true;
  try {
    const added = file.value
      ? await addAsset(
          site.id,
          file.value,
          props.picture.address.slice(1, props.picture.address.lastIndexOf('/')),
          site.overview?.version ?? 0,
        )
      : undefined;
    if (added) await site.refresh();
    const done = await site.decide({
      kind: 'touch',
      touch: {
        kind: 'picture',
        scope: makeScope(),
        from: props.picture.address,
        to: added?.address ?? known.value,
        ...(alt.value === (props.picture.alt ?? '') ? {} : { alt: alt.value }),
        ...(added?.size ? { size: added.size } : {}),
      },
    });
    if (done) emit('done');
  } catch (error) {
    notices.problem(error);
  } finally {
    working.value = false;
  }
}

async function setAlt(): Promise<void> {
  working.value = true;
  const done = await site.decide({ kind: 'touch', touch: altTouch.value });
  working.value = false;
  if (done) emit('done');
}
</script>

<template>
  <h2 class="title-face">{{ say('pictureSwap.thisPicture') }}</h2>
  <p class="address quiet where">{{ picture.address ?? say('pictureSwap.fromAnotherSite') }}</p>
  <form v-if="session.mayEdit" @submit.prevent="file || known !== '' ? swap() : setAlt()">
    <LabelledField v-model="alt" :label="say('pictureSwap.whatItShowsInWords')" maxlength="2000" />
    <template v-if="picture.address !== null">
      <label class="choose"
        >{{ say('pictureSwap.showAnotherOneAFile') }}
        <input type="file" accept="image/*" @change="file = ($event.target as HTMLInputElement).files?.[0]"
      /></label>
      <label v-if="!file" class="choose"
        >{{ say('pictureSwap.orOneOfTheSites') }}
        <select v-model="known">
          <option value="">{{ say('pictureSwap.keepThisOne') }}</option>
          <option v-for="path in pictures" :key="path" :value="path">{{ path }}</option>
        </select>
      </label>
      <ScopeChoice v-model="scope" what="picture" :page="page" :touch="probe" />
    </template>
    <v-btn
      type="submit"
      variant="flat"
      color="primary"
      :disabled="!file && known === '' && alt === (picture.alt ?? '')"
      :loading="working"
      >{{ file || known !== '' ? say('pictureSwap.swapIt') : say('pictureSwap.setTheWords') }}</v-btn
    >
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
  justify-items: start;
}
form > .field {
  width: 100%;
}
.where {
  margin: 2px 0 10px;
  overflow-wrap: anywhere;
}
.choose {
  display: grid;
  gap: 4px;
  font-size: 12px;
  color: var(--ink-5);
  max-width: 100%;
}
.choose input,
select {
  font: inherit;
  font-size: 13px;
  color: var(--ink-9);
  max-width: 100%;
}
select {
  padding: 4px;
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  background: var(--bench);
}
</style>
