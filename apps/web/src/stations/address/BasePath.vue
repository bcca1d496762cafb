<script setup lang="ts">
/** At the root or under a path. It is a change of the draft: visitors see it with the next release, and it can be taken back. */
import { computed, ref, watch } from 'vue';
import LabelledField from '../../components/LabelledField.vue';
import { useSite } from '../../stores/site.ts';
import { useAddress } from './address.ts';

const site = useSite();
const { view } = useAddress();
const path = ref('');
const busy = ref(false);
const now = computed(() => site.overview?.basePath ?? '');
watch(
  now,
  (base) => {
    path.value = base;
  },
  { immediate: true },
);
const temporary = computed(() => view.value?.temporary ?? undefined);
const isShared = computed(() => now.value === `/${temporary.value?.label}`);
const shared = computed(() =>
  temporary.value ? `${temporary.value.url.replace(/\/\/[^.]+\./, '//sites.')}${temporary.value.label}/` : '',
);

async function move(to: string): Promise<void> {
  busy.value = true;
  await site.decide({ kind: 'base-path', path: to });
  busy.value = false;
}
</script>

<template>
  <template v-if="(site.overview?.files ?? 0) > 0">
    <hr class="rule" />
    <h2 class="heading">
      At the root, or under a path<span class="quiet">{{ now === '' ? 'at the root' : `under ${now}/` }}</span>
    </h2>
    <form class="pair" @submit.prevent="move(path)">
      <LabelledField v-model="path" label="Path; empty for the root" placeholder="/museum" class="address" />
      <v-btn type="submit" height="36" :disabled="busy || path.trim().replace(/^\/+|\/+$/g, '') === now.slice(1)"
        >Move it</v-btn
      >
    </form>
    <p class="quiet">
      All inner links follow, and the addresses of before redirect. Visitors see it with the next release; one step back
      undoes it.
    </p>
    <p v-if="temporary && !isShared" class="quiet">
      As a path of the host instead of a name of its own:
      <button class="text-link" type="button" :disabled="busy" @click="move(`/${temporary.label}`)">
        under /{{ temporary.label }}</button
      >, at <span class="address">{{ shared }}</span>
    </p>
    <p v-else-if="isShared" class="quiet">
      Once released, it answers as a path of the host too:
      <a class="address text-link" :href="shared" target="_blank" rel="noopener">{{ shared }}</a>
    </p>
  </template>
</template>

<style scoped>
p {
  margin: 4px 0;
}
.pair {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
}
</style>
