<script setup lang="ts">
/** Bringing in a finished site: drop a zip or a folder, or choose one, or name a running site. */
import { importsApi } from '@fastigium/contracts/api/imports';
import { sitesApi } from '@fastigium/contracts/api/sites';
import { computed, ref, watch } from 'vue';
import { call } from '../../api/client.ts';
import { uploadZip } from '../../api/upload.ts';
import { reckonPercent, formatSize } from '../../logic/format.ts';
import { fromDrop, fromFiles, stripEnding, packAsZip, type Dropped } from './dropped.ts';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { explain } from '../../words/index.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const props = defineProps<{ site?: string; newer?: boolean }>();
const emit = defineEmits<{ started: [site: string]; leave: [] }>();
const name = ref('');
const from = ref<'files' | 'crawl'>('files');
const address = ref('');
const sending = ref(false);
const dropped = ref<Dropped>();
const over = ref(false);
const problem = ref('');
const sent = ref<{ done: number; total: number }>();
let cancel = new AbortController();
/** The site made for this upload, so that trying again after a broken line does not make a second. */
let made: string | undefined;
const canGo = computed(
  () =>
    (from.value === 'crawl' ? address.value.trim() !== '' : dropped.value !== undefined) &&
    (props.site !== undefined || name.value.trim() !== ''),
);

async function take(reading: Promise<Dropped>): Promise<void> {
  problem.value = '';
  try {
    dropped.value = await reading;
    if (name.value === '') name.value = stripEnding(dropped.value.name).replace(/[-_]+/g, ' ').trim();
  } catch (error) {
    problem.value = explain(error);
  }
}

function onDrop(event: DragEvent): void {
  over.value = false;
  if (event.dataTransfer) runInBackground(take(fromDrop(event.dataTransfer)));
}

function onChosen(event: Event): void {
  const { files } = event.target as HTMLInputElement;
  if (files && files.length > 0) runInBackground(take(fromFiles([...files])));
}

/** Until its owner says otherwise, a site is called by its host; while the address is typed, so that nothing is put in where they type next. */
watch(address, (now, before) => {
  if (name.value === readHost(before)) name.value = readHost(now);
});
const readHost = (text: string) =>
  text
    .trim()
    .replace(/^https?:\/\//i, '')
    .replace(/^www\./i, '')
    .replace(/[/?#].*$/, '');

const findSiteToFill = async () =>
  (made ??= props.site ?? (await call(sitesApi.create, { body: { name: name.value } })).id);

async function go(): Promise<void> {
  if (from.value === 'crawl') return crawl();
  const what = dropped.value;
  if (!what) return;
  problem.value = '';
  cancel = new AbortController();
  sent.value = { done: 0, total: 0 };
  try {
    const zip = await packAsZip(what);
    const site = await findSiteToFill();
    await uploadZip(site, zip, what.name, {
      progress: (done, total) => (sent.value = { done, total }),
      signal: cancel.signal,
    });
    emit('started', site);
  } catch (error) {
    problem.value = explain(error);
  } finally {
    sent.value = undefined;
  }
}

async function crawl(): Promise<void> {
  problem.value = '';
  sending.value = true;
  try {
    const site = await findSiteToFill();
    await call(importsApi.crawl, { params: { site }, body: { address: address.value } });
    emit('started', site);
  } catch (error) {
    problem.value = explain(error);
  } finally {
    sending.value = false;
  }
}
</script>

<template>
  <form class="bring-in" @submit.prevent="go">
    <h2 class="title-face">{{ newer ? say('bringIn.bringInANewerExport') : say('bringIn.bringInASite') }}</h2>
    <p v-if="newer" class="quiet">
      {{ say('bringIn.youSeeWhatItAdds') }}
    </p>
    <SegmentedChoice
      v-model="from"
      :label="say('bringIn.whereItComesFrom')"
      :options="[
        { value: 'files', label: say('bringIn.aZipOrFolder') },
        { value: 'crawl', label: say('bringIn.aRunningSite') },
      ]"
    />
    <template v-if="from === 'crawl'">
      <LabelledField
        v-model="address"
        :label="say('bringIn.addressOfTheRunningSite')"
        placeholder="https://www.old-site.example"
        maxlength="2048"
        autocomplete="off"
        spellcheck="false"
      />
      <p class="quiet">
        {{ say('bringIn.everyPageThatALink') }}
      </p>
    </template>
    <div
      v-else
      class="drop"
      :class="{ over }"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="onDrop"
    >
      <template v-if="dropped">
        <span class="strong one-line">{{ dropped.name }}</span>
        <span class="quiet">{{
          dropped.files.length === 1
            ? formatSize(dropped.bytes)
            : say('bringIn.files', { files: dropped.files.length, bytes: formatSize(dropped.bytes) })
        }}</span>
      </template>
      <template v-else>
        <span class="strong">{{ say('bringIn.dropAnArchiveOrA') }}</span>
        <span class="quiet">{{ say('bringIn.theFinishedSiteAsIt') }}</span>
      </template>
      <span class="choose">
        <label class="text-link" tabindex="0" @keydown.enter.prevent="($refs.zip as HTMLInputElement).click()"
          >{{ say('bringIn.chooseAZipOrTar')
          }}<input
            ref="zip"
            class="visually-hidden"
            tabindex="-1"
            type="file"
            accept=".zip,.tar,.tgz,.gz,application/zip"
            data-testid="zip"
            @change="onChosen"
        /></label>
        <label class="text-link" tabindex="0" @keydown.enter.prevent="($refs.folder as HTMLInputElement).click()"
          >{{ say('bringIn.chooseAFolder')
          }}<input
            ref="folder"
            class="visually-hidden"
            tabindex="-1"
            type="file"
            webkitdirectory
            data-testid="folder"
            @change="onChosen"
        /></label>
      </span>
    </div>
    <LabelledField v-if="site === undefined" v-model="name" :label="say('bringIn.nameOfTheSite')" maxlength="100" />
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <div v-if="sent" class="sending" role="status">
      <v-progress-linear
        :model-value="reckonPercent(sent.done, sent.total)"
        :indeterminate="sent.total === 0"
        color="verdigris"
        bg-color="stone3"
        height="8"
        :aria-label="say('bringIn.upload')"
      />
      <span class="quiet">{{
        sent.total > 0
          ? say('bringIn.of', { done: formatSize(sent.done), total: formatSize(sent.total) })
          : say('bringIn.packing')
      }}</span>
      <button class="text-link" type="button" @click="cancel.abort()">{{ say('bringIn.cancel') }}</button>
    </div>
    <v-btn v-else type="submit" variant="flat" color="primary" :disabled="!canGo || sending">{{
      from === 'crawl' ? say('bringIn.crawlIt') : say('bringIn.bringItIn')
    }}</v-btn>
    <p class="quiet">
      {{ say('bringIn.filesStayByteForByte', { isCrawl: from === 'crawl' }) }}
    </p>
    <button v-if="newer" class="text-link leave" type="button" @click="$emit('leave')">
      {{ say('common.leaveIt') }}
    </button>
  </form>
</template>

<style scoped>
.bring-in {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 14px;
  justify-items: stretch;
}
.drop {
  display: grid;
  gap: 4px;
  justify-items: center;
  padding: 36px 20px 28px;
  border: 1.5px dashed var(--stone-5);
  border-radius: 3px;
  background: var(--stone-1);
  text-align: center;
}
.drop.over {
  border-color: var(--lapis);
  background: var(--lapis-tint);
}
.choose {
  display: flex;
  flex-wrap: wrap;
  justify-content: center;
  gap: 6px 20px;
  margin-top: 14px;
}
.sending {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px 12px;
}
.sending > :first-child {
  grid-column: 1 / -1;
}
p {
  margin: 0;
}
.leave {
  justify-self: start;
}
.bring-in > .v-btn {
  justify-self: start;
}
</style>
