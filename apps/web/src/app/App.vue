<script setup lang="ts">
import { onErrorCaptured, watch } from 'vue';
import { useRoute } from 'vue-router';
import { useNotices } from '../stores/notices.ts';
import { useSite } from '../stores/site.ts';
import NoticeLine from './NoticeLine.vue';

const notices = useNotices();
const site = useSite();
const route = useRoute();

onErrorCaptured((error) => {
  console.error(error);
  notices.problem(error);
  return false;
});
watch(
  () => [route.meta.title, site.overview?.name],
  () => (document.title = site.overview ? `${site.overview.name} · Fastigium` : 'Fastigium'),
);
</script>

<template>
  <v-app>
    <RouterView />
    <NoticeLine />
  </v-app>
</template>
