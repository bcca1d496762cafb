<script setup lang="ts">
/** One removal: what it was, what went with it, and putting it back, whole or in part. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { removalsApi, type RemovalDetail, type RemovalRow } from '@fastigium/contracts/api/removals';
import type { PutBackRequest } from '@fastigium/contracts/decisions/removals';
import { DomainError } from '@fastigium/contracts/errors';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../../api/client.ts';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import LabelledField from '../../../components/LabelledField.vue';
import { readDay, formatWhen } from '../../../logic/format.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import { useWorld } from '../../../stores/world.ts';
import PagePreview from '../PagePreview.vue';
import ForGoodPanel from './ForGoodPanel.vue';
import { KIND_WORDS } from './removalWords.ts';
import PutBackPanel from './PutBackPanel.vue';
import { speak } from '../../../words/index.ts';
import { say } from '../words.ts';

const props = defineProps<{
  row: RemovalRow;
  /** The page of the bundle that is looked at; the first, where none is named. */ node?: string | undefined;
  pages: readonly PageRow[];
  version: number;
}>();
const emit = defineEmits<{ done: [] }>();
const world = useWorld();
const site = useSite();
const session = useSession();
const notices = useNotices();
const detail = shallowRef<RemovalDetail>();
const part = ref<RemovalDetail['bundle'][number]>();
const holding = ref(false);
const reason = ref('');
const isForGood = ref(false);
const panel = ref<InstanceType<typeof PutBackPanel>>();
const MOST = 60;

watch(
  [() => props.row.of, () => props.node, () => site.versions.draft],
  async ([of], before) => {
    if (site.id === undefined) return;
    if (before[0] !== of) [holding.value, isForGood.value, reason.value] = [false, false, ''];
    try {
      const next = await call(removalsApi.detail, { params: { site: site.id, of } });
      if (props.row.of !== of) return;
      detail.value = next;
      part.value =
        props.node === next.bundle[0]?.id ? undefined : next.bundle.find(({ id, isOut }) => id === props.node && isOut);
    } catch (error) {
      detail.value = undefined;
      // Put back or removed for good meanwhile: the list says so.
      const isGone = error instanceof DomainError && (error.code === 'not-removed' || error.code === 'removal-swept');
      if (props.row.of === of && !isGone) notices.problem(error);
    }
  },
  { immediate: true },
);

const things = computed<PutBackRequest['things']>(() => [
  { of: props.row.of, ...(part.value ? { nodes: [part.value.id] } : {}) },
]);
const shown = computed(() => part.value ?? detail.value?.bundle.find(({ isOut }) => isOut));
const out = computed(() => detail.value?.bundle.filter(({ isOut }) => isOut) ?? []);

async function hold(): Promise<void> {
  if (await site.decide({ kind: 'hold-removals', of: [props.row.of], reason: reason.value.trim() }))
    [holding.value, reason.value] = [false, ''];
}
defineExpose({ putBack: () => panel.value?.putBack() });
</script>

<template>
  <h1 class="title-face">{{ shown?.label ?? row.label }}</h1>
  <p class="quiet">
    <span class="address">{{ shown?.address ?? row.address ?? '' }}</span>
    {{ part ? say('removedBench.ofTheBranch', { label: row.label }) : `${KIND_WORDS[row.kind]}, ${speak(row.from)}` }}
  </p>
  <PagePreview
    v-if="shown?.kind === 'page' && shown.address"
    away
    :address="shown.address"
    :version="version"
    :name="say('removedBench.asItWas', { label: shown.label })"
  />
  <p v-else-if="detail?.text" class="text">{{ detail.text }}</p>
  <p class="who">
    <KeystoneMark mark="dashed" /><span
      >{{ say('removedBench.removedBy', { at: formatWhen(row.at, world.now), name: row.by.name })
      }}<template v-if="row.why">: “{{ row.why }}”</template></span
    >
  </p>
  <PutBackPanel
    v-if="session.mayEdit && detail"
    ref="panel"
    :things="things"
    :label="part ? say('removedBench.alone', { label: part.label }) : ''"
    @done="emit('done')"
  />
  <template v-if="out.length > 1">
    <h2 class="heading">
      {{ say('removedBench.whatWentWithIt') }}
      <span class="quiet">{{
        out.length === row.size
          ? say('removedBench.pages', { row: row.size })
          : say('removedBench.ofStillOut', { out: out.length, row: row.size })
      }}</span>
    </h2>
    <ul class="bundle">
      <li
        v-for="each in detail?.bundle.slice(0, MOST)"
        :key="each.id"
        :class="{ out: each.isOut, on: part?.id === each.id }"
      >
        <KeystoneMark :mark="each.isOut ? 'dashed' : 'verdigris'" />
        <span class="one-line" :style="{ paddingInlineStart: `${each.depth * 16}px` }" :title="each.address ?? ''">{{
          each.label
        }}</span>
        <button
          v-if="session.mayEdit && each.isOut && each.kind !== 'redirect' && each.kind !== 'pattern'"
          class="text-link"
          type="button"
          @click="part = part?.id === each.id ? undefined : each"
        >
          {{ part?.id === each.id ? say('removedBench.allOfIt') : say('removedBench.onlyThis') }}
        </button>
        <span v-else-if="!each.isOut" class="quiet">{{ say('removedBench.back') }}</span>
      </li>
      <li v-if="(detail?.bundle.length ?? 0) > MOST" class="quiet">
        {{ say('removedBench.andMore', { bundle: (detail?.bundle.length ?? 0) - MOST }) }}
      </li>
    </ul>
  </template>
  <dl>
    <template v-if="detail && detail.menus.length > 0"
      ><dt>{{ say('common.menus') }}</dt>
      <dd>{{ detail.menus.map(speak).join('; ') }}</dd></template
    >
    <template v-if="row.standsIn"
      ><dt>{{ say('removedBench.itsAddress') }}</dt>
      <dd>
        {{ speak(row.standsIn) }}
      </dd></template
    >
    <template v-if="row.visits !== null"
      ><dt>{{ say('common.visits') }}</dt>
      <dd>
        {{
          say('removedBench.visitsCountedLastAskedFor', {
            visits: row.visits,
            hasAskedSince: Boolean(row.askedSince),
            askedSince: row.askedSince && formatWhen(row.askedSince, world.now),
          })
        }}
      </dd></template
    >
    <dt>{{ say('removedBench.kept') }}</dt>
    <dd>
      {{
        row.held
          ? say('removedBench.heldBy', { name: row.held.by.name, reason: row.held.reason })
          : row.keptUntil
            ? say('removedBench.untilThenItGoesFor', { keptUntil: readDay(row.keptUntil) })
            : say('removedBench.withoutEnd')
      }}
    </dd>
  </dl>
  <template v-if="session.mayEdit">
    <form v-if="holding" class="hold" @submit.prevent="hold" @keydown.esc.stop="holding = false">
      <LabelledField v-model="reason" :label="say('removedBench.whyNothingMayTakeIt')" maxlength="500" />
      <v-btn type="submit" height="36" :disabled="reason.trim() === ''">{{ say('removedBench.hold') }}</v-btn>
    </form>
    <div v-else class="acts">
      <v-btn v-if="row.held" @click="site.decide({ kind: 'free-removals', of: [row.of] })">{{
        say('common.letItGo')
      }}</v-btn>
      <v-btn v-else @click="holding = true">{{ say('removedBench.holdIt') }}</v-btn>
      <v-btn v-if="session.isOwner" color="error" variant="text" @click="isForGood = !isForGood">{{
        say('removedBench.forGood')
      }}</v-btn>
    </div>
    <ForGoodPanel v-if="isForGood" :rows="[row]" @leave="isForGood = false" @done="isForGood = false" />
  </template>
</template>

<style scoped>
p {
  margin: 2px 0 10px;
}
.text {
  max-height: 160px;
  overflow: auto;
  padding: 8px 10px;
  background: var(--stone-1);
  border: var(--line);
  border-radius: 2px;
}
.who {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px;
  align-items: baseline;
  margin-top: 10px;
}
.heading {
  margin-top: 14px;
}
.bundle {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
  border-top: var(--line);
}
.bundle li {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 32px;
  border-bottom: var(--line);
}
.bundle li > .one-line {
  flex: 1;
}
.bundle .out {
  background: repeating-linear-gradient(135deg, transparent 0 8px, var(--stone-1) 8px 16px);
}
.bundle .on {
  background: var(--lapis-tint);
}
dl {
  display: grid;
  grid-template-columns: 84px 1fr;
  gap: 4px 12px;
  margin: 14px 0 12px;
}
dt {
  color: var(--ink-5);
  font-size: 12px;
  line-height: 20px;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.hold {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
}
.acts {
  display: flex;
  gap: 8px;
}
</style>
