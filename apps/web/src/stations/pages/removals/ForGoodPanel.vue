<script setup lang="ts">
/** Removing for good: what goes, whose it was, and a confirmation that has to be typed. */
import { removalsApi, type RemovalRow } from '@fastigium/contracts/api/removals';
import { computed, ref } from 'vue';
import { call } from '../../../api/client.ts';
import LabelledField from '../../../components/LabelledField.vue';
import { useNotices } from '../../../stores/notices.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import { formatList } from '../../../logic/format.ts';
import { explain, speak } from '../../../words/index.ts';
import { say } from '../words.ts';
import RichWords from '../../../words/RichWords.ts';

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
    <h2>{{ say('forGoodPanel.forGood') }}</h2>
    <p>
      <RichWords
        :words="
          say.parts('forGoodPanel.theseCannotBePutBack', {
            rows: rows.length,
            rows2: rows
              .slice(0, MOST)
              .map(({ label, size }) => (size > 1 ? `${label} (${size})` : label))
              .join(', '),
            hasRows: rows.length > MOST,
            rows3: rows.length - MOST,
          })
        "
      />
    </p>
    <p v-if="others.length > 0">
      {{
        say('forGoodPanel.ofThemWereRemovedBy', {
          rows: rows.filter(({ by }) => by.id !== session.person?.id).length,
          others: formatList(others),
        })
      }}
    </p>
    <p v-if="held.length > 0" class="wrong">
      {{
        say('forGoodPanel.holdsLetItGoFirst', {
          name: held[0]?.held?.by.name,
          label: held[0]?.label,
          reason: held[0]?.held?.reason,
        })
      }}
    </p>
    <template v-else>
      <LabelledField
        v-model="typed"
        :label="
          rows.length === 1 ? say('forGoodPanel.typeItsName', { wanted }) : say('forGoodPanel.typeHowMany', { wanted })
        "
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
        >{{ say('forGoodPanel.removeForGood') }}</v-btn
      >
      <v-btn @click="emit('leave')">{{ say('common.leaveIt') }}</v-btn>
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
