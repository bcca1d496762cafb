<script setup lang="ts">
/** Host: the temporary address, the plan that was chosen, and places of one's own instead. */
import { hostingApi } from '@fastigium/contracts/api/hosting';
import { computed, reactive, ref, watch } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { useSession } from '../../stores/session.ts';
import { useHosting } from './hosting.ts';
import BasePath from './BasePath.vue';
import SftpForm from './SftpForm.vue';

const { view, busy, months, plan, region, act } = useHosting();
const session = useSession();
const label = ref('');
const place = ref<'stand-in' | 'folder' | 'sftp'>('stand-in');
const folder = reactive({ folder: '', url: '', log: '' });
const account = computed(() => view.value?.account);
/** The host that came with this Fastigium; undefined where none did. */
const standIn = computed(() => view.value?.temporary ?? undefined);
const hasHost = computed(() => account.value?.kind !== 'stand-in' || standIn.value !== undefined);
const mayMove = computed(() => session.mayEdit);
const title = computed(() => {
  if (account.value?.kind === 'folder') return 'A folder';
  if (account.value?.kind === 'sftp') return 'A server over SFTP';
  return standIn.value ? 'The host stand-in' : 'No host yet';
});
const places = computed(() => [
  ...(standIn.value ? [{ value: 'stand-in' as const, label: 'Host stand-in' }] : []),
  { value: 'folder' as const, label: 'A folder' },
  { value: 'sftp' as const, label: 'SFTP' },
]);
watch(
  account,
  (now) => {
    if (!now) return;
    place.value = now.kind === 'stand-in' && !standIn.value ? 'sftp' : now.kind;
    label.value = standIn.value?.label ?? '';
  },
  { immediate: true },
);
const chosen = computed(() => view.value?.plans.find((each) => each.plan.id === plan.value));
const isKept = computed(
  () =>
    account.value?.plan === plan.value &&
    account.value?.region === region.value &&
    account.value?.months === months.value,
);

const rename = () =>
  act(
    (site) =>
      call(hostingApi.temporary, {
        params: { site },
        body: { label: label.value.trim().toLowerCase(), keepOldDays: 30 },
      }),
    'The site answers there now; the old address leads to it for 30 days.',
  );
const choose = () =>
  act(
    (site) =>
      call(hostingApi.choose, {
        params: { site },
        body: { plan: plan.value ?? '', region: region.value ?? '', months: months.value },
      }),
    `Plan “${chosen.value?.plan.name}” is taken.`,
  );
const useFolder = () =>
  act(
    (site) =>
      call(hostingApi.folder, {
        params: { site },
        body: {
          folder: folder.folder,
          ...(folder.url === '' ? {} : { url: folder.url }),
          ...(folder.log.trim() === '' ? {} : { log: folder.log.trim() }),
        },
      }),
    'The folder was tried and is connected. The next publish sends everything there.',
  );
const useStandIn = () =>
  act((site) => call(hostingApi.standIn, { params: { site } }), 'The site is published to the host stand-in again.');
</script>

<template>
  <h1 class="title-face">{{ title }}</h1>
  <p v-if="view && !hasHost">
    Nothing can be published before the site has a host.
    {{ session.isOwner ? 'Connect one below.' : 'An owner connects one.' }}
  </p>
  <p v-else class="quiet">
    {{ account?.words }}{{ account?.pinnedKey ? `; its key ${account.pinnedKey} is pinned` : '' }}
  </p>
  <template v-if="account?.kind === 'stand-in' && standIn">
    <v-btn
      v-if="session.isOwner && plan && region && !isKept"
      class="gap"
      variant="flat"
      color="primary"
      :disabled="busy"
      @click="choose"
      >Take “{{ chosen?.plan.name }}” for {{ months }} {{ months === 1 ? 'month' : 'months' }}</v-btn
    >
    <p v-if="session.isOwner && !plan">
      Choose a plan and a region on the left; what it costs over the term stands beside it.
    </p>
    <p v-if="chosen && !chosen.fits" class="wrong">It is too small for this site: {{ chosen.lacks.join('; ') }}.</p>
    <hr class="rule" />
    <h2 class="heading">Temporary address</h2>
    <p class="quiet">
      Works at once, without a domain.
      <a class="address text-link" :href="standIn.url" target="_blank" rel="noopener">{{ standIn.url }}</a>
    </p>
    <form v-if="session.mayEdit" class="pair" @submit.prevent="rename">
      <LabelledField v-model="label" label="Its name" />
      <v-btn type="submit" height="36" :disabled="busy || label.trim() === standIn.label || label.trim() === ''"
        >Change it</v-btn
      >
    </form>
  </template>
  <p v-if="account && account.kind !== 'stand-in'" class="note">
    This place keeps files, nothing else: redirects do not answer there, unless its web server is told them.
  </p>
  <!-- Only here, where there is a host already: first things first. -->
  <BasePath v-if="mayMove && hasHost" />
  <template v-if="session.isOwner">
    <hr class="rule" />
    <h2 class="heading">Where it is published</h2>
    <SegmentedChoice v-model="place" label="Where it is published" :options="places" />
    <p v-if="place === 'folder' && view?.folders.length === 0" class="note">
      Whoever runs this Fastigium has opened no folder of its machine for sites (FASTIGIUM_HOST_FOLDERS).
    </p>
    <form v-else-if="place === 'folder'" class="own" @submit.prevent="useFolder">
      <LabelledField
        v-model="folder.folder"
        label="Folder on this machine, its whole path"
        placeholder="/srv/www/lanternmoor"
      />
      <LabelledField
        v-model="folder.url"
        label="Where it answers (not needed to publish)"
        placeholder="http://192.0.2.80/"
      />
      <LabelledField
        v-model="folder.log"
        label="Access log of its web server, for Watch (not needed)"
        placeholder="/var/log/nginx/access.log"
      />
      <p class="quiet">
        A file is written, linked and taken away again before the folder counts. Your web server's root is its
        “current”. Open for sites: <span class="address">{{ view?.folders.join(', ') }}</span>.
      </p>
      <v-btn type="submit" :disabled="busy || folder.folder.trim() === ''" :loading="busy">Try and connect it</v-btn>
    </form>
    <SftpForm v-else-if="place === 'sftp'" />
    <v-btn v-else-if="account?.kind !== 'stand-in'" class="gap" :disabled="busy" @click="useStandIn"
      >Publish to the stand-in again</v-btn
    >
  </template>
  <BasePath v-if="mayMove && !hasHost" />
</template>

<style scoped>
p {
  margin: 4px 0;
}
.note {
  border-left: 3px solid var(--ochre);
  padding-left: 10px;
  margin-top: 10px;
}
.gap {
  margin-top: 10px;
}
.pair {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
  margin-top: 6px;
}
.own {
  display: grid;
  gap: 10px;
  margin-top: 12px;
}
.own .v-btn {
  justify-self: start;
}
</style>
