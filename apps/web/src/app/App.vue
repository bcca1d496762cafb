<script setup lang="ts">
import { onErrorCaptured, watch } from 'vue';
import { useRoute } from 'vue-router';
import { useNotices } from '../stores/notices.ts';
import { useSite } from '../stores/site.ts';
import { useSession } from '../stores/session.ts';
import NoticeLine from './NoticeLine.vue';
import SignInAgain from './SignInAgain.vue';
import { say } from './words.ts';

const notices = useNotices();
const site = useSite();
const session = useSession();
const route = useRoute();

onErrorCaptured((error) => {
  console.error(error);
  notices.problem(error);
  return false;
});
watch(
  () => [route.meta.title, site.overview?.name],
  () => (document.title = site.overview ? say('app.fastigium', { name: site.overview.name }) : 'Fastigium'),
);
</script>

<template>
  <v-app>
    <RouterView />
    <NoticeLine />
    <SignInAgain v-if="session.asking" :email="session.asking.email" @leave="session.asking.answer(false)" />
  </v-app>
</template>
