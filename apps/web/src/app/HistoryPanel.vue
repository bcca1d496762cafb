<script setup lang="ts">
/** Every decision about the draft, newest first, with who made it; each can be taken back alone. */
import { draftApi, type HistoryRow } from '@fastigium/contracts/api/draft';
import { ref, watch } from 'vue';
import { call } from '../api/client.ts';
import { formatWhen } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import { useSite } from '../stores/site.ts';
import { speak } from '../words/index.ts';
import { say } from './words.ts';

defineEmits<{ close: [] }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const rows = ref<readonly HistoryRow[]>();
const more = ref(false);

/** @param before after those that are shown; the newest otherwise */
async function read(before?: number): Promise<void> {
  if (site.id === undefined) return;
  try {
    const found = await call(draftApi.history, {
      params: { site: site.id },
      query: before === undefined ? {} : { before },
    });
    rows.value = before === undefined ? found.rows : [...(rows.value ?? []), ...found.rows];
    more.value = found.more;
  } catch (error) {
    notices.problem(error);
  }
}
watch(
  () => site.versions.draft,
  () => read(),
  { immediate: true },
);
</script>

<template>
  <v-dialog
    model-value
    :aria-label="say('historyPanel.history')"
    max-width="720"
    scrollable
    @update:model-value="$emit('close')"
  >
    <v-sheet class="panel">
      <h2 class="title-face">{{ say('historyPanel.historyOfTheDraft') }}</h2>
      <p v-if="rows?.length === 0" class="quiet">{{ say('historyPanel.nothingHasBeenDecidedYet') }}</p>
      <ol v-else>
        <li v-for="row in rows" :key="row.seq" :class="{ undone: row.undone }">
          <span class="number figure">{{ row.seq }}</span>
          <span class="words">{{ speak(row.message) }}</span>
          <span class="quiet"
            >{{ row.by?.name ?? say('historyPanel.byTheTimeLimit') }}, {{ formatWhen(row.at, new Date()) }}</span
          >
          <span v-if="row.undone" class="quiet">{{ say('historyPanel.takenBack') }}</span>
          <button
            v-else-if="session.mayEdit && row.isStep"
            class="text-link"
            type="button"
            @click="site.decide({ kind: 'undo', of: row.seq })"
          >
            {{ say('common.takeBack') }}
          </button>
        </li>
        <li v-if="more" class="older">
          <button class="text-link" type="button" @click="read(rows?.at(-1)?.seq)">
            {{ say('historyPanel.showOlderOnes') }}
          </button>
        </li>
      </ol>
      <v-btn class="close" @click="$emit('close')">{{ say('common.close') }}</v-btn>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: 16px 20px;
  border: 1px solid var(--stone-3);
  border-radius: 3px;
}
ol {
  list-style: none;
  margin: 12px 0 16px;
  padding: 0;
  overflow: auto;
  min-height: 0;
}
li.older {
  display: block;
}
li {
  display: grid;
  grid-template-columns: 28px 1fr auto 72px;
  gap: 12px;
  align-items: baseline;
  padding: 7px 0;
  border-bottom: var(--line);
}
.words {
  overflow-wrap: anywhere;
}
.undone .words {
  text-decoration: line-through;
  color: var(--ink-5);
}
.number {
  color: var(--ink-5);
  font-size: 12px;
}
.close {
  align-self: start;
  flex: none;
}
</style>
