<script setup lang="ts">
/** Address: the chain by which a visitor reaches the site, and the first link that does not hold. */
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import StationLayout from '../../components/StationLayout.vue';
import { useSession } from '../../stores/session.ts';
import { useShortcuts } from '../../components/shortcuts.ts';
import { provideAddress } from './address.ts';
import AskedList from './AskedList.vue';
import CertificateBench from './CertificateBench.vue';
import CertificatePanel from './CertificatePanel.vue';
import ChainDrawing from './ChainDrawing.vue';
import ChangePlanner from './ChangePlanner.vue';
import DomainRow from './DomainRow.vue';
import HostBench from './HostBench.vue';
import HostPanel from './HostPanel.vue';
import LinkMeaning from './LinkMeaning.vue';
import NameBench from './NameBench.vue';
import NameFinder from './NameFinder.vue';
import { provideHosting } from './hosting.ts';
import { provideFinder } from './finder.ts';
import NameServersPanel from './NameServersPanel.vue';
import RecordsBench from './RecordsBench.vue';
import RecordsTable from './RecordsTable.vue';
import ResolversBench from './ResolversBench.vue';
import SpreadChart from './SpreadChart.vue';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const { view, link, lookUp } = provideAddress(useRoute().query.link);
provideHosting();
provideFinder();
const session = useSession();
const benchOpen = ref(false);
const hasDomain = computed(() => view.value?.domain != null);
useShortcuts(() => (session.mayEdit && hasDomain.value ? [{ key: 'a', run: () => runInBackground(lookUp()) }] : []));
</script>

<template>
  <StationLayout v-model:bench-open="benchOpen" :bench-label="say('addressStation.whatToDoAboutThis')">
    <template #ledger>
      <div class="head">
        <h1 class="title-face">{{ say('addressStation.howAVisitorReachesThe') }}</h1>
        <RouterLink class="text-link" :to="{ name: 'move' }">{{ say('common.theDayOfTheMove') }}</RouterLink>
        <button class="text-link to-bench" type="button" @click="benchOpen = true">
          {{ say('addressStation.whatToDo') }}
        </button>
      </div>
      <DomainRow />
      <ChainDrawing />
      <div v-if="view" id="link-panel" class="panel" role="tabpanel" :aria-labelledby="`link-${link}`" tabindex="-1">
        <LinkMeaning v-if="hasDomain" />
        <template v-if="link === 'registration'">
          <NameFinder v-if="view.canRegister" />
          <p v-else-if="!hasDomain" class="empty">
            {{ say('addressStation.noNameCanBeRegistered') }}
          </p>
          <AskedList of="registration" open />
        </template>
        <template v-else-if="link === 'name-servers'"
          ><NameServersPanel /><AskedList of="name-servers" open
        /></template>
        <template v-else-if="link === 'records'">
          <template v-if="hasDomain"
            ><RecordsTable /><SpreadChart /><ChangePlanner /><AskedList of="records"
          /></template>
        </template>
        <template v-else-if="link === 'certificate'"><CertificatePanel /><AskedList of="certificate" open /></template>
        <template v-else><HostPanel /><AskedList of="host" /></template>
        <p v-if="!hasDomain && link !== 'registration' && link !== 'host'" class="empty">
          {{ say('addressStation.thereIsNothingToAsk', { canRegister: Boolean(view.canRegister) }) }}
        </p>
      </div>
    </template>
    <template #bench>
      <template v-if="view">
        <NameBench v-if="link === 'registration'" />
        <ResolversBench v-else-if="link === 'name-servers'" />
        <RecordsBench v-else-if="link === 'records'" />
        <CertificateBench v-else-if="link === 'certificate'" />
        <HostBench v-else />
      </template>
    </template>
  </StationLayout>
</template>

<style scoped>
.head {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  gap: 16px;
  padding: 12px 20px 2px;
}
.to-bench {
  display: none;
}
.panel {
  flex: 1;
  min-height: 0;
  overflow: auto;
  padding-bottom: 16px;
}
.panel:focus-visible {
  outline: none;
}
.empty {
  padding: 16px 20px;
  color: var(--ink-5);
}
@media (max-width: 999px) {
  .to-bench {
    display: block;
  }
}
</style>
