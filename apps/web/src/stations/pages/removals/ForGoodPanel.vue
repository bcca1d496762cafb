<script setup lang="ts">
/** Removing for good: what goes, whose it was, and a confirmation that has to be typed. */
import { removalsApi, type RemovalRow } from '@fastigium/contracts/api/removals';
import { computed, ref } from 'vue';
import { call } from '../../../api/client.ts';
import LabelledField from '../../../components/LabelledField.vue';
import { count } from '../../../logic/format.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import { explain, speak } from '../../../words.ts';

const props = defineProps<{ rows: readonly RemovalRow[] }>();
const emit = defineEmits<{ leave: []; done: [] }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const typed = ref('');
const working = ref(false);
const problem = ref('');
const MOST = 6;

const wanted = computed(() => (props.rows.length === 1 ? (props.rows[0]?.label ?? '') : String(props.rows.length)));
const others = computed(() => [
  ...new Set(props.rows.filter(({ by }) => by.id !== session.person?.id).map(({ by }) => by.name)),
]);
const held = computed(() => props.rows.filter((row) => row.held !== null));

async function remove(): Promise<void> {
  const { overview } = site;
  if (!overview) return;
  working.value = true;
  problem.value = '';
  try {
    const { message } = await call(removalsApi.forGood, {
      params: { site: overview.id },
      body: { version: overview.version, of: props.rows.map(({ of }) => of), confirmed: typed.value.trim() },
    });
    notices.done(speak(message));
    await site.refresh();
    emit('done');
  } catch (error) {
    problem.value = explain(error);
    await site.refresh();
  } finally {
    working.value = false;
  }
}
</script>

<template>
  <form class="panel" @submit.prevent="remove" @keydown.esc.stop="emit('leave')">
    <h2>For good</h2>
    <p>
      {{ rows.length === 1 ? 'This' : `These ${rows.length}` }} cannot be put back afterwards, and no step takes it
      back:
      <b
        >{{
          rows
            .slice(0, MOST)
            .map(({ label, size }) => (size > 1 ? `${label} (${size})` : label))
            .join(', ')
        }}{{ rows.length > MOST ? ` and ${rows.length - MOST} more` : '' }}</b
      >. Releases that have it keep it; its addresses go on leading where they lead.
    </p>
    <p v-if="others.length > 0">
      {{ count(rows.filter(({ by }) => by.id !== session.person?.id).length, 'of them was', 'of them were') }} removed
      by {{ others.join(' and ') }}, who will be told.
    </p>
    <p v-if="held.length > 0" class="wrong">
      {{ held[0]?.held?.by.name }} holds “{{ held[0]?.label }}”: {{ held[0]?.held?.reason }}. Let it go first, or leave
      it out.
    </p>
    <template v-else>
      <LabelledField
        v-model="typed"
        :label="rows.length === 1 ? `Type its name: ${wanted}` : `Type how many: ${wanted}`"
        autocomplete="off"
      />
      <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    </template>
    <div class="acts">
      <v-btn
        v-if="held.length === 0"
        type="submit"
        variant="flat"
        color="error"
        :disabled="typed.trim() !== wanted"
        :loading="working"
        >Remove for good</v-btn
      >
      <v-btn @click="emit('leave')">Leave it</v-btn>
    </div>
  </form>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
  margin-top: 12px;
  padding: 10px 12px;
  background: var(--madder-tint);
  border-radius: 3px;
}
h2 {
  font-size: 14px;
  font-weight: 600;
  margin: 0;
}
p {
  margin: 0;
}
.acts {
  display: flex;
  gap: 8px;
}
</style>
