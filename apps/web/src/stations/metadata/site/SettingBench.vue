<script setup lang="ts">
/** One setting of the whole site, with what it changes and what differs in branches. */
import type { Metadata } from '@fastigium/contracts/api/metadata';
import { computed, ref, watch } from 'vue';
import { isTitlePattern, fillTitlePattern } from '@fastigium/core/head';
import LabelledField from '../../../components/LabelledField.vue';
import SegmentedChoice from '../../../components/SegmentedChoice.vue';
import { useSession } from '../../../stores/session.ts';
import { useSetHead } from '../metadata.ts';
import DataCheck from './DataCheck.vue';
import IconsPanel from './IconsPanel.vue';
import RobotsTester from './RobotsTester.vue';
import { findBranchSettings, findSetting, type SiteSetting } from './settings.ts';
import { runInBackground } from '../../../stores/background.ts';
import { say } from '../words.ts';

const props = defineProps<{ setting: SiteSetting; metadata: Metadata }>();
const emit = defineEmits<{ back: [] }>();
const session = useSession();
const set = useSetHead();
const field = ref<{ focus(): void }>();
const area = ref<HTMLTextAreaElement>();
const kept = computed(() => findSetting(props.metadata, props.setting.name));
const start = computed(() => {
  const text = kept.value?.text;
  if (typeof text === 'string') return text;
  const { name } = props.setting;
  return (
    (name === 'robots.txt'
      ? props.metadata.files.robots
      : name === 'security.txt'
        ? props.metadata.files.security
        : undefined) ?? ''
  );
});
const text = ref(start.value);
watch(start, (now, before) => {
  if (text.value === before) text.value = now;
});
/** The page at which the branch begins that is spoken of; empty for the whole site. */
const branch = ref('');
const isOn = computed(() => kept.value?.text === 'on');
const onOff = computed({
  get: () => (isOn.value ? 'on' : 'off'),
  set: (next) => runInBackground(save(next === 'on' ? 'on' : null)),
});
const inBranches = computed(() => findBranchSettings(props.metadata, props.setting.name));
const byId = computed(() => new Map(props.metadata.rows.map((row) => [row.id, row])));
const roots = computed(() =>
  props.metadata.rows.filter(
    ({ depth, address }, index, all) => address !== '/' && (all[index + 1]?.depth ?? 0) > depth,
  ),
);
const changed = computed(() => text.value.trim() !== start.value.trim());
const needsName = computed(
  () =>
    props.metadata.origin === null &&
    ['canonical', 'alternates', 'breadcrumb', 'article', 'event', 'sitemap'].includes(props.setting.name),
);
/** How many titles the form as it is typed would change is seen in the table once it is set. */
const own = ref<'kept' | 'replaced'>('kept');

async function save(value: string | false | null): Promise<void> {
  const scope = branch.value === '' ? { kind: 'everywhere' as const } : { kind: 'branch' as const, page: branch.value };
  if (
    await set([
      {
        scope,
        name: props.setting.name,
        text: value,
        own: own.value === 'replaced' && value !== null ? 'replaced' : null,
      },
    ])
  )
    emit('back');
}
/** How some titles would read in the form as it is typed. */
const samples = computed(() =>
  props.setting.name === 'pattern' && isTitlePattern(text.value)
    ? props.metadata.rows
        .slice(0, 40)
        .filter(({ label }) => label !== '')
        .slice(0, 4)
        .map(({ label }) => fillTitlePattern(text.value, label, siteName.value, ''))
    : [],
);
const siteName = computed(() => {
  const set = findSetting(props.metadata, 'name')?.text;
  return typeof set === 'string' ? set : props.metadata.siteName;
});
const isLine = computed(() => /^(meta:|link:|language)/.test(props.setting.name));
defineExpose({
  focus: () => {
    field.value?.focus();
    area.value?.focus();
  },
});
</script>

<template>
  <h1 class="title-face">{{ setting.label }}</h1>
  <p class="quiet">{{ setting.words }}</p>
  <p v-if="needsName" class="wait">
    {{ say('settingBench.theSiteHasNoMain') }}
  </p>
  <IconsPanel v-if="setting.kind === 'icons'" :metadata="metadata" />
  <template v-else-if="setting.kind === 'switch' && session.mayEdit">
    <SegmentedChoice
      v-model="onOff"
      :label="setting.label"
      :options="[
        { value: 'on', label: say('settingBench.on') },
        { value: 'off', label: say('settingBench.off') },
      ]"
    />
  </template>
  <form
    v-else-if="session.mayEdit"
    class="form"
    @submit.prevent="save(text)"
    @keydown.esc="((text = start), emit('back'))"
  >
    <p v-if="setting.kind === 'generator'" class="acts">
      <v-btn @click="((own = 'replaced'), save(false))">{{ say('settingBench.leaveItOutOnEvery') }}</v-btn>
    </p>
    <template v-if="setting.kind === 'text'">
      <label class="quiet" for="setting-text">{{ setting.label }}</label>
      <textarea
        class="source"
        id="setting-text"
        ref="area"
        v-model="text"
        rows="10"
        spellcheck="false"
        :placeholder="setting.example"
        @keydown.ctrl.enter.prevent="save(text)"
      />
    </template>
    <LabelledField
      v-if="setting.kind !== 'text'"
      ref="field"
      v-model="text"
      :label="setting.label"
      :placeholder="setting.example"
      maxlength="1000"
    />
    <button
      v-if="text === '' && setting.example"
      class="text-link begin"
      type="button"
      @click="text = setting.example ?? ''"
    >
      {{ say('settingBench.beginWithAnExample') }}
    </button>
    <ul v-if="samples.length > 0" class="samples quiet">
      <li v-for="each in samples" :key="each">{{ each }}</li>
    </ul>
    <label v-if="isLine && metadata.rows.length > 0" class="tick"
      ><input v-model="own" type="checkbox" true-value="replaced" false-value="kept" />
      {{ say('settingBench.alsoInPlaceOfThe') }}</label
    >
    <label v-if="setting.perBranch && roots.length > 0" class="for quiet"
      >{{ say('settingBench.for') }}
      <select v-model="branch">
        <option value="">{{ say('settingBench.theWholeSite') }}</option>
        <option v-for="row in roots" :key="row.id" :value="row.id">
          {{ say('settingBench.andBelow', { address: row.address }) }}
        </option>
      </select>
    </label>
    <div class="acts">
      <v-btn
        type="submit"
        variant="flat"
        color="primary"
        height="36"
        :disabled="text.trim() === '' || (!changed && branch === '' && own === 'kept')"
        >{{ say('common.set') }}</v-btn
      >
      <v-btn v-if="kept || inBranches.length > 0" height="36" @click="save(null)">{{ say('common.takeItBack') }}</v-btn>
      <v-btn v-if="branch !== ''" height="36" @click="save(false)">{{ say('settingBench.leaveItOutThere') }}</v-btn>
    </div>
  </form>
  <label
    v-if="setting.kind === 'switch' && setting.perBranch && session.mayEdit && roots.length > 0"
    class="for quiet branch"
    >{{ say('settingBench.otherwiseIn') }}
    <select v-model="branch">
      <option value="">{{ say('settingBench.noBranch') }}</option>
      <option v-for="row in roots" :key="row.id" :value="row.id">
        {{ say('settingBench.andBelow', { address: row.address }) }}
      </option>
    </select>
    <template v-if="branch !== ''"
      ><v-btn height="28" @click="save(isOn ? false : 'on')">{{
        isOn ? say('settingBench.offThere') : say('settingBench.onThere')
      }}</v-btn></template
    >
  </label>
  <template v-if="inBranches.length > 0">
    <hr class="rule" />
    <h2 class="heading">{{ say('settingBench.otherwiseInBranches', { inBranches: inBranches.length }) }}</h2>
    <ul class="branches">
      <li v-for="each in inBranches" :key="JSON.stringify(each.scope)">
        <span class="address">{{
          each.scope.kind === 'branch'
            ? (byId.get(each.scope.page)?.address ?? say('settingBench.aPageThatIsGone'))
            : ''
        }}</span>
        <span class="one-line">{{ each.text === false ? say('common.leftOut') : (each.text ?? '') }}</span>
        <button
          v-if="session.mayEdit"
          class="text-link"
          type="button"
          @click="set([{ scope: each.scope, name: each.name, text: null }])"
        >
          {{ say('common.takeItBack') }}
        </button>
      </li>
    </ul>
  </template>
  <RobotsTester v-if="setting.name === 'robots.txt'" :text="text" :metadata="metadata" />
  <DataCheck v-if="setting.name === 'data' || setting.name === 'organisation'" :text="text" />
</template>

<style scoped>
p {
  margin: 4px 0 12px;
}
.wait {
  color: var(--ochre-dark);
}
.form {
  display: grid;
  gap: 10px;
}
.acts {
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
  margin: 0;
}
.begin {
  justify-self: start;
}
.samples {
  margin: 0;
  padding-inline-start: 18px;
}
.tick {
  display: flex;
  gap: 8px;
  align-items: center;
}
.for {
  display: flex;
  gap: 8px;
  align-items: center;
}
.branch {
  margin-top: 14px;
}
select {
  font: inherit;
  font-size: 13px;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 3px 4px;
  max-width: 260px;
}
.branches {
  list-style: none;
  margin: 0;
  padding: 0;
}
.branches li {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 12px;
  padding: 5px 0;
  border-bottom: var(--line);
}
</style>
