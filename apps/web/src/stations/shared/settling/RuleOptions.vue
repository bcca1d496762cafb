<script setup lang="ts">
/** How strictly an old address is taken, what becomes of the query, why the rule is there and until when. */
import { ref } from 'vue';
import LabelledField from '../../../components/LabelledField.vue';
import { say } from '../words.ts';

const options = defineModel<{ dropsQuery: boolean; ignoreCase: boolean; anySlash: boolean }>('options', {
  required: true,
});
const note = defineModel<string>('note', { required: true });
/** The last day it holds; empty for without end. */
const until = defineModel<string>('until', { required: true });
const hasTerm = ref(note.value !== '' || until.value !== '');
</script>

<template>
  <div class="options">
    <label><input v-model="options.dropsQuery" type="checkbox" /> {{ say('ruleOptions.dropTheVisitorsQuery') }}</label>
    <label
      ><input v-model="options.ignoreCase" type="checkbox" /> {{ say('ruleOptions.letterCaseDoesNotCount') }}</label
    >
    <label><input v-model="options.anySlash" type="checkbox" /> {{ say('ruleOptions.withALastSlashOr') }}</label>
  </div>
  <p v-if="!hasTerm" class="apart">
    <button class="text-link" type="button" @click="hasTerm = true">
      {{ say('ruleOptions.withANoteOrUntil') }}
    </button>
  </p>
  <div v-else class="term">
    <LabelledField
      v-model="note"
      :label="say('common.note')"
      :placeholder="say('ruleOptions.whyItIsThere')"
      maxlength="500"
    />
    <LabelledField
      v-model="until"
      type="date"
      :label="say('ruleOptions.until')"
      :title="say('ruleOptions.theLastDayItHolds')"
    />
  </div>
</template>

<style scoped>
p {
  margin: 2px 0;
}
.options {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  margin-top: 8px;
  font-size: 12px;
  color: var(--ink-7);
}
.options label {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
.options input {
  margin: 0;
}
.term {
  display: grid;
  grid-template-columns: 1fr 150px;
  gap: 10px;
  margin-top: 10px;
}
.apart {
  margin-top: 12px;
  font-size: 12px;
}
</style>
