<script setup lang="ts">
/** What putting something back will change, the choices where its surroundings changed, and the one button. */
import { removalsApi, type PutBackPreview } from '@fastigium/contracts/api/removals';
import type { PutBackRequest } from '@fastigium/contracts/decisions/removals';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../../api/client.ts';
import KeyHint from '../../../components/KeyHint.vue';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import SegmentedChoice from '../../../components/SegmentedChoice.vue';
import type { Mark } from '../../../logic/marks.ts';
import { useSite } from '../../../stores/site.ts';
import { explain, speak } from '../../../words/index.ts';
import { say } from '../words.ts';
import RichWords from '../../../words/RichWords.ts';

const props = defineProps<{ things: PutBackRequest['things']; label?: string }>();
const emit = defineEmits<{ done: [] }>();
const site = useSite();
const preview = shallowRef<PutBackPreview>();
const where = ref<PutBackRequest['where']>('in-place');
const taken = ref<PutBackRequest['taken']>();
const problem = ref('');
const working = ref(false);
const MARKS: Readonly<Record<PutBackPreview['lines'][number]['what'], Mark>> = {
  back: 'verdigris',
  place: 'verdigris',
  menu: 'verdigris',
  links: 'verdigris',
  redirect: 'ochre',
  address: 'ochre',
  home: 'lapis',
  stays: 'dashed',
};

watch([() => JSON.stringify(props.things), () => site.versions.draft], () => {
  where.value = 'in-place';
  taken.value = undefined;
});
watch(
  [() => JSON.stringify(props.things), where, taken, () => site.versions.draft],
  async () => {
    if (site.id === undefined) return;
    problem.value = '';
    try {
      preview.value = await call(removalsApi.previewPutBack, {
        params: { site: site.id },
        body: { things: props.things, where: where.value, taken: taken.value ?? 'stop' },
      });
    } catch (error) {
      preview.value = undefined;
      problem.value = explain(error);
    }
  },
  { immediate: true },
);

const first = computed(() => preview.value?.taken[0]);
const isBlocked = computed(() => first.value !== undefined && taken.value === undefined);
const places = computed(() => [
  {
    value: 'in-place' as const,
    label:
      preview.value?.under.code === 'stood.at-top'
        ? say('putBackPanel.atTheTopInIts')
        : capitalise(preview.value ? speak(preview.value.under) : ''),
  },
  {
    value: 'with-parents' as const,
    label: say('putBackPanel.with2', { label: preview.value?.parentOut?.label ?? '' }),
  },
  { value: 'top' as const, label: say('putBackPanel.atTheEndOfThe') },
]);
const parentAway = ref<string>();
watch(preview, (now) => {
  if (now?.parentOut) parentAway.value = now.parentOut.label;
});
watch(
  () => JSON.stringify(props.things),
  () => {
    parentAway.value = undefined;
  },
);
const capitalise = (words: string) => words.slice(0, 1).toUpperCase() + words.slice(1);

async function putBack(): Promise<void> {
  if (isBlocked.value || preview.value === undefined) return;
  working.value = true;
  const done = await site.decide({
    kind: 'put-back',
    things: props.things,
    where: where.value,
    taken: taken.value ?? 'stop',
  });
  working.value = false;
  if (done) emit('done');
}
defineExpose({ putBack });
</script>

<template>
  <section class="panel" :aria-label="say('putBackPanel.puttingItBack')">
    <template v-if="preview">
      <div v-if="first" class="ask">
        <p class="wait">
          <RichWords
            :words="
              say.parts('putBackPanel.belongsToByNowAnd', {
                address: first.address,
                isFile: first.isFile,
                by: first.by,
                hasTaken: preview.taken.length > 1,
                taken: preview.taken.length - 1,
              })
            "
            ><template #b="{ words }"
              ><b class="address">{{ words }}</b></template
            ></RichWords
          >
        </p>
        <SegmentedChoice
          :model-value="taken ?? 'stop'"
          :label="say('putBackPanel.whatBecomesOfTheAddress')"
          :options="[
            { value: 'keep-both', label: say('putBackPanel.keepBothThisOneAt', { free: first.free }) },
            ...(first.isFile
              ? []
              : [
                  {
                    value: 'swap' as const,
                    label: say('putBackPanel.giveItBackMovesTo', { by: first.by, free: first.free }),
                  },
                ]),
          ]"
          @update:model-value="taken = $event"
        />
      </div>
      <div v-if="parentAway !== undefined" class="ask">
        <p class="wait">{{ say('putBackPanel.thePageAboveIsRemoved', { parentAway }) }}</p>
        <SegmentedChoice
          v-model="where"
          :label="say('putBackPanel.whereItComesToStand')"
          :options="
            where === 'in-place'
              ? places
              : [
                  { value: 'in-place', label: say('putBackPanel.whereItWasAsIt') },
                  { value: 'with-parents', label: say('putBackPanel.with', { parentAway }) },
                  { value: 'top', label: say('putBackPanel.atTheEndOfThe') },
                ]
          "
        />
      </div>
    </template>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-btn
      variant="flat"
      color="primary"
      :disabled="preview === undefined || isBlocked"
      :loading="working"
      @click="putBack"
      >{{ say('putBackPanel.putBack', { label: label ? ` ${label}` : '' }) }}<KeyHint keys="B"
    /></v-btn>
    <template v-if="preview && !isBlocked">
      <ul>
        <li v-for="line in preview.lines" :key="speak(line.message)">
          <KeystoneMark :mark="MARKS[line.what]" /><span>{{ speak(line.message) }}</span>
        </li>
      </ul>
    </template>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
  justify-items: start;
}
.panel > :not(.v-btn) {
  width: 100%;
}
.ask {
  box-sizing: border-box;
  display: grid;
  gap: 6px;
  padding: 8px 10px;
  background: var(--ochre-tint);
  border-radius: 3px;
}
.wait {
  color: var(--ochre-dark);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: var(--line);
}
li {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px;
  align-items: baseline;
  padding: 5px 0;
  border-bottom: var(--line);
  overflow-wrap: anywhere;
}
p {
  margin: 0;
}
</style>
