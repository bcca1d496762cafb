<script setup lang="ts">
/** Letting the draft as it is go out at a time of one's own choosing. */
import { setTimeApi, type SetTime } from '@fastigium/contracts/api/setTime';
import { computed, ref } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import { count } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';
import { useCauses } from './causes.ts';
import { localFields, setTimeWords } from '../../logic/setTimeWords.ts';

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
const fields = localFields(new Date(world.nowMs + 86_400_000));
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
    if (!instant.value || !site.changes) throw new Error('Choose a day and a time.');
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
      >Goes out by itself <b>{{ setTimeWords(props.set) }}</b>, set by {{ props.set.by.name
      }}<template v-if="props.set.since > 0"
        >; {{ count(props.set.since, 'decision') }} of the draft {{ props.set.since === 1 ? 'does' : 'do' }} not go with
        it</template
      >.</span
    >
    <button v-if="session.mayEdit" class="text-link" type="button" @click="leave">Leave it</button>
  </p>
  <template v-else-if="session.mayEdit && isReady">
    <button v-if="!isOpen" class="text-link begin" type="button" @click="isOpen = true">At a set time …</button>
    <form v-else @submit.prevent="set" @keydown.esc.stop="isOpen = false">
      <LabelledField v-model="date" label="Day" type="date" />
      <LabelledField v-model="time" label="Time" type="time" />
      <v-btn type="submit" height="36" :disabled="instant === undefined">Set</v-btn>
      <p class="quiet">
        By the clock of {{ zone }}. The draft goes out as it is now{{
          causes.leftOut.size > 0 ? ', but for what is left out' : ''
        }}; what is decided later waits.
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
