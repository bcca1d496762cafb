<script setup lang="ts">
/**
 * Choosing where something leads: a page by any letters of its title or address, an element in it, home, a file, a
 * person, another site. Only what was picked counts; what is half typed never does.
 */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { pagesApi } from '@fastigium/contracts/api/pages';
import { useDebounceFn } from '@vueuse/core';
import { computed, ref, shallowRef, useId, watch } from 'vue';
import { call } from '../../api/client.ts';
import { formatReadable } from '../../logic/readable.ts';
import { useSite } from '../../stores/site.ts';
import { listChoices, sayTarget, type Choice, type Offer } from './picking.ts';
import type { PickedTarget } from './pickedTarget.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const props = withDefaults(
  defineProps<{
    pages: readonly PageRow[];
    disabled: boolean;
    offers?: readonly Offer[];
    /** Whether elements in a page can be meant. */ hasPlaces?: boolean;
  }>(),
  { offers: () => ['home', 'address', 'url'], hasPlaces: false },
);
const model = defineModel<PickedTarget | undefined>({ required: true });
const own = useId();
const field = ref<HTMLInputElement>();
const open = ref(false);
/** The row that Enter takes: the first found for what was typed, none before anything was. */
const at = ref(-1);
const typed = ref(sayTarget(model.value, props.pages));
const isTyped = ref(false);
const files = shallowRef<readonly string[]>([]);
const places = shallowRef<readonly { id: string; label: string }[]>([]);
const place = ref(model.value?.kind === 'page' ? (model.value.fragment ?? '') : '');
const placeProblem = ref('');

const chosenPage = computed(() => {
  const target = model.value;
  return target?.kind === 'page' ? props.pages.find(({ id }) => id === target.page) : undefined;
});
const choices = computed(() => listChoices(isTyped.value ? typed.value : '', props.pages, files.value, props.offers));
const isPending = computed(() => isTyped.value && typed.value.trim() !== '');

// Set from outside; what is being typed here is not thrown away for it.
watch(model, (target) => {
  if (isTyped.value) return;
  typed.value = sayTarget(target, props.pages);
  place.value = target?.kind === 'page' ? (target.fragment ?? '') : '';
});
watch(
  () => props.pages,
  (pages) => {
    if (!isTyped.value) typed.value = sayTarget(model.value, pages);
  },
);

const site = useSite();
const askFiles = useDebounceFn(async (words: string) => {
  if (site.id === undefined || !props.offers.includes('file')) return;
  const found =
    words.trim().length < 2
      ? []
      : await call(pagesApi.files, { params: { site: site.id }, query: { search: words.trim() } }).catch(() => []);
  if (words === typed.value) files.value = found;
}, 150);

function onInput(): void {
  [open.value, isTyped.value] = [true, true];
  at.value = typed.value.trim() === '' ? -1 : 0;
  files.value = [];
  runInBackground(askFiles(typed.value));
  // An emptied field means nothing any more; letters mean nothing until something is picked.
  if (typed.value.trim() === '') model.value = undefined;
}

function pick(choice: Choice | undefined): void {
  if (!choice) return;
  [isTyped.value, open.value, at.value, place.value, placeProblem.value] = [false, false, -1, '', ''];
  model.value = choice.target;
  typed.value = sayTarget(choice.target, props.pages);
}

/** Letters that are left without picking mean what they say whole: an address of a page, or of another site. */
function onBlur(): void {
  open.value = false;
  if (!isTyped.value) return;
  const whole = choices.value.find(
    ({ title, detail, target }) =>
      (target.kind === 'url' && [title, detail].includes(typed.value.trim())) ||
      (target.kind === 'page' && detail === typed.value.trim()),
  );
  if (whole) pick(whole);
}

function onKey(event: KeyboardEvent): void {
  const digit = /^[1-9]$/.test(event.key) && event.altKey ? Number(event.key) : undefined;
  if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    open.value = true;
    at.value = Math.max(0, Math.min(choices.value.length - 1, at.value + (event.key === 'ArrowDown' ? 1 : -1)));
  } else if (digit !== undefined) pick(choices.value[digit - 1]);
  else if (event.key === 'Enter' && open.value && at.value >= 0) pick(choices.value[at.value]);
  else if (event.key === 'Enter' && isPending.value) open.value = true;
  else if (event.key === 'Escape' && isTyped.value)
    [isTyped.value, open.value, typed.value] = [false, false, sayTarget(model.value, props.pages)];
  else return;
  event.preventDefault();
  event.stopPropagation();
}

watch(
  [chosenPage, () => props.hasPlaces],
  async ([page]) => {
    places.value = [];
    if (!props.hasPlaces || !page || site.id === undefined) return;
    const found = await call(pagesApi.places, { params: { site: site.id, page: page.id } }).catch(() => []);
    if (chosenPage.value?.id === page.id) places.value = found;
  },
  { immediate: true },
);

function setPlace(): void {
  const target = model.value;
  if (target?.kind !== 'page') return;
  const wanted = place.value.trim().replace(/^#/, '');
  placeProblem.value =
    wanted === '' || places.value.some(({ id }) => id === wanted)
      ? ''
      : say('pagePicker.thePageHasNoElement', { wanted });
  if (placeProblem.value === '')
    model.value =
      wanted === '' ? { kind: 'page', page: target.page } : { kind: 'page', page: target.page, fragment: wanted };
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
      ref="field"
      v-model="typed"
      class="typed address"
      type="text"
      :placeholder="say('pagePicker.lettersOfATitleOr')"
      :aria-label="say('pagePicker.whereItLands')"
      role="combobox"
      :aria-controls="`${own}-found`"
      :aria-expanded="open"
      :aria-activedescendant="open && at >= 0 ? `${own}-${at}` : undefined"
      :disabled="disabled"
      autocomplete="off"
      @input="onInput"
      @focus="open = true"
      @blur="onBlur"
      @keydown="onKey"
    />
    <!-- Always there: a line that came or went as the field is left would move what is just being clicked. -->
    <p class="said" :class="{ pending: isPending }" role="status">
      <template v-if="isPending">{{ say('pagePicker.notChosenYetEnterTakes') }}</template>
      <b v-else-if="chosenPage">{{ chosenPage.title || formatReadable(chosenPage.address) }}</b>
    </p>
    <!-- Always there as well: an address that is left whole is a page from then on, while something else is clicked. -->
    <div v-if="hasPlaces" class="place">
      <label :for="`${own}-place`" class="quiet">{{ say('pagePicker.elementInIt') }}</label>
      <input
        :id="`${own}-place`"
        v-model="place"
        class="typed address"
        type="text"
        :list="`${own}-places`"
        :placeholder="say('pagePicker.theTopOfThePage')"
        :disabled="disabled || !chosenPage"
        @change="setPlace"
        @keydown.enter.prevent.stop="setPlace"
      />
      <datalist :id="`${own}-places`">
        <option v-for="each in places" :key="each.id" :value="each.id">{{ each.label }}</option>
      </datalist>
      <p v-if="placeProblem" class="wrong" role="alert">{{ placeProblem }}</p>
    </div>
    <ul v-if="open && !disabled" :id="`${own}-found`" role="listbox" :aria-label="say('pagePicker.whatItMayLeadTo')">
      <li
        v-for="(choice, index) in choices"
        :id="`${own}-${index}`"
        :key="choice.key"
        role="option"
        :aria-selected="index === at"
        :class="{ at: index === at }"
        @mousedown.prevent="pick(choice)"
      >
        <span class="number" aria-hidden="true">{{ index + 1 }}</span>
        <span class="words"
          ><span class="strong one-line">{{ choice.title }}</span
          ><span class="address quiet one-line">{{ choice.detail }}</span></span
        >
      </li>
      <li v-if="choices.length === 0" class="none">
        {{ say('pagePicker.nothingHoldsTheseLettersA') }}
      </li>
    </ul>
  </div>
</template>

<style scoped>
.typed {
  width: 100%;
  box-sizing: border-box;
  padding: 8px 10px;
  color: inherit;
  background: var(--bench);
  border: 1px solid var(--stone-5);
  border-radius: 3px;
}
.typed:disabled {
  opacity: 0.5;
}
/* The list lies over what follows, so that nothing moves under the pointer when the field is left. */
.picker {
  position: relative;
}
ul {
  position: absolute;
  z-index: 4;
  left: 0;
  right: 0;
  top: 38px;
  max-height: 300px;
  overflow-y: auto;
  list-style: none;
  margin: 0;
  padding: 0;
  background: var(--bench);
  border: 1px solid var(--stone-5);
  border-radius: 3px;
}
li {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 10px;
  padding: 5px 10px;
  border-bottom: var(--line);
  cursor: default;
}
li:last-child {
  border-bottom: 0;
}
li.at {
  background: var(--lapis-tint);
}
li:hover:not(.at, .none) {
  background: var(--stone-1);
}
.number {
  align-self: center;
  border: 1px solid var(--ink-5);
  border-radius: 3px;
  font-size: 11px;
  line-height: 16px;
  padding: 0 5px;
  color: var(--ink-5);
}
.words {
  display: grid;
  min-width: 0;
  line-height: 18px;
}
.none {
  display: block;
  color: var(--ink-5);
  font-size: 12px;
}
.said {
  min-height: 20px;
  margin: 6px 0 0;
}
.pending {
  color: var(--ochre-dark);
  font-size: 13px;
}
.place {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px;
  align-items: center;
  margin-top: 8px;
}
.place > .wrong {
  grid-column: 1 / -1;
  margin: 0;
}
</style>
