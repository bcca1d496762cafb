<script setup lang="ts" generic="V extends string | number">
/** A few choices side by side, one of them chosen; arrows move between them. */
import { ref } from 'vue';

const props = defineProps<{
  modelValue: V;
  options: readonly { value: V; label: string; hint?: string }[];
  label: string;
}>();
/** Also for the one that is chosen already: whoever clicks it means it, and it is no default any more. */
const emit = defineEmits<{ 'update:modelValue': [value: V] }>();
const buttons = ref<HTMLButtonElement[]>([]);

function move(event: KeyboardEvent): void {
  const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
  if (step === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  const at = props.options.findIndex(({ value }) => value === props.modelValue);
  const next = (at + step + props.options.length) % props.options.length;
  const option = props.options[next];
  if (option) emit('update:modelValue', option.value);
  buttons.value[next]?.focus();
}
</script>

<template>
  <div class="choice" role="radiogroup" :aria-label="label" @keydown="move">
    <button
      v-for="option in options"
      :key="option.value"
      ref="buttons"
      type="button"
      role="radio"
      :aria-checked="option.value === modelValue"
      :tabindex="option.value === modelValue ? 0 : -1"
      :title="option.hint"
      :class="{ on: option.value === modelValue }"
      @click="emit('update:modelValue', option.value)"
    >
      {{ option.label }}
    </button>
  </div>
</template>

<style scoped>
.choice {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
button {
  font: inherit;
  font-size: 13px;
  line-height: 18px;
  padding: 3px 10px;
  background: var(--bench);
  color: var(--ink-9);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  cursor: pointer;
  white-space: nowrap;
}
button:hover {
  border-color: var(--ink-7);
}
button.on {
  background: var(--ink-9);
  border-color: var(--ink-9);
  color: var(--paper);
}
</style>
