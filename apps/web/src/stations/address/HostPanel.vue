<script setup lang="ts">
/** Plans against what this site needs, and regions by their distance to the visitors. */
import { computed, ref } from 'vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatMoney } from '../../logic/duration.ts';
import { formatSize } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import { useHosting } from './hosting.ts';
import VisitorCountries from './VisitorCountries.vue';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const { view, months, plan, region } = useHosting();
const session = useSession();
const hasHost = computed(() => view.value?.account.kind !== 'stand-in');
const needs = computed(() => view.value?.needs);
const cheapestFit = computed(
  () => view.value?.plans.filter(({ fits }) => fits).sort((a, b) => a.totalCents - b.totalCents)[0]?.plan.id,
);
const saying = ref(false);
const visitorWords = computed(() => {
  const names = view.value?.visitors.map(({ country }) => country) ?? [];
  if (names.length === 0) return say('hostPanel.notKnownYet');
  return names.length > 3
    ? say('hostPanel.andMore', { names: names.slice(0, 3).join(', '), names2: names.length - 3 })
    : names.join(', ');
});
const farthest = computed(() => Math.max(1, ...(view.value?.regions.map(({ km }) => km ?? 0) ?? [])));
</script>

<template>
  <p v-if="view && view.plans.length === 0" class="none">
    {{ hasHost ? say('hostPanel.theSiteIsPublishedTo') : say('hostPanel.aSiteIsPublishedTo') }}
  </p>
  <template v-else-if="view">
    <div class="head">
      <h2 class="heading">
        {{
          say('hostPanel.plansForFilesOfAn', {
            files: needs?.files ?? 0,
            bytes: formatSize(needs?.bytes ?? 0),
            hasOwnDomain: Boolean(needs?.ownDomain),
          })
        }}
      </h2>
      <SegmentedChoice
        v-model="months"
        :label="say('hostPanel.term')"
        :options="[
          { value: 1, label: say('hostPanel.n1Month') },
          { value: 12, label: say('hostPanel.n12Months') },
          { value: 24, label: '24' },
          { value: 36, label: '36' },
        ]"
      />
    </div>
    <div class="plans" role="radiogroup" :aria-label="say('hostPanel.plan')">
      <div
        v-for="each in view.plans"
        :key="each.plan.id"
        class="choice"
        :class="{ on: each.plan.id === plan, unfit: !each.fits }"
      >
        <label>
          <input v-model="plan" type="radio" name="plan" :value="each.plan.id" />
          <span class="name"
            ><b>{{ each.plan.name }}</b
            ><span class="quiet">{{
              say('hostPanel.backupsForDays', {
                storageBytes: formatSize(each.plan.storageBytes),
                noBackupDays: each.plan.backupDays === 0,
                backupDays: each.plan.backupDays,
              })
            }}</span></span
          >
          <span class="fit"
            ><KeystoneMark :mark="each.fits ? 'verdigris' : 'madder'" />{{ ' ' }}
            <span
              >{{
                each.fits
                  ? say('hostPanel.fitsUses', {
                      usedPercent: each.usedPercent < 1 ? say('hostPanel.lessThan1') : Math.round(each.usedPercent),
                    })
                  : say('hostPanel.tooSmall', { lacks: each.lacks.map(speak).join('; ') })
              }}<span v-if="each.plan.id === cheapestFit" class="quiet">{{
                say('hostPanel.theLeastThatFits')
              }}</span></span
            ></span
          >
          <span class="figure quiet">{{
            say('hostPanel.upToMinAwayA', {
              uptimePercent: each.plan.uptimePercent,
              downMinutesPerMonth: each.downMinutesPerMonth,
            })
          }}</span>
          <span class="figure"
            ><b>{{ formatMoney(each.totalCents, each.plan.currency) }}</b
            ><br /><span class="quiet">{{
              each.setUpCents > 0
                ? say('hostPanel.ofItSetUp', { setUpCents: formatMoney(each.setUpCents, each.plan.currency) })
                : each.plan.setUpCents > 0
                  ? say('hostPanel.setUpFeeWaived')
                  : say('hostPanel.noSetUpFee')
            }}</span></span
          >
        </label>
      </div>
    </div>
    <div class="head">
      <h2 class="heading">{{ say('hostPanel.regionsByDistanceToThe') }}</h2>
      <span class="quiet"
        >{{ say('hostPanel.lightInFibreSetsThe', { visitorWords }) }}
        <button v-if="session.mayEdit" class="text-link" type="button" @click="saying = !saying">
          {{ saying ? say('hostPanel.close') : say('hostPanel.sayWhereTheyAre') }}
        </button></span
      >
    </div>
    <VisitorCountries v-if="saying" @done="saying = false" />
    <div class="regions" role="radiogroup" :aria-label="say('hostPanel.region')">
      <div v-for="each in view.regions" :key="each.id" class="choice" :class="{ on: each.id === region }">
        <label>
          <input v-model="region" type="radio" name="region" :value="each.id" />
          <span>{{ each.name }}</span>
          <span class="bar" aria-hidden="true"
            ><span :style="{ width: `${((each.km ?? 0) / farthest) * 100}%` }"
          /></span>
          <span class="figure">{{ each.km === null ? '' : say('hostPanel.km', { km: Math.round(each.km) }) }}</span>
          <span class="figure quiet">{{
            each.leastRoundTripMs === null
              ? ''
              : say('hostPanel.atLeastMs', { leastRoundTripMs: each.leastRoundTripMs.toFixed(1) })
          }}</span>
        </label>
      </div>
    </div>
  </template>
</template>

<style scoped>
.none {
  padding: 16px 20px;
  color: var(--ink-5);
}
.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 16px;
  padding: 12px 20px 6px;
  flex-wrap: wrap;
}
.head .heading {
  margin: 0;
  font-size: 13px;
  color: var(--ink-7);
}
.choice {
  border-bottom: var(--line);
  border-left: 3px solid transparent;
}
.choice.on {
  background: var(--lapis-tint);
  border-left-color: var(--lapis);
  --ink-5: var(--ink-7);
}
label {
  display: grid;
  gap: 12px;
  align-items: center;
  padding: 8px 20px 8px 17px;
  cursor: pointer;
}
.plans label {
  grid-template-columns: 16px 150px minmax(0, 1fr) 128px 112px;
}
.regions label {
  grid-template-columns: 16px 130px minmax(0, 1fr) 84px 104px;
  padding-block: 6px;
}
input {
  accent-color: var(--lapis);
  margin: 0;
}
.name {
  display: grid;
}
.fit {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
.unfit .fit {
  color: var(--madder);
}
.bar {
  height: 8px;
  background: var(--stone-2);
}
.bar span {
  display: block;
  height: 100%;
  background: var(--lapis);
}
@media (max-width: 699px) {
  .plans label {
    grid-template-columns: 16px minmax(0, 1fr) 96px;
  }
  .plans .fit {
    grid-column: 2 / -1;
    grid-row: 2;
  }
  .plans label > .figure.quiet {
    display: none;
  }
  .regions label {
    grid-template-columns: 16px minmax(0, 1fr) 76px 96px;
  }
  .regions .bar {
    display: none;
  }
}
</style>
