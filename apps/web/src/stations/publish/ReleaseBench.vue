<script setup lang="ts">
/** The next release: what is sent, publishing it, and those before it. */
import { releasesApi, type Release } from '@fastigium/contracts/api/releases';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import JobProgress from '../../components/JobProgress.vue';
import LabelledField from '../../components/LabelledField.vue';
import { formatSize } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { setTimeApi, type SetTime } from '@fastigium/contracts/api/setTime';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useCauses } from './causes.ts';
import InspectionPanel from './InspectionPanel.vue';
import LiveAt from './LiveAt.vue';
import ReleaseLadder from './ReleaseLadder.vue';
import SetTimePanel from './SetTimePanel.vue';
import RehearsalPanel from './RehearsalPanel.vue';
import TellOthers from './TellOthers.vue';
import VisitorsPanel from './VisitorsPanel.vue';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const props = defineProps<{ releases: readonly Release[] }>();
const emit = defineEmits<{ compare: [number: number] }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const note = ref('');
const asking = ref(false);
const setTime = ref<SetTime | null>(null);
useReadAgain(async (id) => {
  setTime.value = (await call(setTimeApi.get, { params: { site: id } })).set;
});
/** The release whose inspection is shown; the live one, where none is chosen. */
const chosen = ref<number>();
const next = computed(() => (props.releases[0]?.number ?? 0) + 1);
const sending = computed(() => props.releases.find(({ state }) => state === 'sending'));
const number = computed(() => sending.value?.number ?? next.value);
const isSame = computed(
  () => site.changes !== undefined && !hasChanges.value && !site.publishing && site.overview?.live != null,
);
/** The draft has changed since what is listed was reckoned: what is published is what was looked at. */
const hasHost = computed(() => site.overview?.hasHost !== false);
const isBehind = computed(
  () => site.changes !== undefined && site.overview !== undefined && site.changes.version !== site.overview.version,
);
const shown = computed(() => chosen.value ?? site.overview?.live?.number);
const causes = useCauses();
const goesOut = computed(() => (site.changes?.changes ?? []).filter((change) => !causes.isLeftOut(change)));
const hasChanges = computed(() => goesOut.value.length > 0);

async function ask(run: () => Promise<{ release: number }>): Promise<void> {
  asking.value = true;
  try {
    await run();
    note.value = '';
  } catch (error) {
    notices.problem(error);
  } finally {
    asking.value = false;
    await site.refresh();
  }
}

function publish(): Promise<void> {
  const { changes, id } = site;
  return ask(async () => {
    if (!changes || id === undefined) throw new Error(say('releaseBench.theChangesAreNotReckoned'));
    return call(releasesApi.publish, {
      params: { site: id },
      body: {
        version: changes.version,
        note: note.value,
        leaveOut: [...causes.leftOut],
        // What was read through is told since that release, whatever is known by now.
        replaces: changes.sinceRelease,
      },
    });
  });
}

function goBack(release: Release): Promise<void> {
  const { id } = site;
  return ask(() =>
    call(releasesApi.rollBack, {
      params: { site: id ?? '', number: release.number },
      body: { replaces: site.liveNumber },
    }),
  );
}
</script>

<template>
  <h1 class="title-face">
    {{
      isSame
        ? say('releaseBench.releaseIsLive', { number: site.overview?.live?.number })
        : say('releaseBench.release', { number })
    }}
  </h1>
  <p class="quiet">
    {{
      isSame
        ? say('releaseBench.liveAndDraftAreThe')
        : sending
          ? say('releaseBench.isPublishing', { name: sending.by.name })
          : hasHost
            ? say('releaseBench.toTheHostSwitchedAll')
            : say('releaseBench.notPublishedYet')
    }}
  </p>
  <template v-if="site.publishing">
    <JobProgress
      class="progress"
      :job="site.publishing"
      :waiting="say('common.waitingToBegin')"
      :can-cancel="session.mayEdit"
      @cancel="site.cancel(site.publishing.id)"
    />
    <p class="quiet">
      {{
        site.overview?.live
          ? say('releaseBench.visitorsGetTheReleaseBefore')
          : say('releaseBench.nobodySeesAnythingOfIt')
      }}
    </p>
  </template>
  <template v-else-if="!hasHost">
    <p>
      {{ session.isOwner ? say('releaseBench.theSiteHasNoHost') : say('releaseBench.theSiteHasNoHost2') }}
    </p>
    <div v-if="session.isOwner" class="actions">
      <v-btn variant="flat" color="primary" height="36" :to="{ name: 'address', query: { link: 'host' } }">{{
        say('releaseBench.connectAHost')
      }}</v-btn>
    </div>
  </template>
  <template v-else>
    <dl v-if="site.changes && !isSame" class="facts">
      <dt>{{ say('releaseBench.filesSent') }}</dt>
      <dd>
        {{
          site.changes.sending
            ? say('releaseBench.of', { files: site.changes.sending.files, files2: site.changes.whole.files })
            : say('releaseBench.theHostDoesNotSay')
        }}
      </dd>
      <dt>{{ say('releaseBench.bytesSent') }}</dt>
      <dd>
        {{
          site.changes.sending
            ? say('releaseBench.of2', {
                bytes: formatSize(site.changes.sending.bytes),
                bytes2: formatSize(site.changes.whole.bytes),
              })
            : say('releaseBench.theHostDoesNotSay')
        }}
      </dd>
      <dt>{{ say('releaseBench.switch') }}</dt>
      <dd>{{ say('releaseBench.allAtOnceNoGap') }}</dd>
    </dl>
    <p v-if="site.changes?.hostProblem" class="wrong" role="alert">
      {{ speak(site.changes.hostProblem) }}
      <button class="text-link" type="button" @click="site.loadChanges()">{{ say('releaseBench.askAgain') }}</button>
    </p>
    <template v-if="session.mayEdit && !isSame">
      <p v-if="causes.leftOut.size > 0" class="quiet">
        {{ say('releaseBench.decisionsLeftOutTheyStay', { leftOut: causes.leftOut.size }) }}
      </p>
      <LabelledField
        v-if="hasChanges"
        v-model="note"
        :label="say('releaseBench.noteForTheLadderNot')"
        maxlength="500"
      />
      <div class="actions">
        <v-btn
          variant="flat"
          color="primary"
          height="36"
          :disabled="!hasChanges"
          :loading="asking || isBehind"
          @click="publish"
          >{{ say('releaseBench.publishRelease', { next }) }}</v-btn
        >
        <span v-if="!hasChanges" class="quiet">{{
          site.changes ? say('releaseBench.nothingToPublish') : say('releaseBench.reckoningWhatDiffers')
        }}</span>
      </div>
    </template>
    <p v-else-if="!session.mayEdit" class="quiet">{{ say('releaseBench.yourRoleLooksOnAn') }}</p>
    <SetTimePanel :set="setTime" :note="note" :is-ready="hasChanges && !isBehind" @done="site.refresh()" />
  </template>
  <template v-if="site.overview?.liveUrl">
    <hr class="rule" />
    <LiveAt :overview="site.overview" :url="site.overview.liveUrl" />
  </template>
  <p>
    <RouterLink class="text-link" :to="{ name: 'move' }">{{ say('common.theDayOfTheMove') }}</RouterLink>{{ ' ' }}
    <span class="quiet">{{ say('releaseBench.allStepsInTheirOrder') }}</span>
  </p>
  <hr class="rule" />
  <VisitorsPanel />
  <RehearsalPanel />
  <template v-if="!site.publishing && shown !== undefined">
    <hr class="rule" />
    <InspectionPanel
      :key="shown"
      :number="shown"
      :is-live="shown === site.overview?.live?.number"
      :reload="releases"
      @asked="site.refresh()"
    />
  </template>
  <hr class="rule" />
  <h2 class="heading">{{ say('releaseBench.releases') }}</h2>
  <ReleaseLadder
    v-model="chosen"
    :releases="releases"
    :can-go-back="session.mayEdit && !site.publishing && !asking"
    @back="goBack"
    @compare="emit('compare', $event)"
  />
  <template v-if="releases.length > 0">
    <hr class="rule" />
    <TellOthers />
  </template>
</template>

<style scoped>
p {
  margin: 4px 0 8px;
}
.progress {
  margin: 14px 0 10px;
}
.facts {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 3px 16px;
  margin: 8px 0 14px;
  padding: 8px 12px;
  background: var(--stone-1);
  border: var(--line);
  border-radius: 3px;
}
dd {
  margin: 0;
  text-align: right;
  font-weight: 600;
  font-variant-numeric: tabular-nums;
}
.actions {
  display: flex;
  align-items: center;
  gap: 12px;
  margin-top: 12px;
}
</style>
