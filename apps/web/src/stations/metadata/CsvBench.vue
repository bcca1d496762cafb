<script setup lang="ts">
/** The table out to a writer and back: what would change is shown before any of it does. */
import { metadataApi, type Metadata, type TableReading } from '@fastigium/contracts/api/metadata';
import { TABLE_COLUMNS, type TableColumn } from '@fastigium/core/head';
import { computed, ref, shallowRef } from 'vue';
import { sendFile } from '../../api/asset.ts';
import { count } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { explain, speak } from '../../words.ts';
import { inBackground } from '../../stores/background.ts';

defineProps<{ metadata: Metadata; csvAddress: string }>();
const emit = defineEmits<{ leave: [] }>();
const site = useSite();
const notices = useNotices();
const file = shallowRef<File>();
const reading = shallowRef<TableReading>();
const problem = ref('');
const busy = ref(false);
const MOST_SHOWN = 100;
const pages = computed(() => new Set(reading.value?.changes.map(({ page }) => page)).size);
const columnName = (name: string) => TABLE_COLUMNS[name as TableColumn];

async function choose(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement;
  const chosen = input.files?.[0];
  input.value = '';
  if (!chosen || site.id === undefined) return;
  [file.value, reading.value, problem.value] = [chosen, undefined, ''];
  await read();
}

async function read(): Promise<void> {
  if (!file.value || site.id === undefined) return;
  busy.value = true;
  try {
    reading.value = await sendFile(metadataApi.readCsv, { site: site.id }, undefined, file.value);
  } catch (error) {
    problem.value = explain(error);
  }
  busy.value = false;
}

async function take(): Promise<void> {
  if (!file.value || !reading.value || site.id === undefined) return;
  busy.value = true;
  try {
    const { message } = await sendFile(
      metadataApi.takeCsv,
      { site: site.id },
      { version: String(reading.value.version) },
      file.value,
    );
    await site.refresh();
    notices.done(speak(message), {
      label: 'Undo',
      run: () => inBackground(site.decide({ kind: 'step', direction: 'back' })),
    });
    emit('leave');
  } catch (error) {
    problem.value = explain(error);
    await site.refresh();
    await read();
  }
  busy.value = false;
}
</script>

<template>
  <h1 class="title-face">As a table</h1>
  <p class="quiet">
    For a writer: a row for each page, with its title, description, language, share title and picture, robots and
    canonical address. Formulas stay text.
  </p>
  <div class="acts">
    <v-btn :href="csvAddress" download height="36">Download CSV</v-btn>
    <label class="choose"
      ><input class="visually-hidden" type="file" accept=".csv,.tsv,.txt,text/csv" @change="choose" /><span
        >Bring one back …</span
      ></label
    >
  </div>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <template v-if="reading && file">
    <hr class="rule" />
    <h2 class="heading">
      {{ file.name }}<span class="quiet">{{ count(reading.rows, 'row') }}, {{ reading.encoding }}</span>
    </h2>
    <p v-if="reading.changes.length > 0">
      <b>{{ count(reading.changes.length, 'cell') }} on {{ count(pages, 'page') }} would change.</b> Empty cells change
      nothing.
    </p>
    <p v-else>It says what is there already: nothing would change.</p>
    <p v-if="reading.unknown.length > 0" class="look">
      {{ count(reading.unknown.length, 'row') }} {{ reading.unknown.length === 1 ? 'is' : 'are' }} about no page of this
      site and would be left out:
      <span class="address"
        >{{ reading.unknown.slice(0, 10).join(', ') }}{{ reading.unknown.length > 10 ? ' …' : '' }}</span
      >
    </p>
    <p v-if="reading.doubled.length > 0" class="look">
      {{ count(reading.doubled.length, 'page') }} stand in it twice; the first row counts:
      <span class="address">{{ reading.doubled.slice(0, 10).join(', ') }}</span>
    </p>
    <p v-if="reading.ignored.length > 0" class="quiet">
      Columns that mean nothing here: {{ reading.ignored.join(', ') }}.
    </p>
    <div class="acts">
      <v-btn
        variant="flat"
        color="primary"
        height="36"
        :disabled="reading.changes.length === 0"
        :loading="busy"
        @click="take"
        >Take all of it</v-btn
      >
      <v-btn height="36" @click="emit('leave')">Leave</v-btn>
    </div>
    <ul class="changes">
      <li v-for="each in reading.changes.slice(0, MOST_SHOWN)" :key="`${each.page} ${each.name}`">
        <span class="quiet"
          >{{ columnName(each.name) }} of <span class="address">{{ each.address }}</span></span
        ><del v-if="each.before">{{ each.before }}</del
        ><ins>{{ each.after }}</ins>
      </li>
      <li v-if="reading.changes.length > MOST_SHOWN" class="quiet">
        and {{ count(reading.changes.length - MOST_SHOWN, 'cell') }} more
      </li>
    </ul>
  </template>
  <p v-else class="back"><button class="text-link" type="button" @click="emit('leave')">Back to the page</button></p>
</template>

<style scoped>
p {
  margin: 6px 0 10px;
}
.acts {
  display: flex;
  gap: 8px;
  margin: 12px 0;
}
.choose span {
  display: inline-flex;
  align-items: center;
  height: 36px;
  box-sizing: border-box;
  padding-inline: 12px;
  border: 1px solid var(--ink-7);
  border-radius: 4px;
  font-weight: 600;
  cursor: pointer;
}
.choose:focus-within span {
  outline: 2px solid var(--lapis);
  outline-offset: 1px;
}
.look {
  color: var(--ochre-dark);
}
.changes {
  list-style: none;
  margin: 0;
  padding: 0;
}
.changes li {
  display: grid;
  padding: 6px 0;
  border-bottom: var(--line);
  overflow-wrap: anywhere;
}
del {
  color: var(--madder);
}
ins {
  color: var(--verdigris-dark);
  text-decoration: none;
}
</style>
