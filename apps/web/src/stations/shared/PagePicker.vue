<script setup lang="ts">
/** Choosing a page by any letters of its title or address, or writing an address out. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { computed, ref, watch } from 'vue';
import { find } from '../../logic/find.ts';
import { typedTarget, type PickedTarget } from './pickedTarget.ts';

const props = defineProps<{ pages: readonly PageRow[]; disabled: boolean }>();
const model = defineModel<PickedTarget | undefined>({ required: true });
const MOST = 5;
const field = ref<HTMLInputElement>();
const at = ref(0);
const open = ref(false);

const all = computed(() => props.pages.filter(({ kind }) => kind === 'page').map((page) => ({ page, text: `${page.title} ${page.address}`.toLowerCase() })));
const wordsOf = (target: PickedTarget | undefined) => {
  if (target === undefined) return '';
  if (target.kind === 'url') return target.url;
  if (target.kind === 'address') return target.address;
  const page = props.pages.find(({ id }) => id === target.page);
  return page ? page.address : '';
};
const typed = ref(wordsOf(model.value));
const chosen = computed(() => (model.value?.kind === 'page' ? props.pages.find(({ id }) => model.value?.kind === 'page' && id === model.value.page) : undefined));
const found = computed(() => find(all.value, typed.value, MOST).map(({ page }) => page));

watch(model, (target) => {
  if (target?.kind === 'page' || target === undefined) typed.value = wordsOf(target);
});
watch(found, () => (at.value = 0));

function onInput(): void {
  open.value = true;
  // A whole address of a page is that page; anything else written out is taken as it stands.
  const page = props.pages.find(({ address }) => address === typed.value.trim());
  model.value = page ? { kind: 'page', page: page.id } : typedTarget(typed.value);
}

function pick(page: PageRow | undefined): void {
  if (!page) return;
  model.value = { kind: 'page', page: page.id };
  typed.value = page.address;
  open.value = false;
}

function onKey(event: KeyboardEvent): void {
  const digit = /^[1-9]$/.test(event.key) && event.altKey ? Number(event.key) : undefined;
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    open.value = true;
    at.value = Math.max(0, Math.min(found.value.length - 1, at.value + (event.key === 'ArrowDown' ? 1 : -1)));
  } else if (digit !== undefined) pick(found.value[digit - 1]);
  else if (event.key === 'Enter' && open.value && typed.value.trim() !== '' && model.value === undefined) pick(found.value[at.value]);
  else return;
  event.preventDefault();
}

defineExpose({
  focus: () => {
    field.value?.focus();
    field.value?.select();
  },
});
</script>

<template>
  <div class="picker">
    <input
      ref="field" v-model="typed" class="typed address" type="text" placeholder="letters of a title or address" aria-label="Where it lands" role="combobox"
      aria-controls="picker-found" :aria-expanded="open" :aria-activedescendant="open ? `picker-${at}` : undefined" :disabled="disabled" autocomplete="off"
      @input="onInput" @focus="open = true" @keydown="onKey"
    />
    <p v-if="chosen && !open" class="chosen"><b>{{ chosen.title || chosen.address }}</b></p>
    <ul v-if="open && !disabled" id="picker-found" role="listbox" aria-label="Pages found">
      <li
        v-for="(page, index) in found" :id="`picker-${index}`" :key="page.id" role="option" :aria-selected="page.id === chosen?.id"
        :class="{ at: index === at, on: page.id === chosen?.id }" @mousedown.prevent="pick(page)"
      >
        <span class="number" aria-hidden="true">{{ index + 1 }}</span>
        <span class="words"><span class="strong one-line">{{ page.title || 'no title' }}</span><span class="address quiet one-line">{{ page.address }}</span></span>
      </li>
      <li v-if="found.length === 0" class="none">{{ model ? 'Not a page of the draft; it is taken as you wrote it.' : 'No page holds these letters.' }}</li>
    </ul>
  </div>
</template>

<style scoped>
.typed { width: 100%; box-sizing: border-box; padding: 8px 10px; color: inherit; background: var(--bench); border: 1px solid var(--stone-5); border-radius: 3px; }
.typed:disabled { opacity: 0.5; }
ul { list-style: none; margin: 6px 0 0; padding: 0; border: var(--line); border-radius: 3px; }
li { display: grid; grid-template-columns: auto 1fr; gap: 10px; padding: 5px 10px; border-bottom: var(--line); cursor: default; }
li:last-child { border-bottom: 0; }
li.at { background: var(--stone-1); }
li.on { background: var(--lapis-tint); }
.number { align-self: center; border: 1px solid var(--ink-5); border-radius: 3px; font-size: 11px; line-height: 16px; padding: 0 5px; color: var(--ink-5); }
.words { display: grid; min-width: 0; line-height: 18px; }
.none { display: block; color: var(--ink-5); font-size: 12px; }
.chosen { margin: 6px 0 0; }
</style>
