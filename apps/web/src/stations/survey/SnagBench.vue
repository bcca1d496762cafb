<script setup lang="ts">
/** One snag: what it is, its very place in the source, the step that mends it, or a reason to let it be. */
import { snagsApi, type Snag, type Snags } from '@fastigium/contracts/api/snags';
import { DomainError } from '@fastigium/contracts/errors';
import { findAddressOfFile } from '@fastigium/core/address';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import KeyHint from '../../components/KeyHint.vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import LabelledField from '../../components/LabelledField.vue';
import { formatWhen } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import RemoveFile from '../shared/RemoveFile.vue';
import SnagPlace from './SnagPlace.vue';
import { speak } from '../../words/index.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const props = defineProps<{ snag: Snag; kinds: Snags['kinds'] }>();
const emit = defineEmits<{ done: [] }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const answer = ref('');
const reason = ref('');
const working = ref(false);
const answerField = ref<{ focus(): void }>();
const reasonField = ref<{ focus(): void }>();
/** A file that is no page, and stands at the root as its path says. */
const isFile = computed(
  () =>
    props.snag.page === null &&
    props.snag.path !== '' &&
    !/\.html?$/i.test(props.snag.path) &&
    (site.overview?.basePath ?? '') === '',
);
const kind = computed(() => props.kinds.find(({ code }) => code === props.snag.code));

async function runWork(what: (id: string) => Promise<string>): Promise<void> {
  if (site.id === undefined) return;
  working.value = true;
  try {
    notices.done(await what(site.id));
    emit('done');
    await site.refresh();
  } catch (error) {
    notices.problem(error);
    if (error instanceof DomainError && error.code === 'draft-stale') await site.refresh();
  } finally {
    working.value = false;
  }
}

const mend = () =>
  runWork(async (id) =>
    speak(
      (
        await call(snagsApi.mend, {
          params: { site: id, key: props.snag.key },
          body: { version: site.overview?.version ?? 0, answer: answer.value },
        })
      ).message,
    ),
  );
const dismiss = () =>
  runWork(async (id) => {
    await call(snagsApi.dismiss, { params: { site: id, key: props.snag.key }, body: { reason: reason.value } });
    return say('snagBench.letBeOnYourName', { reason: reason.value });
  });
const recall = () =>
  runWork(async (id) => {
    await call(snagsApi.recall, { params: { site: id, key: props.snag.key } });
    return say('snagBench.itCountsAgain');
  });

defineExpose({
  mend: () => {
    if (!props.snag.mend) return;
    if (props.snag.mend.asks !== null) answerField.value?.focus();
    else runInBackground(mend());
  },
  dismiss: () => reasonField.value?.focus(),
});
</script>

<template>
  <h1 class="title-face">{{ kind && speak(kind.title) }}</h1>
  <p class="standing">
    <KeystoneMark :mark="snag.dismissed ? 'dashed' : snag.severity === 'must' ? 'madder' : 'ochre'" />{{
      snag.dismissed
        ? say('snagBench.letBe')
        : snag.severity === 'must'
          ? say('snagBench.mustBeFixed')
          : say('snagBench.worthALook')
    }}<span class="quiet source">{{ kind?.source }}</span>
  </p>
  <h2 class="heading">
    <span>{{ snag.subject }}</span>
  </h2>
  <p class="address quiet">/{{ snag.path }}</p>
  <p class="detail">{{ speak(snag.detail) }}</p>
  <SnagPlace v-if="snag.hasPlace" :key="snag.key" :snag="snag.key" />
  <hr class="rule" />
  <h2 class="heading">{{ say('snagBench.howToMendIt') }}</h2>
  <p>{{ kind && speak(kind.how) }}</p>
  <template v-if="session.mayEdit">
    <form v-if="snag.mend && !snag.dismissed" class="act" @submit.prevent="mend">
      <LabelledField
        v-if="snag.mend.asks !== null"
        ref="answerField"
        v-model="answer"
        :label="speak(snag.mend.asks)"
        maxlength="2000"
      />
      <v-btn type="submit" variant="flat" color="primary" :loading="working"
        >{{ speak(snag.mend.label) }}<KeyHint keys="Enter"
      /></v-btn>
    </form>
    <RemoveFile v-if="isFile && !snag.dismissed" :address="findAddressOfFile(snag.path)" @removed="emit('done')" />
    <p v-if="snag.page" class="ways">
      <RouterLink class="text-link" :to="{ name: 'pages', params: { page: snag.page }, query: { point: '1' } }">{{
        say('snagBench.pointAtItInThe')
      }}</RouterLink>
      <RouterLink class="text-link" :to="{ name: 'pages', params: { page: snag.page } }">{{
        say('snagBench.thePageUnderPages')
      }}</RouterLink>
    </p>
    <hr class="rule" />
    <template v-if="snag.dismissed">
      <p>
        <b>{{ say('snagBench.letBeBy', { name: snag.dismissed.by.name }) }}</b>
        {{ formatWhen(snag.dismissed.at, new Date()) }}:
        {{ snag.dismissed.reason }}
      </p>
      <v-btn :loading="working" @click="recall">{{ say('snagBench.countItAgain') }}</v-btn>
    </template>
    <form v-else class="act" @submit.prevent="dismiss">
      <LabelledField
        ref="reasonField"
        v-model="reason"
        :label="snag.severity === 'must' ? say('snagBench.takeItOnYourName') : say('snagBench.letItBeBecause')"
        maxlength="500"
      />
      <v-btn type="submit" :disabled="reason.trim().length < 3" :loading="working"
        >{{ say('snagBench.letItBe') }}<KeyHint keys="X"
      /></v-btn>
    </form>
  </template>
  <p v-else-if="snag.dismissed" class="quiet">
    {{ say('snagBench.letBeBy2', { name: snag.dismissed.by.name, reason: snag.dismissed.reason }) }}
  </p>
</template>

<style scoped>
p {
  margin: 0 0 8px;
}
.standing {
  display: flex;
  align-items: center;
  gap: 6px;
  margin: 2px 0 14px;
}
.source {
  margin-inline-start: auto;
  text-align: right;
}
.heading {
  margin-bottom: 2px;
}
.detail {
  overflow-wrap: anywhere;
}
.act {
  display: grid;
  gap: 8px;
  justify-items: start;
  margin: 10px 0 4px;
}
.act > .field {
  width: 100%;
}
.ways {
  display: flex;
  gap: 18px;
  margin-top: 10px;
}
</style>
