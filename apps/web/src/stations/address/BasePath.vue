<script setup lang="ts">
/** At the root or under a path. It is a change of the draft: visitors see it with the next release, and it can be taken back. */
import { computed, ref, watch } from 'vue';
import LabelledField from '../../components/LabelledField.vue';
import { useSite } from '../../stores/site.ts';
import { useAddress } from './address.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

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
      {{ say('basePath.atTheRootOrUnder')
      }}<span class="quiet">{{ now === '' ? say('basePath.atTheRoot') : say('basePath.under', { now }) }}</span>
    </h2>
    <form class="pair" @submit.prevent="move(path)">
      <LabelledField
        v-model="path"
        :label="say('basePath.pathEmptyForTheRoot')"
        placeholder="/museum"
        class="address"
      />
      <v-btn type="submit" height="36" :disabled="busy || path.trim().replace(/^\/+|\/+$/g, '') === now.slice(1)">{{
        say('basePath.moveIt')
      }}</v-btn>
    </form>
    <p class="quiet">
      {{ say('basePath.allInnerLinksFollowAnd') }}
    </p>
    <p v-if="temporary && !isShared" class="quiet">
      <RichWords :words="say.parts('basePath.asAPathOfThe', { label: temporary.label, shared })"
        ><template #button="{ words }"
          ><button class="text-link" type="button" :disabled="busy" @click="move(`/${temporary.label}`)">
            {{ words }}
          </button></template
        ></RichWords
      >
    </p>
    <p v-else-if="isShared" class="quiet">
      {{ say('basePath.onceReleasedItAnswersAs') }}
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
