<script setup lang="ts">
/** Letting the draft as it is go out at a time of one's own choosing. */
import { setTimeApi, type SetTime } from '@fastigium/contracts/api/setTime';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';
import { useCauses } from './causes.ts';
import { splitLocalTime, setTimeWords } from '../../logic/setTimeWords.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const props = defineProps<{ set: SetTime | null; note: string; isReady: boolean }>();
const causes = useCauses();
const emit = defineEmits<{ done: [] }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const world = useWorld();
const zone = Intl.DateTimeFormat().resolvedOptions().timeZone;
const isOpen = ref(false);
// Tomorrow at six: after the last visitors and before the first.
const fields = splitLocalTime(new Date(world.nowMs + 86_400_000));
const date = ref(fields.date);
const time = ref('06:00');
const instant = computed(() => {
  const at = new Date(`${date.value}T${time.value}`);
  return Number.isNaN(at.getTime()) ? undefined : at;
});

async function run(work: (id: string) => Promise<unknown>): Promise<void> {
  if (site.id === undefined) return;
  try {
    await work(site.id);
    isOpen.value = false;
    emit('done');
  } catch (error) {
    notices.problem(error);
  }
}
const set = () =>
  run((id) => {
    if (!instant.value || !site.changes) throw new Error(say('setTimePanel.chooseADayAndA'));
    return call(setTimeApi.set, {
      params: { site: id },
      body: {
        at: instant.value.toISOString(),
        zone,
        version: site.changes.version,
        note: props.note,
        leaveOut: [...causes.leftOut],
      },
    });
  });
const leave = () => run((id) => call(setTimeApi.leave, { params: { site: id } }));
</script>

<template>
  <p v-if="props.set" class="set">
    <span
      ><RichWords
        :words="say.parts('setTimePanel.goesOutByItselfSet', { set: setTimeWords(props.set), name: props.set.by.name })"
      /><template v-if="props.set.since > 0">{{
        say('setTimePanel.decisionsOfTheDraftDo', { since: props.set.since })
      }}</template
      >.</span
    >
    <button v-if="session.mayEdit" class="text-link" type="button" @click="leave">{{ say('common.leaveIt') }}</button>
  </p>
  <template v-else-if="session.mayEdit && isReady">
    <button v-if="!isOpen" class="text-link begin" type="button" @click="isOpen = true">
      {{ say('setTimePanel.atASetTime') }}
    </button>
    <form v-else @submit.prevent="set" @keydown.esc.stop="isOpen = false">
      <LabelledField v-model="date" :label="say('common.day')" type="date" />
      <LabelledField v-model="time" :label="say('setTimePanel.time')" type="time" />
      <v-btn type="submit" height="36" :disabled="instant === undefined">{{ say('common.set') }}</v-btn>
      <p class="quiet">
        {{ say('setTimePanel.byTheClockOfThe', { zone, hasLeftOut: causes.leftOut.size > 0 }) }}
      </p>
    </form>
  </template>
</template>

<style scoped>
.begin {
  margin-top: 10px;
  min-height: 24px;
}
.set {
  display: flex;
  gap: 12px;
  align-items: baseline;
  justify-content: space-between;
  padding: 8px 12px;
  background: var(--ochre-tint);
  border: var(--line);
  border-radius: 3px;
  margin: 8px 0;
}
form {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
  gap: 8px;
  align-items: end;
  margin-top: 10px;
}
form p {
  grid-column: 1 / -1;
  margin: 0;
}
</style>
