<script setup lang="ts">
/** The table out to a writer and back: what would change is shown before any of it does. */
import { metadataApi, type Metadata, type TableReading } from '@fastigium/contracts/api/metadata';
import { TABLE_COLUMNS, type TableColumn } from '@fastigium/core/head';
import { computed, ref, shallowRef } from 'vue';
import { sendFile } from '../../api/asset.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { explain, speak } from '../../words/index.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

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
const sayColumn = (name: string) => TABLE_COLUMNS[name as TableColumn];

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
      label: say('common.undo'),
      run: () => runInBackground(site.decide({ kind: 'step', direction: 'back' })),
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
  <h1 class="title-face">{{ say('csvBench.asATable') }}</h1>
  <p class="quiet">
    {{ say('csvBench.forAWriterARow') }}
  </p>
  <div class="acts">
    <v-btn :href="csvAddress" download height="36">{{ say('csvBench.downloadCsv') }}</v-btn>
    <label class="choose"
      ><input class="visually-hidden" type="file" accept=".csv,.tsv,.txt,text/csv" @change="choose" /><span>{{
        say('csvBench.bringOneBack')
      }}</span></label
    >
  </div>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <template v-if="reading && file">
    <hr class="rule" />
    <h2 class="heading">
      {{ file.name
      }}<span class="quiet">{{ say('csvBench.rows', { rows: reading.rows, encoding: reading.encoding }) }}</span>
    </h2>
    <p v-if="reading.changes.length > 0">
      <b>{{ say('csvBench.cellsOnPagesWouldChange', { changes: reading.changes.length, pages }) }}</b>
      {{ say('csvBench.emptyCellsChangeNothing') }}
    </p>
    <p v-else>{{ say('csvBench.itSaysWhatIsThere') }}</p>
    <p v-if="reading.unknown.length > 0" class="caution">
      {{ say('csvBench.rowsAreAboutNoPage', { unknown: reading.unknown.length }) }}
      <span class="address"
        >{{ reading.unknown.slice(0, 10).join(', ') }}{{ reading.unknown.length > 10 ? ' …' : '' }}</span
      >
    </p>
    <p v-if="reading.doubled.length > 0" class="caution">
      {{ say('csvBench.pagesStandInItTwice', { doubled: reading.doubled.length }) }}
      <span class="address">{{ reading.doubled.slice(0, 10).join(', ') }}</span>
    </p>
    <p v-if="reading.ignored.length > 0" class="quiet">
      {{ say('csvBench.columnsThatMeanNothingHere', { ignored: reading.ignored.join(', ') }) }}
    </p>
    <div class="acts">
      <v-btn
        variant="flat"
        color="primary"
        height="36"
        :disabled="reading.changes.length === 0"
        :loading="busy"
        @click="take"
        >{{ say('csvBench.takeAllOfIt') }}</v-btn
      >
      <v-btn height="36" @click="emit('leave')">{{ say('common.leave') }}</v-btn>
    </div>
    <ul class="changes">
      <li v-for="each in reading.changes.slice(0, MOST_SHOWN)" :key="`${each.page} ${each.name}`">
        <span class="quiet"
          ><RichWords :words="say.parts('csvBench.of', { name: sayColumn(each.name), at: each.address })"
            ><template #address="{ words }"
              ><span class="address">{{ words }}</span></template
            ></RichWords
          ></span
        ><del v-if="each.before">{{ each.before }}</del
        ><ins>{{ each.after }}</ins>
      </li>
      <li v-if="reading.changes.length > MOST_SHOWN" class="quiet">
        {{ say('csvBench.andCellsMore', { changes: reading.changes.length - MOST_SHOWN }) }}
      </li>
    </ul>
  </template>
  <p v-else class="back">
    <button class="text-link" type="button" @click="emit('leave')">{{ say('csvBench.backToThePage') }}</button>
  </p>
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
.caution {
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
