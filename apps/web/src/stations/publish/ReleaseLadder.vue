<script setup lang="ts">
/** Releases, newest first, each with the way back to it. */
import type { Release } from '@fastigium/contracts/api/releases';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { count, size, when } from '../../logic/format.ts';
import type { Mark } from '../../logic/marks.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';

const world = useWorld();
const site = useSite();
defineProps<{ releases: readonly Release[]; canGoBack: boolean }>();
/** The release that is looked at more closely. */
const chosen = defineModel<number | undefined>({ required: true });
defineEmits<{ back: [release: Release]; compare: [number: number] }>();

const MARKS: Readonly<Record<Release['state'], Mark>> = { sending: 'ochre', live: 'verdigris', past: 'dashed', failed: 'madder', cancelled: 'dashed' };

const VERDICT_WORDS: Readonly<Record<NonNullable<Release['verdict']>, string>> = { right: 'found as published', noted: 'found as published, with notes', wrong: 'found otherwise' };

function words(release: Release): string {
  const at = when(release.liveAt ?? release.createdAt, world.now);
  const sent = release.filesSent === 0 ? 'nothing sent' : `${count(release.filesSent, 'file')}, ${size(release.bytesSent)} sent`;
  const what = release.rollbackOf === null ? sent : `back to release ${release.rollbackOf}, ${sent}`;
  switch (release.state) {
    case 'sending': return 'on its way';
    case 'live': return `live since ${at}, ${what}`;
    case 'past': return `${at}, ${what}`;
    case 'failed': return `${at}, failed`;
    case 'cancelled': return `${at}, cancelled`;
  }
}
</script>

<template>
  <ol v-if="releases.length > 0" class="ladder">
    <li v-for="release in releases" :key="release.id">
      <KeystoneMark :mark="MARKS[release.state]" />
      <span class="number">{{ release.number }}</span>
      <span class="what">
        <span>{{ words(release) }}</span>
        <span v-if="release.note" class="quiet">{{ release.note }}</span>
        <span v-if="release.error" class="wrong small">{{ release.error }}</span>
        <span class="quiet">{{ release.by.name }}<template v-if="release.verdict">, <button class="text-link" type="button" :aria-pressed="chosen === release.number" @click="chosen = chosen === release.number ? undefined : release.number">{{ VERDICT_WORDS[release.verdict] }}</button></template></span>
      </span>
      <span class="ways">
        <button v-if="release.state === 'past'" class="text-link" type="button" :disabled="!canGoBack" @click="$emit('back', release)">Go back to it</button>
        <button v-if="(release.state === 'past' || release.state === 'live') && releases.length > 1" class="text-link" type="button" :aria-label="`Compare release ${release.number}`" @click="$emit('compare', release.number)">Compare</button>
        <a v-if="release.state === 'past' || release.state === 'live'" class="text-link" :href="`/api/sites/${site.id ?? ''}/releases/${release.number}/release.zip`" :aria-label="`Take release ${release.number} along`">Take along</a>
      </span>
    </li>
  </ol>
  <p v-else class="quiet">None yet. The first one makes the site public at the stand-in host.</p>
</template>

<style scoped>
.ladder { list-style: none; margin: 0; padding: 0; }
li { display: grid; grid-template-columns: auto 20px 1fr auto; gap: 10px; align-items: baseline; padding: 7px 0; border-bottom: var(--line); font-size: 13px; }
.number { font-weight: 600; font-size: 14px; }
.what { display: grid; }
.ways { display: grid; justify-items: end; }
.small { font-size: 12px; }
</style>
