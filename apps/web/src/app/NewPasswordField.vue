<script setup lang="ts">
/** Where somebody writes a new password; what else it has to be the server says, which has the lists of known ones. */
import LabelledField from '../components/LabelledField.vue';
import { say } from './words.ts';

defineProps<{ label: string }>();
const model = defineModel<string>({ required: true });
</script>

<template>
  <LabelledField
    v-model="model"
    :label="label"
    type="password"
    autocomplete="new-password"
    :hint="say('newPasswordField.atLeast10CharactersAnd')"
    persistent-hint
  />
</template>
