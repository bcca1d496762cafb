<script setup lang="ts">
/** What a client sees of their site: where it is live, how it will be, and the reports. */
import { clientViewApi, type ClientView } from '@fastigium/contracts/api/clientView';
import { inspectionApi } from '@fastigium/contracts/api/inspection';
import { onMounted, ref } from 'vue';
import { call, writePath } from '../api/client.ts';
import KeystoneMark from '../components/KeystoneMark.vue';
import { formatWhen } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import TwoSides from './TwoSides.vue';
import { say } from './words.ts';
import '../words/ofSites.ts';

const props = defineProps<{ site: string }>();
const notices = useNotices();
const view = ref<ClientView>();
const now = new Date();

onMounted(async () => {
  try {
    view.value = await call(clientViewApi.get, { params: { site: props.site } });
  } catch (error) {
    notices.problem(error);
  }
});

const MARKS = { right: 'verdigris', noted: 'ochre', wrong: 'madder' } as const;
const WORDS = {
  right: say('clientPage.everythingAnswersAsItShould'),
  noted: say('clientPage.itAnswersAsItShould'),
  wrong: say('clientPage.somethingDoesNotAnswerAs'),
} as const;
const reportOf = (number: number, as: 'report' | 'printed') =>
  writePath(inspectionApi[as], { site: props.site, number });
</script>

<template>
  <TwoSides>
    <template v-if="view">
      <h1 class="title-face">{{ view.name }}</h1>
      <div class="row">
        <KeystoneMark :mark="view.live ? 'verdigris' : 'dashed'" :size="16" />
        <span class="two">
          <span v-if="view.live" class="strong">{{
            say('clientPage.liveRelease', { number: view.live.number, at: formatWhen(view.live.at, now) })
          }}</span>
          <span v-else class="strong">{{ say('clientPage.notLiveYet') }}</span>
          <span class="address quiet">{{ view.answersAt }}</span>
        </span>
        <a v-if="view.live && view.liveUrl" class="text-link" :href="view.liveUrl" target="_blank" rel="noopener">{{
          say('clientPage.visitIt')
        }}</a>
      </div>
      <h2 class="heading">{{ say('clientPage.howItWillBe') }}</h2>
      <div v-if="view.rehearsal" class="row">
        <KeystoneMark :mark="MARKS[view.rehearsal.verdict]" :size="16" />
        <span class="two">
          <span class="strong">{{
            say('clientPage.rehearsedBeforeAnybodyElseSees', { at: formatWhen(view.rehearsal.at, now) })
          }}</span>
          <span class="quiet">{{ WORDS[view.rehearsal.verdict] }}</span>
        </span>
        <a class="text-link" :href="view.rehearsal.origin" target="_blank" rel="noopener">{{
          say('clientPage.lookAtIt')
        }}</a>
      </div>
      <p v-else class="quiet">{{ say('clientPage.nothingIsRehearsedJustNow') }}</p>
      <h2 class="heading">{{ say('clientPage.reports') }}</h2>
      <div v-for="report in view.reports" :key="report.release" class="row">
        <KeystoneMark :mark="MARKS[report.verdict]" :size="16" />
        <span class="two">
          <span class="strong">{{
            say('clientPage.releaseLive', { release: report.release, isLive: report.isLive })
          }}</span>
          <span class="quiet">{{
            say('clientPage.asked', { verdict: WORDS[report.verdict], at: formatWhen(report.at, now) })
          }}</span>
        </span>
        <span class="links">
          <a class="text-link" :href="reportOf(report.release, 'report')" download>{{ say('clientPage.asAPage') }}</a>
          <a class="text-link" :href="reportOf(report.release, 'printed')" download>{{ say('clientPage.printed') }}</a>
        </span>
      </div>
      <p v-if="view.reports.length === 0" class="quiet">
        {{ say('clientPage.thereIsNoneYetEach') }}
      </p>
    </template>
  </TwoSides>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 14px;
  align-items: center;
  padding: 11px 28px;
  border-top: var(--line);
}
.two {
  display: grid;
  min-width: 0;
}
.links {
  display: flex;
  gap: 16px;
}
p {
  margin: 0;
}
</style>
