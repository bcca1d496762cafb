<script setup lang="ts">
/** One page: how it looks, its title, its place as home page. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { computed, ref, watch } from 'vue';
import KeyHint from '../../components/KeyHint.vue';
import LabelledField from '../../components/LabelledField.vue';
import { count } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import PagePreview from './PagePreview.vue';

const props = defineProps<{ page: PageRow; version: number }>();
const emit = defineEmits<{ home: []; back: [] }>();
const site = useSite();
const session = useSession();
const title = ref(props.page.title);
const field = ref<{ focus(): void }>();
const saving = ref(false);
const changed = computed(() => title.value.trim() !== props.page.title);

// Someone else may have set the title meanwhile; what is being typed here is not thrown away for it.
watch(() => props.page.title, (now, before) => {
  if (title.value === before) title.value = now;
});

async function save(): Promise<void> {
  if (!changed.value) {
    emit('back');
    return;
  }
  saving.value = true;
  const done = await site.decide({ kind: 'title', page: props.page.id, title: title.value });
  saving.value = false;
  if (done) emit('back');
}

defineExpose({
  editTitle: () => field.value?.focus(),
});
</script>

<template>
  <h1 class="title-face">{{ page.title || 'Page without a title' }}</h1>
  <p class="address quiet where">{{ page.address }}</p>
  <PagePreview :address="page.address" :version="version" :name="page.title || page.address" />
  <hr class="rule" />
  <h2 class="heading">Title <span class="quiet">{{ count(title.trim().length, 'letter') }}</span></h2>
  <form class="title-form" @submit.prevent="save">
    <LabelledField ref="field" v-model="title" label="Title of the page" label-hidden :readonly="!session.mayEdit" maxlength="1000" @keydown.esc="emit('back')" />
    <v-btn v-if="session.mayEdit" type="submit" :variant="changed ? 'flat' : 'outlined'" :color="changed ? 'primary' : undefined" height="36" :loading="saving" :disabled="!changed">Set<KeyHint keys="Enter" /></v-btn>
  </form>
  <p v-if="page.importedTitle !== null" class="quiet">In the imported file: “{{ page.importedTitle || 'none' }}”</p>
  <hr class="rule" />
  <h2 class="heading">Home page</h2>
  <p v-if="page.isHome"><b>This is the home page.</b> It answers at <span class="address">/</span>.</p>
  <template v-else>
    <p class="explain">As home page it would answer at <span class="address">/</span>: its address of today redirects there, links follow, and the home page of today moves to an address of its own.</p>
    <v-btn v-if="session.mayEdit" @click="emit('home')">Use as home page<KeyHint keys="H" /></v-btn>
  </template>
  <hr class="rule" />
  <p class="quiet">{{ page.linksIn === 0 ? 'No page leads here' : `${count(page.linksIn, 'page')} ${page.linksIn === 1 ? 'leads' : 'lead'} here` }}. Source file <span class="address">{{ page.sourcePath }}</span></p>
</template>

<style scoped>
p { margin: 0 0 8px; }
.where { margin: 2px 0 10px; }
.title-form { display: grid; grid-template-columns: 1fr auto; gap: 8px; align-items: start; margin-bottom: 8px; }
.explain { color: var(--ink-7); }
</style>
