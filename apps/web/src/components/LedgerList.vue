<script setup lang="ts" generic="T">
/**
 * A list to be worked through by keyboard: arrows or J and K move, Home and End jump, Enter decides.
 * Only the rows in view exist, so 50,000 scroll as smoothly as 50. It knows no feature.
 */
import { useVirtualizer } from '@tanstack/vue-virtual';
import { computed, ref, watch } from 'vue';
import { reckonRowPositions } from './rowPositions.ts';

const props = defineProps<{
  items: readonly T[];
  keyOf: (item: T) => string;
  label: string;
  rowHeight: number;
  /** The chosen row's key. */
  modelValue: string | undefined;
  /** For trees: a row's depth, from 0. */
  depthOf?: (item: T) => number;
  /** For trees: whether what is below a row is shown; undefined where nothing is. */
  openOf?: (item: T) => boolean | undefined;
  /** Rows that head a group cannot be chosen. */
  isHeading?: (item: T) => boolean;
  /** Rows that can be taken by the pointer and put down elsewhere. */
  canDrag?: boolean;
}>();
const emit = defineEmits<{
  'update:modelValue': [key: string];
  enter: [item: T];
  pick: [];
  key: [event: KeyboardEvent, item: T | undefined];
  drop: [item: T, onto: T, where: 'before' | 'inside' | 'after'];
}>();
defineSlots<{ default(props: { item: T; selected: boolean }): unknown; empty(): unknown }>();

const scroller = ref<HTMLElement>();
const virtualizer = useVirtualizer(
  // All rows are of one height, so none has to be known by more than its place.
  computed(() => {
    const { rowHeight, items } = props;
    return {
      count: items.length,
      getScrollElement: () => scroller.value ?? null,
      estimateSize: () => rowHeight,
      overscan: 4,
    };
  }),
);
const selectedIndex = computed(() => {
  // Taken out of the props once, not for each of fifty thousand rows.
  const { items, keyOf, modelValue } = props;
  return items.findIndex((item) => keyOf(item) === modelValue);
});
const positions = computed(() => {
  const { items, depthOf, isHeading } = props;
  return reckonRowPositions(items.map((item) => (isHeading?.(item) ? undefined : (depthOf?.(item) ?? 0))));
});
const nameRow = (index: number) => `ledger-row-${index}`;

watch(
  selectedIndex,
  (index) => {
    if (index >= 0) virtualizer.value.scrollToIndex(index, { align: 'auto' });
  },
  { immediate: true, flush: 'post' },
);

function choose(index: number, direction: 1 | -1): void {
  for (let at = index; at >= 0 && at < props.items.length; at += direction) {
    const item = props.items[at];
    if (item === undefined || props.isHeading?.(item)) continue;
    emit('update:modelValue', props.keyOf(item));
    return;
  }
}

function onKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey) return;
  if (event.altKey) {
    emit('key', event, props.items[selectedIndex.value]);
    return;
  }
  const last = props.items.length - 1;
  const page = Math.max(1, Math.floor((scroller.value?.clientHeight ?? 0) / props.rowHeight) - 1);
  const at = selectedIndex.value;
  const moves: Record<string, () => void> = {
    ArrowDown: () => choose(at + 1, 1),
    j: () => choose(at + 1, 1),
    ArrowUp: () => choose(at < 0 ? last : at - 1, -1),
    k: () => choose(at < 0 ? last : at - 1, -1),
    Home: () => choose(0, 1),
    End: () => choose(last, -1),
    PageDown: () => choose(Math.min(last, at + page), -1),
    PageUp: () => choose(Math.max(0, at - page), 1),
  };
  const move = moves[event.key];
  const item = props.items[at];
  if (move) move();
  else if (event.key === 'Enter' && item !== undefined) emit('enter', item);
  else {
    emit('key', event, item);
    return;
  }
  event.preventDefault();
}

/** The key of the row that is being dragged, and where it would come to stand. */
const dragged = ref<string>();
const over = ref<{ key: string; where: 'before' | 'inside' | 'after' }>();

function onDragOver(event: DragEvent, item: T): void {
  const key = props.keyOf(item);
  if (dragged.value === undefined || dragged.value === key) return;
  event.preventDefault();
  const box = (event.currentTarget as HTMLElement).getBoundingClientRect();
  const part = (event.clientY - box.top) / box.height;
  over.value = { key, where: part < 0.28 ? 'before' : part > 0.72 ? 'after' : 'inside' };
}

function onDrop(item: T): void {
  const from = props.items.find((each) => props.keyOf(each) === dragged.value);
  if (from !== undefined && over.value) emit('drop', from, item, over.value.where);
  dragged.value = undefined;
  over.value = undefined;
}

defineExpose({ focus: () => scroller.value?.focus() });
</script>

<template>
  <div
    ref="scroller"
    class="ledger-list"
    tabindex="0"
    :role="items.length === 0 ? 'group' : depthOf ? 'tree' : 'listbox'"
    :aria-label="label"
    :aria-activedescendant="selectedIndex >= 0 ? nameRow(selectedIndex) : undefined"
    @keydown="onKey"
  >
    <div v-if="items.length > 0" class="rows" :style="{ height: `${virtualizer.getTotalSize()}px` }">
      <!-- A row that leaves the view becomes one that comes into it: making new ones is dearer. -->
      <template v-for="row in virtualizer.getVirtualItems()" :key="row.index % virtualizer.getVirtualItems().length">
        <div
          v-if="items[row.index] !== undefined"
          :id="nameRow(row.index)"
          class="row"
          :class="[
            { selected: row.index === selectedIndex, group: isHeading?.(items[row.index] as T) },
            over?.key === keyOf(items[row.index] as T) ? over.where : undefined,
          ]"
          :draggable="canDrag ? 'true' : undefined"
          :role="isHeading?.(items[row.index] as T) ? 'presentation' : depthOf ? 'treeitem' : 'option'"
          :aria-level="depthOf ? depthOf(items[row.index] as T) + 1 : undefined"
          :aria-expanded="openOf?.(items[row.index] as T)"
          :aria-selected="isHeading?.(items[row.index] as T) ? undefined : row.index === selectedIndex"
          :aria-posinset="positions[row.index]?.at"
          :aria-setsize="positions[row.index]?.of"
          :style="{ height: `${rowHeight}px`, transform: `translateY(${row.start}px)` }"
          @dragstart="dragged = keyOf(items[row.index] as T)"
          @dragover="onDragOver($event, items[row.index] as T)"
          @dragleave="over = undefined"
          @drop.prevent="onDrop(items[row.index] as T)"
          @dragend="dragged = over = undefined"
          @click="(choose(row.index, 1), emit('pick'))"
          @dblclick="emit('enter', items[row.index] as T)"
        >
          <slot :item="items[row.index] as T" :selected="row.index === selectedIndex" />
        </div>
      </template>
    </div>
    <slot v-else name="empty" />
  </div>
</template>

<style scoped>
.ledger-list {
  flex: 1;
  min-height: 0;
  overflow: auto;
  position: relative;
  contain: strict;
}
.ledger-list:focus-visible {
  outline-offset: -2px;
}
/* Rows lie over the list's own outline; the chosen row carries it for the list. */
.ledger-list:focus-visible:has(.row.selected) {
  outline: none;
}
.ledger-list:focus-visible .row.selected {
  outline: 2px solid var(--lapis);
  outline-offset: -2px;
}
.rows {
  position: relative;
  width: 100%;
}
.row {
  position: absolute;
  inset: 0 0 auto;
  display: grid;
  align-items: center;
  padding-inline: 20px;
  box-sizing: border-box;
  border-bottom: var(--line);
  border-left: 3px solid transparent;
  padding-left: 17px;
  cursor: default;
  /* Its size is known, so that one row is laid out without the others. */
  contain: strict;
}
.row:not(.group):hover {
  background: var(--stone-1);
}
/* Quiet words turn darker on the tint, where they would be too faint. */
.row.selected,
.row.selected:hover {
  background: var(--lapis-tint);
  border-left-color: var(--lapis);
  --ink-5: var(--ink-7);
}
.row.before {
  box-shadow: inset 0 2px var(--lapis);
}
.row.after {
  box-shadow: inset 0 -2px var(--lapis);
}
.row.inside {
  box-shadow: inset 0 0 0 2px var(--lapis);
}
.row.group {
  align-items: end;
  padding-bottom: 6px;
}
</style>
