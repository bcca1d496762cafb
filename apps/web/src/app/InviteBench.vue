<script setup lang="ts">
/** A link by which one person may join, in a role, for some sites or all. */
import { peopleApi } from '@fastigium/contracts/api/people';
import type { SiteSummary } from '@fastigium/contracts/api/sites';
import { ROLES, type Role } from '@fastigium/contracts/endpoint';
import { computed, ref, watch } from 'vue';
import { call } from '../api/client.ts';
import SegmentedChoice from '../components/SegmentedChoice.vue';
import { useAttempt } from './attempt.ts';
import OneTimeLink from './OneTimeLink.vue';
import { ROLE_NAMES, ROLE_WORDS } from './roles.ts';
import SeenSites from './SeenSites.vue';
import { say } from './words.ts';

defineProps<{ sites: readonly SiteSummary[] }>();
const emit = defineEmits<{ invited: [] }>();
const role = ref<Role>('editor');
const seen = ref<readonly string[] | null>(null);
const link = ref('');
const { problem, busy, attempt } = useAttempt();
const lacksSite = computed(() => role.value === 'client' && (seen.value?.length ?? 0) === 0);
watch(role, (next) => {
  link.value = '';
  // A client sees what is named, so nothing is marked to begin with; an owner sees all.
  seen.value = next === 'client' ? [] : null;
});

const invite = () =>
  attempt(async () => {
    const sites = seen.value === null ? null : [...seen.value];
    const { token } = await call(peopleApi.invite, { body: { role: role.value, days: 7, sites } });
    link.value = `${location.origin}/join/${token}`;
    emit('invited');
  });
</script>

<template>
  <h2 class="title-face">{{ say('inviteBench.inviteSomebody') }}</h2>
  <p class="quiet">{{ say('inviteBench.theLinkIsGoodFor') }}</p>
  <SegmentedChoice
    v-model="role"
    :label="say('inviteBench.role')"
    :options="ROLES.map((each) => ({ value: each, label: ROLE_NAMES[each] }))"
  />
  <p>{{ ROLE_WORDS[role] }}</p>
  <template v-if="role !== 'owner'">
    <h3 class="heading">{{ say('common.sites') }}</h3>
    <SeenSites v-model="seen" :sites="sites" :only-some="role === 'client'" />
  </template>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <p>
    <v-btn variant="flat" color="primary" :loading="busy" :disabled="lacksSite" @click="invite">{{
      say('inviteBench.makeALink')
    }}</v-btn>
    <span v-if="lacksSite" class="quiet"> {{ say('inviteBench.chooseWhatTheClientSees') }}</span>
  </p>
  <OneTimeLink v-if="link" :link="link" />
</template>
