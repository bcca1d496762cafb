<script setup lang="ts">
/** A text field under its label. The label stands outside the frame, so it never jumps or is cut. */
import { ref, useId } from 'vue';

defineOptions({ inheritAttrs: false });
defineProps<{ label: string; labelHidden?: boolean }>();
const model = defineModel<string>({ required: true });
const id = useId();
const field = ref<{ focus(): void; select(): void }>();

defineExpose({
  focus: () => {
    field.value?.focus();
    field.value?.select();
  },
});
</script>

<template>
  <div class="field">
    <label :for="id" :class="{ 'visually-hidden': labelHidden }">{{ label }}</label>
    <v-text-field :id="id" ref="field" v-model="model" v-bind="$attrs" single-line />
  </div>
</template>

<style scoped>
.field {
  display: grid;
  gap: 4px;
}
label {
  font-size: 12px;
  line-height: 16px;
  color: var(--ink-5);
}
</style>
