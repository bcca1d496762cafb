<script setup lang="ts">
/** The one question asked of every touch, always alike: this page, this branch, or every page where it stands. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { TouchRequest } from '@fastigium/contracts/decisions/touches';
import { pagesApi, type TouchPlaces } from '@fastigium/contracts/api/pages';
import { computed, onMounted, ref } from 'vue';
import { call } from '../../../api/client.ts';
import SegmentedChoice from '../../../components/SegmentedChoice.vue';
import { useSite } from '../../../stores/site.ts';
import { say } from '../words.ts';

const props = defineProps<{ page: PageRow; touch: TouchRequest; what: 'picture' | 'text' | 'link' }>();
const model = defineModel<'page' | 'branch' | 'everywhere'>({ required: true });
const site = useSite();
const places = ref<TouchPlaces>();
const isListed = ref(false);

onMounted(async () => {
  if (site.id === undefined) return;
  // What cannot be counted can still be set for this page.
  places.value = await call(pagesApi.touchPlaces, {
    params: { site: site.id },
    body: { page: props.page.id, touch: props.touch },
  }).catch(() => undefined);
});

const styles = computed(() => places.value?.styles ?? []);
const options = computed(() => [
  { value: 'page' as const, label: say('scopeChoice.thisPage') },
  ...(places.value && places.value.branch > 1
    ? [{ value: 'branch' as const, label: say('scopeChoice.thisBranch', { branch: places.value.branch }) }]
    : []),
  ...(places.value && places.value.everywhere + styles.value.length > 1
    ? [
        {
          value: 'everywhere' as const,
          label: say('scopeChoice.everyPageWhereItStands', {
            everywhere: places.value.everywhere,
            hasStyles: styles.value.length > 0,
            styles: styles.value.length,
          }),
        },
      ]
    : []),
]);
const shown = computed(() =>
  (places.value?.places ?? []).filter(({ inBranch }) => model.value === 'everywhere' || inBranch),
);
</script>

<template>
  <div class="scope">
    <SegmentedChoice
      v-if="options.length > 1"
      v-model="model"
      :label="say('scopeChoice.whereTheIsToChange', { what })"
      :options="options"
    />
    <p v-else-if="places" class="quiet">{{ say('scopeChoice.itStandsOnThisPage') }}</p>
    <!-- The room is there before the count is: what comes later would move what is just being clicked. -->
    <p v-else aria-hidden="true">&nbsp;</p>
    <template v-if="model !== 'page'">
      <button class="text-link" type="button" :aria-expanded="isListed" @click="isListed = !isListed">
        {{
          isListed
            ? say('scopeChoice.hideTheList')
            : say('scopeChoice.pagesAndStyleSheetsList', {
                shown: shown.length,
                isModel: model === 'everywhere' && styles.length > 0,
                styles: styles.length,
              })
        }}
      </button>
      <ul v-if="isListed">
        <li v-for="place in shown" :key="place.id">
          <span class="one-line">{{ place.title }}</span><span class="address quiet one-line">{{ place.address }}</span>
        </li>
        <template v-if="model === 'everywhere'">
          <li v-for="style in styles" :key="style">
            <span class="one-line">{{ say('scopeChoice.styleSheet') }}</span><span class="address quiet one-line">{{
              style
            }}</span>
          </li>
        </template>
      </ul>
    </template>
  </div>
</template>

<style scoped>
.scope {
  display: grid;
  gap: 8px;
  justify-items: start;
  align-content: center;
  min-height: 28px;
}
p {
  margin: 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  width: 100%;
  max-height: 180px;
  overflow: auto;
  border: var(--line);
  border-radius: 3px;
}
li {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
  padding: 3px 8px;
  border-bottom: var(--line);
  font-size: 13px;
}
</style>
