<script setup lang="ts">
/** What was found when a release was asked for from outside, and the way back where something is wrong. */
import { inspectionApi, type AspectResult, type Inspection } from '@fastigium/contracts/api/inspection';
import { releasesApi } from '@fastigium/contracts/api/releases';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import JobProgress from '../../components/JobProgress.vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatFigure, formatWhen } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';
import { countAnswersAsked, ASPECT_WORDS, markOf, sayVerdict } from './inspectionWords.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const props = defineProps<{ number: number; isLive: boolean; reload: unknown }>();
const emit = defineEmits<{ asked: [] }>();
const world = useWorld();
const site = useSite();
const session = useSession();
const notices = useNotices();
const found = shallowRef<Inspection | null>();
const showsAll = ref(false);
const asking = ref(false);
const SHOWN = 6;

watch(
  [() => props.number, () => props.reload],
  async ([number]) => {
    if (site.id === undefined) return;
    try {
      const { inspection } = await call(inspectionApi.get, { params: { site: site.id, number } });
      if (number === props.number) found.value = inspection;
    } catch (error) {
      notices.problem(error);
    }
  },
  { immediate: true },
);

const findings = computed(() =>
  showsAll.value ? (found.value?.findings ?? []) : (found.value?.findings.slice(0, SHOWN) ?? []),
);
const isAsking = computed(() => props.isLive && site.inspecting !== undefined);
const report = computed(() => `/api/sites/${site.id ?? ''}/releases/${props.number}/report.html`);
const nothing = computed(() => found.value?.oldAddresses.find(({ end }) => end === 'missing')?.count ?? 0);
/** That an old address finds nothing is as published, and not what anybody wants. */
const sayAside = ({ aspect, wrong, notes }: AspectResult) =>
  [
    ...(aspect === 'old addresses' && nothing.value > 0
      ? [say('inspectionPanel.findNothing', { nothing: nothing.value })]
      : []),
    ...(wrong > 0 ? [say('inspectionPanel.otherwise', { wrong })] : []),
    ...(notes > 0 ? [say('inspectionPanel.worthALook', { notes })] : []),
  ].join(', ');

async function ask(run: (id: string) => Promise<unknown>): Promise<void> {
  if (site.id === undefined) return;
  asking.value = true;
  await run(site.id).catch(notices.problem);
  asking.value = false;
  emit('asked');
}
const askAgain = () => ask((id) => call(inspectionApi.ask, { params: { site: id } }));
const goBack = (number: number) =>
  ask((id) =>
    call(releasesApi.rollBack, {
      params: { site: id, number },
      body: { replaces: site.liveNumber },
    }),
  );
</script>

<template>
  <section class="inspection" :aria-label="say('inspectionPanel.askedFromOutside')">
    <h2 class="heading">
      {{
        isLive ? say('inspectionPanel.askedFromOutside') : say('inspectionPanel.releaseAskedFromOutside', { number })
      }}
    </h2>
    <JobProgress
      v-if="isAsking && site.inspecting"
      :job="site.inspecting"
      :waiting="say('inspectionPanel.theHostIsAskedIn')"
      :can-cancel="false"
    />
    <template v-else-if="found">
      <p class="verdict">
        <KeystoneMark :mark="markOf(found.verdict)" /><span :class="{ wrong: found.verdict === 'wrong' }">{{
          sayVerdict(found)
        }}</span>
      </p>
      <p class="quiet">
        {{
          say('inspectionPanel.answersOfPicturesAndDocuments', {
            found: countAnswersAsked(found),
            at: formatWhen(found.at, world.now),
            hasUnasked: found.unasked > 0,
          })
        }}
      </p>
      <p v-if="isLive && found.verdict === 'wrong' && found.before !== null && session.mayEdit" class="back">
        <v-btn variant="flat" color="primary" height="36" :loading="asking" @click="goBack(found.before)">{{
          say('inspectionPanel.goBackToRelease', { before: found.before })
        }}</v-btn>
        <span class="quiet">{{ say('inspectionPanel.atOnceNothingIsSent') }}</span>
      </p>
      <table class="aspects">
        <thead class="visually-hidden">
          <tr>
            <th>{{ say('common.what') }}</th>
            <th>{{ say('inspectionPanel.asked') }}</th>
            <th>{{ say('inspectionPanel.found') }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="each in found.results" :key="each.aspect">
            <td><KeystoneMark :mark="each.wrong > 0 ? 'madder' : sayAside(each) ? 'ochre' : 'verdigris'" /></td>
            <td>{{ ASPECT_WORDS[each.aspect] }}</td>
            <td class="quiet">{{ sayAside(each) || say('inspectionPanel.asPublished') }}</td>
            <td class="figure">{{ formatFigure(each.asked) }}</td>
          </tr>
        </tbody>
      </table>
      <ul v-if="findings.length > 0" class="findings" :aria-label="say('inspectionPanel.foundOtherwise')">
        <li v-for="(each, index) in findings" :key="index">
          <KeystoneMark :mark="each.weight === 'wrong' ? 'madder' : 'ochre'" /><span
            ><span class="address">{{ each.address }}</span> {{ speak(each.message) }}</span
          >
        </li>
      </ul>
      <button v-if="found.findings.length > SHOWN" class="text-link" type="button" @click="showsAll = !showsAll">
        {{
          showsAll
            ? say('inspectionPanel.showFewer')
            : say('inspectionPanel.showAllFindings', { findingsInAll: found.findingsInAll })
        }}
      </button>
      <p class="acts">
        <a class="text-link" :href="report">{{ say('inspectionPanel.keepTheReport') }}</a><a
          class="text-link"
          :href="report.replace(/html$/, 'pdf')"
          >{{ say('inspectionPanel.asPdf') }}</a
        ><button v-if="isLive && session.mayEdit" class="text-link" type="button" :disabled="asking" @click="askAgain">
          {{ say('inspectionPanel.askAgain') }}
        </button>
      </p>
    </template>
    <template v-else-if="found === null">
      <p class="quiet">
        {{ isLive ? say('inspectionPanel.theLiveHostWasNot') : say('inspectionPanel.itWasReplacedBeforeThe') }}
        <button v-if="isLive && session.mayEdit" class="text-link" type="button" :disabled="asking" @click="askAgain">
          {{ say('inspectionPanel.askNow') }}
        </button>
      </p>
    </template>
  </section>
</template>

<style scoped>
p {
  margin: 2px 0 6px;
}
.verdict {
  display: flex;
  gap: 8px;
  align-items: center;
  font-weight: 600;
}
.back {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-block: 10px;
}
.aspects {
  width: 100%;
  border-collapse: collapse;
  margin: 6px 0 8px;
  font-size: 13px;
}
.aspects td {
  padding: 3px 8px 3px 0;
  border-bottom: var(--line);
  vertical-align: middle;
}
.aspects td:first-child {
  width: 20px;
}
.aspects td:last-child {
  text-align: right;
  padding-right: 0;
}
.findings {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
  font-size: 13px;
}
.findings li {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px;
  align-items: baseline;
  padding: 3px 0;
  overflow-wrap: anywhere;
}
.acts {
  display: flex;
  gap: 18px;
  margin-top: 8px;
}
</style>
