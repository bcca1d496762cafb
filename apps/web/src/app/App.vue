<script setup lang="ts">
import { defineAsyncComponent, onErrorCaptured } from 'vue';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import NoticeLine from './NoticeLine.vue';

const SignInAgain = defineAsyncComponent(() => import('./SignInAgain.vue'));
const notices = useNotices();
const session = useSession();

onErrorCaptured((error) => {
  console.error(error);
  notices.problem(error);
  return false;
});
</script>

<template>
  <v-app>
    <RouterView />
    <NoticeLine />
    <SignInAgain v-if="session.asking" :email="session.asking.email" @leave="session.asking.answer(false)" />
  </v-app>
</template>
