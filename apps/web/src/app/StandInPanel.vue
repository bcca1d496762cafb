<script setup lang="ts">
/** Plays the simulated world: lets its clock run on, makes its servers fail, and changes a zone by hand as at a registrar. */
import { standInsApi, type StandInFaults } from '@fastigium/contracts/api/standIns';
import { onMounted, ref } from 'vue';
import { call } from '../api/client.ts';
import { formatDuration } from '../logic/duration.ts';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import { useWorld } from '../stores/world.ts';
import StandInZone from './StandInZone.vue';
import { say } from './words.ts';

defineEmits<{ close: [] }>();
const world = useWorld();
const session = useSession();
const notices = useNotices();
const faults = ref<StandInFaults>();
const STEPS = [
  [600_000, say('standInPanel.n10Min')],
  [3_600_000, say('standInPanel.n1Hour')],
  [21_600_000, say('standInPanel.n6Hours')],
  [86_400_000, say('standInPanel.n1Day')],
  [2_592_000_000, say('standInPanel.n30Days')],
] as const;
const SERVER = {
  none: say('standInPanel.well'),
  silent: say('standInPanel.silent'),
  refuses: say('standInPanel.refuses'),
  lags: say('standInPanel.hasTheZoneOfBefore'),
  truncates: say('standInPanel.cutsItsUdpAnswers'),
} as const;
const RESOLVER = {
  none: say('standInPanel.well'),
  silent: say('standInPanel.silent'),
  refuses: say('standInPanel.refuses'),
  lies: say('standInPanel.lies'),
  'mixes-up': say('standInPanel.mixesAnswersUp'),
} as const;
const RESOLVERS = {
  home: say('standInPanel.homeLine'),
  public: say('standInPanel.publicResolver'),
  mobile: say('standInPanel.mobileNetwork'),
  office: say('standInPanel.officeNetwork'),
  campus: say('standInPanel.campus'),
} as const;
const OTHERS = [
  [
    'certificate',
    say('standInPanel.certificatesItIssues'),
    {
      none: say('standInPanel.right'),
      expired: say('standInPanel.haveRunOut'),
      'wrong-name': say('standInPanel.areForAnotherName'),
    },
  ],
  [
    'authority',
    say('standInPanel.certificateAuthority'),
    { none: say('standInPanel.well'), refuses: say('standInPanel.refuses'), silent: say('standInPanel.silent') },
  ],
  [
    'registrar',
    say('standInPanel.registrar'),
    { none: say('standInPanel.well'), refuses: say('standInPanel.refuses'), silent: say('standInPanel.silent') },
  ],
] as const;

onMounted(async () => {
  try {
    faults.value = await world.faults();
  } catch (error) {
    notices.problem(error);
  }
});

async function set(change: (faults: StandInFaults) => void): Promise<void> {
  if (!faults.value) return;
  const next = structuredClone(JSON.parse(JSON.stringify(faults.value)) as StandInFaults);
  change(next);
  // At once, so that a second change made meanwhile starts from this one.
  faults.value = next;
  try {
    await call(standInsApi.setFaults, { body: next });
  } catch (error) {
    notices.problem(error);
  }
}
const readChosen = (event: Event) => (event.target as HTMLSelectElement).value;
</script>

<template>
  <v-dialog
    model-value
    :aria-label="say('standInPanel.standIns')"
    max-width="760"
    scrollable
    @update:model-value="$emit('close')"
  >
    <v-sheet class="panel">
      <h2 class="title-face">{{ say('standInPanel.theWorldOutsideIsSimulated') }}</h2>
      <p class="quiet">
        {{ say('standInPanel.aHostARegistrarWith') }}
      </p>
      <h3 class="heading">
        {{ say('standInPanel.worldClock')
        }}<span class="quiet">{{
          say('standInPanel.ahead', {
            time: world.time,
            hasAheadMs: (world.clock?.aheadMs ?? 0) > 0,
            aheadMs: formatDuration(world.clock?.aheadMs ?? 0),
          })
        }}</span>
      </h3>
      <div class="steps">
        <v-btn v-for="[ms, words] in STEPS" :key="ms" :disabled="!session.mayEdit" @click="world.runOn(ms)">{{
          say('standInPanel.on', { words })
        }}</v-btn>
      </div>
      <template v-if="faults">
        <h3 class="heading gap">{{ say('standInPanel.howTheyAre') }}</h3>
        <div class="faults">
          <label v-for="(fault, index) in faults.nameServers" :key="`ns${index}`"
            ><span>{{ say('standInPanel.nameServer', { index: index + 1 }) }}</span>
            <select
              :value="fault"
              :disabled="!session.mayEdit"
              @change="
                set((each) => {
                  each.nameServers[index as 0 | 1] = readChosen($event) as keyof typeof SERVER;
                })
              "
            >
              <option v-for="(words, value) in SERVER" :key="value" :value="value">{{ words }}</option>
            </select></label
          >
          <label v-for="(name, id) in RESOLVERS" :key="id"
            ><span>{{ say('standInPanel.resolver', { name }) }}</span>
            <select
              :value="faults.resolvers[id] ?? 'none'"
              :disabled="!session.mayEdit"
              @change="
                set((each) => {
                  each.resolvers[id] = readChosen($event) as keyof typeof RESOLVER;
                })
              "
            >
              <option v-for="(words, value) in RESOLVER" :key="value" :value="value">{{ words }}</option>
            </select></label
          >
          <label v-for="[id, name, choices] in OTHERS" :key="id"
            ><span>{{ name }}</span>
            <select
              :value="faults[id]"
              :disabled="!session.mayEdit"
              @change="
                set((each) => {
                  Object.assign(each, { [id]: readChosen($event) });
                })
              "
            >
              <option v-for="(words, value) in choices" :key="value" :value="value">{{ words }}</option>
            </select></label
          >
        </div>
      </template>
      <StandInZone />
      <v-btn class="close" @click="$emit('close')">{{ say('common.close') }}</v-btn>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.panel {
  padding: 16px 20px;
  border: 1px solid var(--stone-3);
  border-radius: 3px;
  overflow: auto;
}
.steps {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
}
.gap {
  margin-top: 18px;
}
.faults {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 6px 24px;
}
label {
  display: grid;
  grid-template-columns: 1fr 150px;
  gap: 8px;
  align-items: center;
}
select {
  font: inherit;
  font-size: 13px;
  padding: 3px 6px;
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  background: var(--bench);
  color: inherit;
}
.close {
  margin-top: 16px;
}
p {
  margin: 4px 0 14px;
}
@media (max-width: 699px) {
  .faults {
    grid-template-columns: 1fr;
  }
}
</style>
