<script setup lang="ts">
/** The evidence of a change: how the page looks and its source, before and after. */
import { releasesApi, type Change, type Evidence } from '@fastigium/contracts/api/releases';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import { formatSize } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { usePictures } from '../../stores/pictures.ts';
import { useSite } from '../../stores/site.ts';
import SourceLines from '../../components/SourceLines.vue';
import ChangeCauses from './ChangeCauses.vue';
import DraftProof from '../shared/DraftProof.vue';
import type { Two } from './compared.ts';
import { findDifferingParts, markParts, readPixels } from './pictureDifference.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const props = defineProps<{ change: Change; /** Undefined: live against draft. */ two: Two | undefined }>();
const site = useSite();
const notices = useNotices();
const pictures = usePictures();
const evidence = ref<Evidence>();
const path = computed(() => props.change.key.replace(/^file:/, ''));
const looks = computed(() =>
  (
    [
      [say('changeEvidence.asItIsLive'), pictures.ofFile('live', path.value)],
      [say('changeEvidence.asItWillBe'), pictures.ofFile('draft', path.value)],
    ] as const
  ).flatMap(([words, source]) => (source === undefined ? [] : [[words, source] as const])),
);
/** One picture twice shows nothing, and one alone nothing that the preview does not. */
const differ = computed(
  () => props.two === undefined && looks.value.length === 2 && looks.value[0]?.[1] !== looks.value[1]?.[1],
);
interface Look {
  /** How far down it is moved, in hundredths of its height. */
  readonly down: number;
  /** The picture with what differs marked, as it is drawn here. */
  readonly drawn: string;
}
const drawn = shallowRef<readonly Look[]>([]);
watch(
  looks,
  async (both) => {
    drawn.value = [];
    const [before, after] = both;
    if (!before || !after || !differ.value) return;
    try {
      const [old, now] = await Promise.all([readPixels(before[1]), readPixels(after[1])]);
      const parts = findDifferingParts(old, now);
      const next = (
        [
          [old, parts.before],
          [now, parts.after],
        ] as const
      ).map(([pixels, own]) => ({
        down: Math.round(((own[0]?.top ?? 0) / pixels.height) * 100),
        drawn: markParts(pixels, own),
      }));
      if (looks.value === both) drawn.value = next;
    } catch {
      // Where they cannot be compared, the pictures as they are do.
      drawn.value = [];
    }
  },
  { immediate: true },
);

watch(
  () => site.changes,
  async () => {
    if (site.id === undefined || !props.change.key.startsWith('file:')) return;
    try {
      evidence.value = await call(releasesApi.evidence, {
        params: { site: site.id },
        query: { key: props.change.key, ...props.two },
      });
    } catch (error) {
      notices.problem(error);
    }
  },
  { immediate: true },
);
</script>

<template>
  <section
    v-if="evidence || (change.group === 'redirects' && change.key.startsWith('rule:')) || change.group === 'visitors'"
    class="evidence"
    :aria-label="say('changeEvidence.evidence')"
  >
    <h2 class="quiet">
      {{
        say('changeEvidence.subject', {
          subject: speak(change.subject),
          group:
            change.group === 'visitors'
              ? speak(change.message)
              : change.group === 'redirects'
                ? say('changeEvidence.askedOfTheDraft')
                : evidence?.kind === 'source'
                  ? say('changeEvidence.source')
                  : say('changeEvidence.file'),
        })
      }}
    </h2>
    <ChangeCauses v-if="two === undefined" :key="change.key" :change="change" />
    <DraftProof v-if="typeof change.subject === 'string' && change.group === 'redirects'" :address="change.subject" />
    <template v-else-if="evidence">
      <div v-if="differ" class="looks">
        <figure v-for="([words, source], at) in looks" :key="words">
          <figcaption class="quiet">
            {{ say('changeEvidence.whatDiffersIsMarked', { words, hasDrawn: Boolean(drawn[at]) }) }}
          </figcaption>
          <a :href="source" target="_blank" rel="noopener"
            ><img
              :src="drawn[at]?.drawn ?? source"
              :alt="`${speak(change.subject)}, ${words}`"
              :style="{ objectPosition: `0 ${drawn[at]?.down ?? 0}%` }"
          /></a>
        </figure>
      </div>
      <SourceLines v-if="evidence.kind === 'source'" :lines="evidence.lines" />
      <p v-else>
        {{
          say('changeEvidence.beforeNow', {
            before: evidence.before ? formatSize(evidence.before.sizeBytes) : say('changeEvidence.notThere'),
            after: evidence.after ? formatSize(evidence.after.sizeBytes) : say('changeEvidence.notThere'),
          })
        }}
      </p>
      <p v-if="evidence.cut" class="quiet">{{ say('changeEvidence.theRestOfTheDifference') }}</p>
    </template>
  </section>
</template>

<style scoped>
.evidence {
  flex: none;
  max-height: 52%;
  overflow: auto;
  padding: 10px 20px 14px;
  border-top: 1px solid var(--stone-3);
  background: var(--paper);
}
h2 {
  font-weight: 400;
  margin: 0 0 6px;
}
.looks {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 16px;
  margin-bottom: 10px;
}
figure {
  margin: 0;
  display: grid;
  gap: 2px;
  align-content: start;
}
figure img {
  width: 100%;
  max-height: 190px;
  object-fit: cover;
  object-position: top;
  border: var(--line);
  border-radius: 3px;
  display: block;
}
p {
  margin: 6px 0 0;
}
</style>
