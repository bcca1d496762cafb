<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatReadable } from '../../logic/readable.ts';
import type { JudgedRow, Limits } from './judging.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const props = defineProps<{
  each: JudgedRow;
  grid: string;
  limits: Limits;
  flat: boolean;
  editing: 'title' | 'description' | undefined;
}>();
const emit = defineEmits<{
  leave: [{ text: string | undefined; then: 'down' | 'up' | 'across' | 'none' }];
  edit: [column: 'title' | 'description'];
}>();
const typed = ref('');
const field = ref<HTMLInputElement>();
const row = computed(() => props.each.row);

watch(
  () => [props.editing, row.value.id] as const,
  ([column]) => {
    if (column === undefined) return;
    typed.value =
      column === 'title' ? row.value.ownTitle : row.value.description.text || row.value.suggestedDescription;
    runInBackground(
      nextTick(() => {
        field.value?.focus();
        field.value?.select();
      }),
    );
  },
  { immediate: true },
);

function onKey(event: KeyboardEvent): void {
  const then = { Enter: event.shiftKey ? 'up' : 'down', ArrowDown: 'down', ArrowUp: 'up', Tab: 'across' }[event.key] as
    'down' | 'up' | 'across' | undefined;
  event.stopPropagation();
  if (event.key !== 'Escape' && !then) return;
  event.preventDefault();
  emit('leave', { text: then ? typed.value : undefined, then: then ?? 'none' });
}

/** A cell that a key has left already goes, and takes the focus with it. */
function onBlur(column: 'title' | 'description'): void {
  if (props.editing === column) emit('leave', { text: typed.value, then: 'none' });
}

const FAULTS = {
  missing: say('pageMetadataRow.missing'),
  long: say('pageMetadataRow.cutOff'),
  short: say('pageMetadataRow.short'),
  doubled: say('pageMetadataRow.doubled'),
} as const;
const share = computed(() => Math.min(100, (props.each.titlePx / props.limits.titlePx) * 100));
const isSuggested = computed(() => row.value.description.text === '' && row.value.suggestedDescription !== '');
</script>

<template>
  <div class="cells" :style="{ gridTemplateColumns: grid }">
    <span class="two" :style="{ paddingInlineStart: `${flat ? 0 : Math.min(row.depth, 4) * 14}px` }">
      <span class="one-line" :class="{ held: !row.isReady }" :title="row.label">{{
        row.label || say('common.noTitle')
      }}</span>
      <span class="address quiet one-line" :title="row.address">{{ formatReadable(row.address) }}</span>
    </span>
    <input
      v-if="editing === 'title'"
      ref="field"
      v-model="typed"
      class="cell"
      :aria-label="say('pageMetadataRow.title')"
      maxlength="1000"
      @keydown="onKey"
      @blur="onBlur('title')"
      @click.stop
      @dblclick.stop
    />
    <span v-else class="two" @dblclick.stop="emit('edit', 'title')">
      <span class="one-line" :title="row.title.text">{{ row.title.text || '–' }}</span>
      <span class="measure"
        ><span class="bar" aria-hidden="true"
          ><span :class="{ over: each.title === 'long' }" :style="{ inlineSize: `${share}%` }" /></span
        ><span class="quiet figures">{{
          say('pageMetadataRow.aboutPx', { isGuessed: each.isGuessed, titlePx: Math.round(each.titlePx) })
        }}</span
        ><span v-if="each.title" class="fault">{{ FAULTS[each.title] }}</span></span
      >
    </span>
    <input
      v-if="editing === 'description'"
      ref="field"
      v-model="typed"
      class="cell"
      :aria-label="say('pageMetadataRow.description')"
      maxlength="2000"
      @keydown="onKey"
      @blur="onBlur('description')"
      @click.stop
      @dblclick.stop
    />
    <span v-else class="two" @dblclick.stop="emit('edit', 'description')">
      <span
        class="one-line"
        :class="{ suggested: isSuggested }"
        :title="row.description.text || row.suggestedDescription"
        >{{ row.description.text || row.suggestedDescription || '–' }}</span
      >
      <span class="measure"
        ><span class="quiet figures">{{
          isSuggested
            ? say('pageMetadataRow.suggestedNotTaken')
            : say('pageMetadataRow.letters', { letters: each.letters })
        }}</span
        ><span v-if="each.description" class="fault">{{ FAULTS[each.description] }}</span></span
      >
    </span>
    <span
      class="quiet"
      :class="{ wrong: row.language.text === '' }"
      :title="row.language.text === '' ? say('pageMetadataRow.noLanguage') : undefined"
      >{{ row.language.text || '–' }}</span
    >
    <span class="mark quiet" :title="row.shareImage.text || say('pageMetadataRow.noSharePicture')"
      ><KeystoneMark :mark="row.shareImage.text === '' ? 'dashed' : 'verdigris'" />{{
        row.shareImage.text === '' ? say('common.none') : say('pageMetadataRow.yes')
      }}</span
    >
    <span
      class="quiet one-line"
      :class="{ fault: each.isShut || row.conflicts > 0 }"
      :title="row.robots.text || row.canonical.text"
      >{{
        row.conflicts > 0
          ? say('pageMetadataRow.conflict')
          : each.isShut
            ? say('pageMetadataRow.keptOut')
            : say('pageMetadataRow.found')
      }}</span
    >
  </div>
</template>

<style scoped>
.cells {
  display: grid;
  gap: 16px;
  align-items: center;
  line-height: 18px;
}
/* Blocks and lines, not grids in grids: thirty rows are laid out anew at each jump of the list. */
.two {
  display: block;
  min-width: 0;
  overflow: hidden;
}
.two > .one-line {
  display: block;
}
.address {
  font-size: 11px;
}
.measure {
  display: block;
  font-size: 11px;
  line-height: 16px;
  white-space: nowrap;
  overflow: hidden;
}
.measure > :not(:last-child) {
  margin-inline-end: 8px;
}
.figures {
  font-variant-numeric: tabular-nums;
  font-size: 11px;
}
.bar {
  display: inline-block;
  vertical-align: middle;
  width: 64px;
  height: 4px;
  background: var(--stone-2);
}
.bar span {
  display: block;
  height: 100%;
  background: var(--verdigris);
}
.bar span.over {
  background: var(--ochre);
}
.fault {
  color: var(--ochre-dark);
  white-space: nowrap;
}
.suggested {
  color: var(--ink-5);
  font-style: italic;
  border-bottom: 1px dashed var(--stone-5);
}
.mark {
  display: flex;
  align-items: center;
  gap: 5px;
}
.held {
  color: var(--ink-5);
  font-style: italic;
}
.cell {
  font: inherit;
  color: inherit;
  background: var(--bench);
  border: 1px solid var(--lapis);
  border-radius: 2px;
  padding: 5px 8px;
  min-width: 0;
  width: 100%;
  box-sizing: border-box;
}
</style>
