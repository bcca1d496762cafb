<script setup lang="ts">
/** Releases, newest first, each with the way back to it. */
import { releasesApi, type Release } from '@fastigium/contracts/api/releases';
import { ref } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatSize, formatWhen } from '../../logic/format.ts';
import type { Mark } from '../../logic/marks.ts';
import { useNotices } from '../../stores/notices.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';
import { explainKept } from '../../words/index.ts';
import { say } from './words.ts';

const world = useWorld();
const site = useSite();
const session = useSession();
const notices = useNotices();
const kept = ref<number>();
const wanted = ref('');
const isSetting = ref(false);
useReadAgain(async (id) => {
  kept.value = (await call(releasesApi.keeping, { params: { site: id } })).count;
});
defineProps<{ releases: readonly Release[]; canGoBack: boolean }>();
/** The release that is looked at more closely. */
const chosen = defineModel<number | undefined>({ required: true });
defineEmits<{ back: [release: Release]; compare: [number: number] }>();

const MARKS: Readonly<Record<Release['state'], Mark>> = {
  sending: 'ochre',
  live: 'verdigris',
  past: 'dashed',
  failed: 'madder',
  cancelled: 'dashed',
  'let-go': 'dashed',
};

const VERDICT_WORDS: Readonly<Record<NonNullable<Release['verdict']>, string>> = {
  right: say('releaseLadder.foundAsPublished'),
  noted: say('releaseLadder.foundAsPublishedWithNotes'),
  wrong: say('releaseLadder.foundOtherwise'),
};

async function run(work: (id: string) => Promise<unknown>): Promise<void> {
  if (site.id === undefined) return;
  try {
    await work(site.id);
    isSetting.value = false;
    await site.refresh();
  } catch (error) {
    notices.problem(error);
  }
}
const pin = (release: Release) =>
  run((id) =>
    call(releasesApi.pin, { params: { site: id, number: release.number }, body: { isPinned: !release.isPinned } }),
  );
const keep = () => run((id) => call(releasesApi.keep, { params: { site: id }, body: { count: Number(wanted.value) } }));
function openSetting(): void {
  wanted.value = String(kept.value ?? '');
  isSetting.value = true;
}

function sayRelease(release: Release): string {
  const at = formatWhen(release.liveAt ?? release.createdAt, world.now);
  const sent =
    release.filesSent === 0
      ? say('releaseLadder.nothingSent')
      : say('releaseLadder.filesSent', { filesSent: release.filesSent, bytesSent: formatSize(release.bytesSent) });
  const what =
    release.rollbackOf === null ? sent : say('releaseLadder.backToRelease', { rollbackOf: release.rollbackOf, sent });
  switch (release.state) {
    case 'sending':
      return say('releaseLadder.onItsWay');
    case 'live':
      return say('releaseLadder.liveSince', { at, what });
    case 'past':
      return `${at}, ${what}`;
    case 'failed':
      return say('releaseLadder.failed', { at });
    case 'cancelled':
      return say('releaseLadder.cancelled', { at });
    case 'let-go':
      return say('releaseLadder.notKeptAnyMore', { at });
  }
}
</script>

<template>
  <ol v-if="releases.length > 0" class="ladder">
    <li v-for="release in releases" :key="release.id">
      <KeystoneMark :mark="MARKS[release.state]" />
      <span class="number">{{ release.number }}</span>
      <span class="what">
        <span>{{ sayRelease(release) }}</span>
        <span v-if="release.note || release.isPinned" class="quiet">{{
          [release.note, release.isPinned ? say('releaseLadder.keptForGood') : '']
            .filter((part) => part !== '')
            .join(', ')
        }}</span>
        <span v-if="release.error" class="wrong small">{{ explainKept(release.error) }}</span>
        <span class="quiet"
          >{{ release.by.name
          }}<template v-if="release.verdict"
            >,
            <button
              class="text-link"
              type="button"
              :aria-pressed="chosen === release.number"
              @click="chosen = chosen === release.number ? undefined : release.number"
            >
              {{ VERDICT_WORDS[release.verdict] }}
            </button></template
          ></span
        >
      </span>
      <span class="ways">
        <button
          v-if="release.state === 'past'"
          class="text-link"
          type="button"
          :disabled="!canGoBack"
          @click="$emit('back', release)"
        >
          {{ say('releaseLadder.goBackToIt') }}
        </button>
        <button
          v-if="(release.state === 'past' || release.state === 'live') && releases.length > 1"
          class="text-link"
          type="button"
          :aria-label="say('releaseLadder.compareRelease', { number: release.number })"
          @click="$emit('compare', release.number)"
        >
          {{ say('releaseLadder.compare') }}
        </button>
        <a
          v-if="session.mayEdit && (release.state === 'past' || release.state === 'live')"
          class="text-link"
          :href="`/api/sites/${site.id ?? ''}/releases/${release.number}/release.zip`"
          :aria-label="say('releaseLadder.takeReleaseAlong', { number: release.number })"
          >{{ say('releaseLadder.takeAlong') }}</a
        >
        <button
          v-if="session.mayEdit && (release.state === 'past' || release.state === 'live')"
          class="text-link"
          type="button"
          :aria-label="
            release.isPinned
              ? say('releaseLadder.keepReleaseNoLongerThan', { number: release.number })
              : say('releaseLadder.keepReleaseForGood', { number: release.number })
          "
          @click="pin(release)"
        >
          {{ release.isPinned ? say('releaseLadder.keepNoLonger') : say('releaseLadder.keepForGood') }}
        </button>
      </span>
    </li>
  </ol>
  <template v-if="releases.length > 0 && kept !== undefined">
    <p v-if="!isSetting" class="quiet keeping">
      {{ say('releaseLadder.theLastAreKeptAnd', { kept }) }}
      <button v-if="session.isOwner" class="text-link" type="button" @click="openSetting">
        {{ say('releaseLadder.change') }}
      </button>
    </p>
    <form v-else @submit.prevent="keep" @keydown.esc.stop="isSetting = false">
      <LabelledField
        v-model="wanted"
        :label="say('releaseLadder.releasesThatAreKept')"
        type="number"
        min="2"
        max="1000"
      />
      <v-btn type="submit" height="36" :disabled="!(Number(wanted) >= 2)">{{ say('releaseLadder.keepThese') }}</v-btn>
    </form>
  </template>
  <p v-if="releases.length === 0" class="quiet">{{ say('releaseLadder.noneYetTheFirstOne') }}</p>
</template>

<style scoped>
.ladder {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: auto 20px 1fr auto;
  gap: 10px;
  align-items: baseline;
  padding: 7px 0;
  border-bottom: var(--line);
  font-size: 13px;
}
.number {
  font-weight: 600;
  font-size: 14px;
}
.what {
  display: grid;
  min-width: 0;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  justify-content: flex-end;
  gap: 2px 12px;
  max-width: 14em;
}
.small {
  font-size: 12px;
}
.keeping {
  margin: 8px 0 0;
}
form {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
  margin-top: 8px;
}
</style>
