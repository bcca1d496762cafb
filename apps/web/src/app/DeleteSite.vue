<script setup lang="ts">
/** Deleting a site, for an owner: what stays, what goes and when, and its name typed again. */
import { sitesApi, type GoingSite, type SiteSummary } from '@fastigium/contracts/api/sites';
import { ref, watch } from 'vue';
import { call } from '../api/client.ts';
import LabelledField from '../components/LabelledField.vue';
import { useAttempt } from './attempt.ts';
import { say } from './words.ts';

const props = defineProps<{ site: SiteSummary }>();
const emit = defineEmits<{ deleted: [GoingSite]; close: [] }>();
const confirmed = ref('');
const { problem, busy, attempt } = useAttempt();
watch(
  () => props.site.id,
  () => {
    confirmed.value = '';
    problem.value = '';
  },
);

const remove = () =>
  attempt(async () => {
    const { id } = props.site;
    emit('deleted', await call(sitesApi.delete, { params: { site: id }, body: { confirmed: confirmed.value } }));
  });
</script>

<template>
  <h2 class="title-face">{{ say('deleteSite.delete', { name: site.name }) }}</h2>
  <p>{{ say('deleteSite.nobodySeesIt') }}</p>
  <p v-if="site.liveRelease !== null">
    {{ say('deleteSite.staysLive', { answersAt: site.answersAt ?? '' }) }}
  </p>
  <form class="form" @submit.prevent="remove">
    <LabelledField v-model="confirmed" :label="say('deleteSite.typeItsName', { name: site.name })" autofocus />
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <div class="acts">
      <v-btn
        type="submit"
        variant="flat"
        color="primary"
        height="38"
        :loading="busy"
        :disabled="confirmed.trim() !== site.name"
      >
        {{ say('deleteSite.deleteThisSite') }}
      </v-btn>
      <button class="text-link" type="button" @click="emit('close')">{{ say('deleteSite.keepIt') }}</button>
    </div>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 14px;
  margin-top: 18px;
}
.acts {
  display: flex;
  align-items: center;
  gap: 18px;
}
</style>
