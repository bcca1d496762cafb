<script setup lang="ts">
/** Icons from one picture. */
import { metadataApi, type Metadata } from '@fastigium/contracts/api/metadata';
import { computed, ref } from 'vue';
import { sendFile } from '../../../api/asset.ts';
import { formatSize } from '../../../logic/format.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import { usePreviewOrigins } from '../../shared/previewOrigin.ts';
import { explain, speak } from '../../../words/index.ts';
import { runInBackground } from '../../../stores/background.ts';
import { say } from '../words.ts';

const props = defineProps<{ metadata: Metadata }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const origins = usePreviewOrigins();
const busy = ref(false);
const problem = ref('');
const SIZES: Readonly<Record<string, string>> = {
  'favicon.ico': say('iconsPanel.n1632And48Px'),
  'icon.svg': say('iconsPanel.anySize'),
  'icon-192.png': say('iconsPanel.n192Px'),
  'icon-512.png': say('iconsPanel.n512Px'),
  'icon-maskable-512.png': say('iconsPanel.n512PxMayBeCut'),
  'apple-touch-icon.png': say('iconsPanel.n180Px'),
  'site.webmanifest': say('iconsPanel.theManifest'),
};
const base = computed(() => (origins.value ? `${origins.value.seen}${props.metadata.basePath}/` : undefined));
const shown = computed(() =>
  base.value === undefined
    ? []
    : [
        ['favicon.ico', 16],
        ['favicon.ico', 32],
        ['apple-touch-icon.png', 60],
        ['icon-512.png', 96],
        ['icon-maskable-512.png', 96],
      ].map(([path, px]) => ({
        key: `${path} ${px}`,
        path: String(path),
        px: Number(px),
        src: `${base.value}${path}?v=${props.metadata.version}`,
      })),
);

async function choose(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file || site.id === undefined) return;
  [busy.value, problem.value] = [true, ''];
  try {
    const { message } = await sendFile(
      metadataApi.icons,
      { site: site.id },
      { version: String(props.metadata.version), fileName: file.name },
      file,
    );
    await site.refresh();
    notices.done(speak(message), {
      label: say('common.undo'),
      run: () => runInBackground(site.decide({ kind: 'step', direction: 'back' })),
    });
  } catch (error) {
    problem.value = explain(error);
  }
  busy.value = false;
}
</script>

<template>
  <label v-if="session.mayEdit" class="choose" :class="{ busy }"
    ><input class="visually-hidden" type="file" accept="image/*,.svg" :disabled="busy" @change="choose" /><span>{{
      busy
        ? say('iconsPanel.makingThem')
        : metadata.icons.length > 0
          ? say('iconsPanel.makeThemFromAnotherPicture')
          : say('iconsPanel.chooseAPicture')
    }}</span></label
  >
  <p class="quiet">
    {{ say('iconsPanel.squareAtLeast512By') }}
  </p>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <template v-if="metadata.icons.length > 0">
    <div class="shown">
      <img
        v-for="each in shown"
        :key="each.key"
        :src="each.src"
        :width="each.px"
        :height="each.px"
        :alt="say('iconsPanel.atPx', { path: each.path, px: each.px })"
        :class="{ round: each.path.includes('maskable') }"
      />
    </div>
    <ul class="files">
      <li v-for="each in metadata.icons" :key="each.path">
        <span class="address">{{ each.path }}</span><span class="quiet">{{ SIZES[each.path] }}</span
        ><span class="quiet figure">{{ formatSize(each.sizeBytes) }}</span>
      </li>
    </ul>
    <v-btn v-if="session.mayEdit" @click="site.decide({ kind: 'icons-removed' })">{{
      say('iconsPanel.takeThemAway')
    }}</v-btn>
  </template>
</template>

<style scoped>
p {
  margin: 8px 0;
}
.choose span {
  display: inline-flex;
  align-items: center;
  height: 36px;
  box-sizing: border-box;
  padding-inline: 12px;
  border: 1px solid var(--ink-7);
  border-radius: 4px;
  font-weight: 600;
  cursor: pointer;
}
.choose:focus-within span {
  outline: 2px solid var(--lapis);
  outline-offset: 1px;
}
.busy span {
  opacity: 0.6;
}
.shown {
  display: flex;
  align-items: end;
  gap: 18px;
  padding: 16px;
  margin: 8px 0;
  border: var(--line);
  background: var(--stone-1);
}
.round {
  border-radius: 50%;
}
.files {
  list-style: none;
  margin: 0 0 12px;
  padding: 0;
}
.files li {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 10px;
  padding: 4px 0;
  border-bottom: var(--line);
}
</style>
