<script setup lang="ts">
/** One line of the head: what it says, for which pages, and what becomes of the page's own. */
import type { PageHead } from '@fastigium/contracts/api/metadata';
import { computed, onMounted, ref, watch } from 'vue';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import DataCheck from './site/DataCheck.vue';
import { nameLine } from './lineNames.ts';
import { addAsset } from '../../api/asset.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { useSetHead } from './metadata.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const props = defineProps<{ name: string; page: string; head: PageHead }>();
const emit = defineEmits<{ leave: [] }>();
const set = useSetHead();
const site = useSite();
const notices = useNotices();
const form = ref<HTMLFormElement>();
onMounted(() => form.value?.scrollIntoView({ block: 'nearest' }));
const isNew = computed(() => props.name === '');
const wanted = ref('');
const line = computed(() =>
  props.head.lines.find(({ name }) => name === (props.name === 'data' ? 'json:data' : props.name)),
);
/** Code and data are texts of several lines. */
const isText = computed(() => /^(code:|data$)/.test(props.name));
const text = ref('');
const scope = ref<'page' | 'branch' | 'everywhere'>('page');
const title = computed(() => (isNew.value ? say('lineEditor.anotherPlainTag') : nameLine(props.name)));
watch(
  () => props.name,
  () => {
    text.value = line.value?.text ?? '';
    scope.value = 'page';
  },
  { immediate: true },
);

const name = computed(() => (isNew.value ? `meta:${wanted.value.trim().toLowerCase()}` : props.name));
const at = computed(() =>
  scope.value === 'everywhere' ? { kind: 'everywhere' as const } : { kind: scope.value, page: props.page },
);
const isSetHere = computed(() =>
  props.head.settings.some((each) => each.name === props.name && each.scope.kind === 'page'),
);
const isTitle = computed(() => props.name === 'title');
/** A title belongs to one page; all other lines may hold further. */
const scopes = computed(() => [
  { value: 'page' as const, label: say('lineEditor.thisPage') },
  ...(isTitle.value
    ? []
    : [
        { value: 'branch' as const, label: say('lineEditor.thisBranch') },
        { value: 'everywhere' as const, label: say('lineEditor.everyPage') },
      ]),
]);
const choice = computed(() => line.value?.conflict ?? undefined);

async function save(value: string | false | null, own: 'kept' | 'replaced' | null = null): Promise<void> {
  if (await set([{ scope: at.value, name: name.value, text: value, own }])) emit('leave');
}
async function addPicture(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const file = input.files?.[0];
  input.value = '';
  if (!file || !site.overview) return;
  try {
    text.value = (await addAsset(site.overview.id, file, 'pictures', site.overview.version)).address;
    await site.refresh();
  } catch (error) {
    notices.problem(error);
  }
}
const isPicture = computed(() => props.name === 'meta:og:image');
const decide = (own: 'kept' | 'replaced') =>
  runInBackground(
    set([{ scope: { kind: 'page', page: props.page }, name: props.name, text: null, own }]).then(
      (done) => done && emit('leave'),
    ),
  );
</script>

<template>
  <form ref="form" class="line" @submit.prevent="save(text)" @keydown.esc.stop="emit('leave')">
    <h2 class="heading">
      {{ title }}<button class="text-link quiet" type="button" @click="emit('leave')">{{ say('common.leave') }}</button>
    </h2>
    <div v-if="choice" class="conflict">
      <p>
        <b>{{ say('lineEditor.thePageHasATag') }}</b>
        {{
          say('lineEditor.itSaysAndIsSet', {
            own: line?.own.join('”, “'),
            isText: choice.text === false,
            text: choice.text,
            isComputed: choice.from === 'computed',
            from: choice.from,
          })
        }}
      </p>
      <div class="acts">
        <v-btn @click="decide('kept')">{{ say('lineEditor.keepThePagesOwn') }}</v-btn><v-btn
          @click="decide('replaced')"
          >{{ say('lineEditor.useWhatIsSet') }}</v-btn
        >
      </div>
    </div>
    <LabelledField
      v-if="isNew"
      v-model="wanted"
      class="address"
      :label="say('lineEditor.nameSuchAsAuthorOr')"
      autofocus
      maxlength="100"
    />
    <template v-if="isText">
      <label class="quiet" for="line-text">{{ title }}</label>
      <textarea class="source" id="line-text" v-model="text" rows="6" spellcheck="false" />
    </template>
    <LabelledField
      v-else
      v-model="text"
      :label="isNew ? say('lineEditor.whatItSays') : title"
      :autofocus="!isNew"
      maxlength="4000"
    />
    <template v-if="isPicture">
      <label class="file text-link"
        ><input class="visually-hidden" type="file" accept="image/*" @change="addPicture" />{{
          say('lineEditor.addAPictureFromThis')
        }}</label
      >
      <p class="quiet">{{ say('lineEditor.anAddressOfTheSite') }}</p>
    </template>
    <SegmentedChoice v-model="scope" :label="say('lineEditor.forWhichPages')" :options="scopes" />
    <div class="acts">
      <v-btn
        type="submit"
        variant="flat"
        color="primary"
        :disabled="text.trim() === '' || (isNew && wanted.trim() === '')"
        >{{ say('common.set') }}</v-btn
      >
      <v-btn v-if="!isNew && !isTitle" @click="save(false)">{{ say('lineEditor.leaveItOut') }}</v-btn>
      <v-btn v-if="isSetHere" @click="((scope = 'page'), save(null))">{{ say('lineEditor.backToInherited') }}</v-btn>
    </div>
    <DataCheck v-if="name === 'data'" :text="text" />
    <p v-if="scope !== 'page' && !isText" class="quiet">
      {{ say('lineEditor.pagesWithSuchATag') }}
      <button class="text-link" type="button" :disabled="text.trim() === ''" @click="save(text, 'replaced')">
        {{ say('lineEditor.setItThereToo') }}
      </button>
    </p>
  </form>
</template>

<style scoped>
.line {
  display: grid;
  gap: 10px;
  border: 1px solid var(--stone-3);
  border-left: 3px solid var(--lapis);
  padding: 10px 12px;
  margin: 0 0 12px;
}
.heading,
p {
  margin: 0;
}
.file {
  cursor: pointer;
}
.file:focus-within {
  outline: 2px solid var(--lapis);
}
.acts {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.conflict {
  background: var(--ochre-tint);
  padding: 8px 10px;
  display: grid;
  gap: 8px;
  overflow-wrap: anywhere;
}
</style>
