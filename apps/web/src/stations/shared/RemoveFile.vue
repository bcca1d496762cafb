<script setup lang="ts">
/** Removing a file that is no page, from wherever it is met. */
import { draftApi, type PageRow } from '@fastigium/contracts/api/draft';
import { ref, shallowRef } from 'vue';
import { call } from '../../api/client.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import RemovePanel from './RemovePanel.vue';
import { say } from './words.ts';

defineProps<{ address: string }>();
const emit = defineEmits<{ removed: [] }>();
const site = useSite();
const notices = useNotices();
const pages = shallowRef<readonly PageRow[]>();
const isOpen = ref(false);

async function open(): Promise<void> {
  if (site.id === undefined) return;
  isOpen.value = true;
  try {
    pages.value = (await call(draftApi.pages, { params: { site: site.id } })).pages;
  } catch (error) {
    notices.problem(error);
    isOpen.value = false;
  }
}
</script>

<template>
  <v-btn v-if="!isOpen" color="error" @click="open">{{ say('removeFile.removeTheFile') }}</v-btn>
  <RemovePanel
    v-else-if="pages"
    :thing="{ kind: 'file', address }"
    :pages="pages"
    @leave="isOpen = false"
    @removed="((isOpen = false), emit('removed'))"
  />
</template>
