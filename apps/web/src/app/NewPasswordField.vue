<script setup lang="ts">
/** Where somebody writes a new password; what else it has to be the server says, which has the lists of known ones. */
import LabelledField from '../components/LabelledField.vue';

defineProps<{ label: string }>();
const model = defineModel<string>({ required: true });
</script>

<template>
  <LabelledField
    v-model="model"
    :label="label"
    type="password"
    autocomplete="new-password"
    hint="At least 10 characters, and none that guessers know; a few words are good"
    persistent-hint
  />
</template>
