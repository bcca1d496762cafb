<script setup lang="ts">
/** Who can visit, of the whole site and of its branches; it goes out with the next release. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { draftApi } from '@fastigium/contracts/api/draft';
import { visitorsApi, type EntryKind, type VisitorPlace, type Visitors } from '@fastigium/contracts/api/visitors';
import { computed, ref, shallowRef } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { useNotices } from '../../stores/notices.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { formatIsoDay } from '@fastigium/core/reach';
import { useWorld } from '../../stores/world.ts';
import PagePicker from '../shared/PagePicker.vue';
import type { PickedTarget } from '../shared/pickedTarget.ts';
import PanelRow from './PanelRow.vue';
import VisitorRow from './VisitorRow.vue';
import { ENTRY_CHOICES, createPassword } from './visitorWords.ts';
import { say } from './words.ts';

const site = useSite();
const session = useSession();
const notices = useNotices();
const world = useWorld();
const visitors = shallowRef<Visitors>();
const passwords = shallowRef<readonly { place: string | null; password: string }[]>([]);
const pages = shallowRef<readonly PageRow[]>([]);
useReadAgain(async (id) => {
  visitors.value = await call(visitorsApi.get, { params: { site: id } });
  passwords.value = [];
});

type Form = 'entry' | 'instead' | 'last-day';
const form = ref<Form>();
const where = ref<'site' | 'branch'>('site');
const picked = ref<PickedTarget>();
const kind = ref<EntryKind>('everyone');
const user = ref('guest');
const password = ref('');
const lastDay = ref('');

const rows = computed<readonly VisitorPlace[]>(() => {
  const said = visitors.value?.places ?? [];
  return said[0]?.place === null
    ? said
    : [{ place: null, title: say('visitorsPanel.theWholeSite'), address: '/', kind: 'everyone', user: null }, ...said];
});
const isClosed = computed(() => rows.value.some((row) => row.kind === 'nobody') || visitors.value?.lastDay != null);
const isRestricted = computed(
  () => rows.value.some((row) => row.kind !== 'everyone') || visitors.value?.lastDay != null,
);

function makePassword(): void {
  password.value = createPassword(crypto.getRandomValues(new Uint8Array(64)));
}
async function readPages(): Promise<void> {
  if (pages.value.length === 0 && site.id !== undefined)
    pages.value = (await call(draftApi.pages, { params: { site: site.id } })).pages;
}
async function openForm(next: Form, row?: VisitorPlace): Promise<void> {
  try {
    await readPages();
  } catch (error) {
    notices.problem(error);
    return;
  }
  form.value = next;
  where.value = row && row.place !== null ? 'branch' : 'site';
  picked.value = row?.place ? { kind: 'page', page: row.place } : undefined;
  kind.value = row?.kind === 'everyone' || row === undefined ? 'password' : row.kind;
  user.value = row?.user ?? 'guest';
  lastDay.value = visitors.value?.lastDay ?? formatIsoDay(world.nowMs + 30 * 86_400_000);
  if (next === 'instead')
    picked.value = visitors.value?.instead ? { kind: 'page', page: visitors.value.instead.page } : undefined;
  makePassword();
}
const place = computed(() =>
  where.value === 'site' ? null : picked.value?.kind === 'page' ? picked.value.page : undefined,
);
const isWhole = computed(
  () =>
    place.value !== undefined &&
    (kind.value !== 'password' || (user.value.trim() !== '' && password.value.length >= 8)),
);

async function close(decided: Promise<boolean>): Promise<void> {
  if (await decided) form.value = undefined;
}
function keepEntry(): Promise<void> {
  if (place.value === undefined) return Promise.resolve();
  const entry =
    kind.value === 'password'
      ? { kind: 'password' as const, user: user.value.trim(), password: password.value }
      : { kind: kind.value };
  // For the whole site, everyone is what holds where nothing is said.
  return close(
    site.decide({
      kind: 'entry',
      place: place.value,
      entry: kind.value === 'everyone' && place.value === null ? null : entry,
    }),
  );
}
const takeBack = (row: VisitorPlace) => site.decide({ kind: 'entry', place: row.place, entry: null });
const showInstead = (page: string | null) => close(site.decide({ kind: 'shown-instead', page }));
const setLastDay = (day: string | null) => close(site.decide({ kind: 'last-day', day }));

async function showPasswords(): Promise<void> {
  if (site.id === undefined) return;
  try {
    ({ passwords: passwords.value } = await call(visitorsApi.passwords, { params: { site: site.id } }));
  } catch (error) {
    notices.problem(error);
  }
}
const formatShown = (row: VisitorPlace) => passwords.value.find((each) => each.place === row.place)?.password;
</script>

<template>
  <section v-if="visitors" :aria-label="say('visitorsPanel.whoCanVisit')">
    <h2 class="heading">{{ say('visitorsPanel.whoCanVisit') }}</h2>
    <p v-if="isRestricted && !visitors.isEnforced" class="warn">
      {{ say('visitorsPanel.thisHostOnlyKeepsFiles') }}
    </p>
    <ul>
      <VisitorRow
        v-for="row in rows"
        :key="row.place ?? ''"
        :row="row"
        :password="formatShown(row)"
        @show="showPasswords"
        @change="openForm('entry', row)"
        @take-back="takeBack(row)"
      />
      <PanelRow v-if="isClosed || visitors.instead" :mark="visitors.instead ? 'verdigris' : 'ochre'">
        <span class="one-line">{{
          visitors.instead
            ? say('visitorsPanel.isShownInstead', { title: visitors.instead.title })
            : say('visitorsPanel.aPlainLineIsShown')
        }}</span><span class="quiet">{{
          visitors.instead ? visitors.instead.address : say('visitorsPanel.chooseAPageOfThe')
        }}</span>
        <template v-if="session.mayEdit" #ways
          ><button
            class="text-link"
            type="button"
            :aria-label="say('visitorsPanel.chooseThePageThatIs')"
            @click="openForm('instead')"
          >
            {{ say('visitorsPanel.choose') }}
          </button></template
        >
      </PanelRow>
      <PanelRow v-if="visitors.lastDay" mark="ochre">
        <span>{{ say('visitorsPanel.theSiteComesDownAfter', { lastDay: visitors.lastDay }) }}</span><span
          class="quiet"
          >{{ say('visitorsPanel.atMidnightUtc') }}</span
        >
        <template v-if="session.mayEdit" #ways
          ><button class="text-link" type="button" @click="setLastDay(null)">
            {{ say('visitorsPanel.keepItUp') }}
          </button></template
        >
      </PanelRow>
    </ul>
    <p v-if="session.mayEdit && form === undefined" class="more">
      <button
        class="text-link"
        type="button"
        @click="openForm('entry', { place: '', title: '', address: '', kind: 'everyone', user: null })"
      >
        {{ say('visitorsPanel.anotherPartOfTheSite') }}
      </button>
      <button v-if="!visitors.lastDay" class="text-link" type="button" @click="openForm('last-day')">
        {{ say('visitorsPanel.takeItDownAfterA') }}
      </button>
    </p>
    <form v-if="form === 'entry'" @submit.prevent="keepEntry" @keydown.esc.stop="form = undefined">
      <SegmentedChoice
        v-model="where"
        :label="say('common.where')"
        :options="[
          { value: 'site', label: say('visitorsPanel.theWholeSite') },
          { value: 'branch', label: say('visitorsPanel.aPageAndWhatIs') },
        ]"
      />
      <PagePicker v-if="where === 'branch'" v-model="picked" :pages="pages" :disabled="false" :offers="[]" />
      <SegmentedChoice v-model="kind" :label="say('visitorsPanel.whoCanVisit')" :options="ENTRY_CHOICES" />
      <div v-if="kind === 'password'" class="two">
        <LabelledField v-model="user" :label="say('visitorsPanel.nameTheyType')" maxlength="64" autocomplete="off" />
        <LabelledField
          v-model="password"
          :label="say('visitorsPanel.password8LettersOrMore')"
          maxlength="72"
          autocomplete="off"
        />
        <button class="text-link" type="button" @click="makePassword">{{ say('visitorsPanel.makeAnother') }}</button>
      </div>
      <div class="acts">
        <v-btn type="submit" height="36" :disabled="!isWhole">{{ say('common.setIt') }}</v-btn><v-btn
          height="36"
          @click="form = undefined"
          >{{ say('common.leaveIt') }}</v-btn
        >
      </div>
      <p class="quiet">
        {{ say('visitorsPanel.itHoldsFromTheNext', { isBranch: where === 'branch' }) }}
      </p>
    </form>
    <form
      v-else-if="form === 'instead'"
      @submit.prevent="picked?.kind === 'page' && showInstead(picked.page)"
      @keydown.esc.stop="form = undefined"
    >
      <PagePicker v-model="picked" :pages="pages" :disabled="false" :offers="[]" />
      <div class="acts">
        <v-btn type="submit" height="36" :disabled="picked?.kind !== 'page'">{{
          say('visitorsPanel.showThisPage')
        }}</v-btn><v-btn v-if="visitors.instead" height="36" @click="showInstead(null)">{{
          say('visitorsPanel.aPlainLine')
        }}</v-btn
        ><v-btn height="36" @click="form = undefined">{{ say('common.leaveIt') }}</v-btn>
      </div>
      <p class="quiet">{{ say('visitorsPanel.thePageAndWhatIt') }}</p>
    </form>
    <form v-else-if="form === 'last-day'" @submit.prevent="setLastDay(lastDay)" @keydown.esc.stop="form = undefined">
      <LabelledField v-model="lastDay" :label="say('visitorsPanel.lastDayItCanBe')" type="date" />
      <div class="acts">
        <v-btn type="submit" height="36" :disabled="lastDay === ''">{{
          say('visitorsPanel.takeItDownThen')
        }}</v-btn><v-btn height="36" @click="form = undefined">{{ say('common.leaveIt') }}</v-btn>
      </div>
      <p class="quiet">{{ say('visitorsPanel.afterwardsEveryAddressSaysThat') }}</p>
    </form>
  </section>
</template>

<style scoped>
p {
  margin: 2px 0 8px;
}
ul {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
}
.more {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
.text-link {
  min-height: 24px;
}
.warn {
  padding: 8px 12px;
  background: var(--ochre-tint);
  border: var(--line);
  border-radius: 3px;
}
form {
  display: grid;
  gap: 10px;
  margin-top: 8px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1.4fr;
  gap: 4px 8px;
  justify-self: stretch;
}
.two .text-link {
  grid-column: 2;
  justify-self: start;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>
