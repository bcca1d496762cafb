<script setup lang="ts">
/** A group, or a link to another site: its name, and removing it. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { ref } from 'vue';
import LabelledField from '../../components/LabelledField.vue';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { say } from './words.ts';

const props = defineProps<{ node: PageRow }>();
const emit = defineEmits<{ remove: [] }>();
const site = useSite();
const session = useSession();
const title = ref(props.node.title);
</script>

<template>
  <h1 class="title-face">{{ node.label }}</h1>
  <p class="quiet">
    {{ node.kind === 'group' ? say('nodeBench.aGroupItHoldsPages') : node.address }}
  </p>
  <form v-if="session.mayEdit" class="name" @submit.prevent="site.decide({ kind: 'title', page: node.id, title })">
    <LabelledField v-model="title" :label="say('common.name')" maxlength="1000" />
    <v-btn type="submit" height="36" :disabled="title.trim() === '' || title === node.title">{{
      say('common.set')
    }}</v-btn>
  </form>
  <hr class="rule" />
  <v-btn v-if="session.mayEdit" color="error" @click="emit('remove')">{{ say('nodeBench.remove') }}</v-btn>
</template>

<style scoped>
.name {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
}
p {
  margin: 6px 0 10px;
}
</style>
