<script setup lang="ts">
/** Redirects out, in the form a server or a table wants, and in, with what each line would change. */
import {
  ruleFilesApi,
  type ExportedRules,
  type ExportForm,
  type RulesRead,
  type RuleToTake,
} from '@fastigium/contracts/api/ruleFiles';
import { redirectsApi } from '@fastigium/contracts/api/redirects';
import type { DecisionRequest } from '@fastigium/contracts/decisions/request';
import { computed, ref, shallowRef, watch } from 'vue';
import { sendFile } from '../../api/asset.ts';
import { call } from '../../api/client.ts';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { formatSize } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { saveFiles } from './saveFiles.ts';
import { readTypedTarget } from '../shared/pickedTarget.ts';
import { explain } from '../../words/index.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';
import { speak } from '../../words/index.ts';
import RichWords from '../../words/RichWords.ts';

const props = defineProps<{ /** Grows when rules changed. */ tick: number }>();
const emit = defineEmits<{ leave: [] }>();
const site = useSite();
const session = useSession();
const FORMS: readonly { value: ExportForm; label: string; hint: string }[] = [
  {
    value: 'nginx',
    label: 'nginx',
    hint: say('filesBench.twoFilesWithMapsWhich'),
  },
  {
    value: 'apache-map',
    label: say('filesBench.apacheMap'),
    hint: say('filesBench.forWhoeverCanReachThe'),
  },
  {
    value: 'apache-lines',
    label: say('filesBench.apacheLines'),
    hint: say('filesBench.forTheSettingsFileOf'),
  },
  { value: 'csv', label: 'CSV', hint: say('filesBench.aTableForAWriter') },
  { value: 'json', label: 'JSON', hint: say('filesBench.forProgramsOneObjectA') },
  {
    value: 'pages',
    label: say('common.pages'),
    hint: say('filesBench.aSmallPageAtEach'),
  },
];
const form = ref<ExportForm>('nginx');
const domains = ref<string[]>([]);
/** Whose rules; empty for the site itself. */
const whose = ref('');
const written = shallowRef<ExportedRules>();
const read = shallowRef<RulesRead & { name: string }>();
const left = ref(new Set<string>());
const problem = ref('');
const busy = ref(false);
const isOver = ref(false);
const MOST_SHOWN = 300;

watch(
  [form, whose, () => site.id, () => props.tick],
  async () => {
    if (site.id === undefined) return;
    try {
      domains.value = await call(redirectsApi.oldDomains, { params: { site: site.id } });
      written.value = await call(ruleFilesApi.write, {
        params: { site: site.id },
        query: { form: form.value, ...(whose.value === '' ? {} : { domain: whose.value }) },
      });
    } catch (error) {
      problem.value = explain(error);
    }
  },
  { immediate: true },
);
const bytes = computed(() => (written.value?.files ?? []).reduce((sum, { text }) => sum + new Blob([text]).size, 0));

const STATE_WORDS: Readonly<Record<RuleToTake['state'], string>> = {
  new: say('filesBench.isNew'),
  same: say('filesBench.isThereAlready'),
  differs: say('filesBench.insteadOf'),
  page: say('filesBench.aLivePageAnswersThere'),
  dead: say('filesBench.nothingIsWhereItLeads'),
};
const takable = computed(() =>
  (read.value?.rules ?? []).filter(({ state }) => state === 'new' || state === 'differs' || state === 'dead'),
);
const deriveKey = ({ from, isPattern }: RuleToTake) => `${isPattern ? '*' : ''}${from}`;
const taken = computed(() => takable.value.filter((rule) => !left.value.has(deriveKey(rule))));

async function open(files: FileList | null | undefined): Promise<void> {
  const [file] = [...(files ?? [])];
  if (!file || site.id === undefined) return;
  [busy.value, problem.value] = [true, ''];
  try {
    const reading = await sendFile(ruleFilesApi.read, { site: site.id }, { fileName: file.name }, file);
    read.value = { ...reading, name: file.name };
    // What leads to nothing is left out until somebody wants it all the same.
    left.value = new Set(reading.rules.filter(({ state }) => state === 'dead').map(deriveKey));
  } catch (error) {
    problem.value = explain(error);
  }
  busy.value = false;
}

function onChoose(event: Event): void {
  const input = event.target as HTMLInputElement;
  runInBackground(open(input.files));
  input.value = '';
}

function toggle(rule: RuleToTake): void {
  const next = new Set(left.value);
  if (!next.delete(deriveKey(rule))) next.add(deriveKey(rule));
  left.value = next;
}

async function take(): Promise<void> {
  busy.value = true;
  type Bulk = Extract<DecisionRequest, { kind: 'redirects' }>;
  const settle = taken.value
    .filter(({ isPattern }) => !isPattern)
    .map(({ from, status, to, ignoreCase, dropsQuery }): Bulk['settle'][number] => ({
      from,
      to:
        status === 410
          ? { status }
          : { status, target: readTypedTarget(to ?? '') ?? { kind: 'address', address: to ?? '/' } },
      ignoreCase,
      dropsQuery,
    }));
  const patterns = taken.value
    .filter(({ isPattern }) => isPattern)
    .map(({ from, status, to, ignoreCase, dropsQuery }) => ({
      text: from,
      status,
      target: to,
      ignoreCase,
      dropsQuery,
    }));
  if (await site.decide({ kind: 'redirects', settle, remove: [], patterns })) read.value = undefined;
  busy.value = false;
}
</script>

<template>
  <h1 class="title-face">{{ say('common.files') }}</h1>
  <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
  <template v-if="read">
    <h2 class="heading">
      {{ read.name }} <span class="quiet">{{ say('filesBench.redirectsRead', { rules: read.rules.length }) }}</span>
    </h2>
    <div class="acts">
      <v-btn variant="flat" color="primary" height="32" :disabled="taken.length === 0" :loading="busy" @click="take">{{
        say('filesBench.takeRedirects', { taken: taken.length })
      }}</v-btn>
      <v-btn height="32" @click="read = undefined">{{ say('common.leaveIt') }}</v-btn>
    </div>
    <details v-if="read.notReadCount > 0" open>
      <summary class="caution">
        {{ say('filesBench.linesCouldNotBeRead', { notReadCount: read.notReadCount }) }}
      </summary>
      <p v-for="line in read.notRead" :key="line.line" class="small">
        {{ say('filesBench.line', { line: line.line }) }} <span class="address">{{ line.text }}</span>,
        {{ speak(line.why) }}.
      </p>
    </details>
    <ul :aria-label="say('filesBench.whatTheFileHolds')">
      <li v-for="rule in read.rules.slice(0, MOST_SHOWN)" :key="deriveKey(rule)">
        <label
          ><input
            type="checkbox"
            :disabled="!takable.includes(rule)"
            :checked="takable.includes(rule) && !left.has(deriveKey(rule))"
            :aria-label="rule.from"
            @change="toggle(rule)"
          />
          <span class="words"
            ><span class="address one-line" :title="rule.from">{{ rule.from }}</span>
            <span class="one-line quiet"
              >→ <span class="address">{{ rule.to ?? say('filesBench.gone') }}</span> {{ rule.status
              }}<template v-if="rule.isPattern">{{ say('filesBench.aPattern') }}</template></span
            >
            <span
              class="one-line small"
              :class="
                rule.state === 'page' || rule.state === 'dead'
                  ? 'wrong'
                  : rule.state === 'differs'
                    ? 'caution'
                    : 'quiet'
              "
              >{{ STATE_WORDS[rule.state]
              }}<template v-if="rule.state === 'differs'"> {{ rule.now ?? say('filesBench.nothing') }}</template></span
            ></span
          ></label
        >
      </li>
    </ul>
    <p v-if="read.rules.length > MOST_SHOWN" class="quiet">
      {{ say('filesBench.andMoreThoseThatCan', { rules: read.rules.length - MOST_SHOWN }) }}
    </p>
  </template>
  <template v-else>
    <h2 class="heading next">
      {{ say('filesBench.out') }} <span class="quiet">{{ say('filesBench.allRedirectsAndPatternsOf') }}</span>
    </h2>
    <label v-if="domains.length > 0" class="whose"
      >{{ say('filesBench.forTheServerOf') }}
      <select v-model="whose">
        <option value="">{{ say('filesBench.thisSite') }}</option>
        <option v-for="each in domains" :key="each" :value="each">
          {{ say('filesBench.whichSendsItsVisitorsHere', { each }) }}
        </option>
      </select></label
    >
    <SegmentedChoice v-model="form" :label="say('filesBench.forWhom')" :options="FORMS" />
    <p class="quiet">{{ FORMS.find(({ value }) => value === form)?.hint }}</p>
    <template v-if="written">
      <div class="acts">
        <v-btn
          variant="flat"
          color="primary"
          height="32"
          :disabled="written.files.length === 0"
          @click="saveFiles(`redirects-${whose === '' ? '' : `${whose}-`}${form}`, written.files)"
          >{{
            say('filesBench.save', {
              files:
                written.files.length === 1
                  ? written.files[0]?.name
                  : say('filesBench.files', { files: written.files.length }),
            })
          }}</v-btn><span class="quiet">{{
          say('filesBench.redirects', { rules: written.rules, bytes: formatSize(bytes) })
        }}</span>
      </div>
      <details v-if="written.leftOut.length > 0">
        <summary class="caution">
          {{ say('filesBench.redirectsCannotBeSaidIn', { leftOut: written.leftOut.length }) }}
        </summary>
        <p v-for="each in written.leftOut.slice(0, MOST_SHOWN)" :key="`${each.from} ${each.why.code}`" class="small">
          <span class="address">{{ each.from }}</span>: {{ speak(each.why) }}.
        </p>
      </details>
      <pre v-if="form !== 'pages' && written.files[0]" class="address" tabindex="0"
        >{{ written.files[0].text.slice(0, 1600) }}{{ written.files[0].text.length > 1600 ? '\n…' : '' }}</pre>
    </template>
    <template v-if="session.mayEdit">
      <h2 class="heading next">
        {{ say('filesBench.in') }} <span class="quiet">{{ say('filesBench.aTableOrLinesOf') }}</span>
      </h2>
      <label
        class="drop"
        :class="{ over: isOver }"
        @dragover.prevent="isOver = true"
        @dragleave="isOver = false"
        @drop.prevent="((isOver = false), open($event.dataTransfer?.files))"
      >
        <input class="visually-hidden" type="file" data-testid="rule-file" @change="onChoose" />
        <span v-if="busy">{{ say('filesBench.reading') }}</span><span v-else
          ><RichWords :words="say.parts('filesBench.dropAFileHereOr')"
        /></span>
      </label>
    </template>
  </template>
  <div class="acts">
    <v-btn height="32" @click="emit('leave')">{{ say('common.backToTheList') }}</v-btn>
  </div>
</template>

<style scoped>
p {
  margin: 4px 0;
}
.whose {
  display: flex;
  gap: 8px;
  align-items: center;
  font-size: 13px;
  margin-block: 4px 8px;
}
select {
  font: inherit;
  font-size: 13px;
  color: var(--ink-9);
  background: var(--bench);
  border: 1px solid var(--stone-3);
  border-radius: 2px;
  padding: 3px 6px;
}
.next {
  margin-top: 14px;
}
.acts {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  margin-block: 10px;
}
.caution {
  color: var(--ochre-dark);
}
summary {
  cursor: pointer;
  font-size: 13px;
}
.small {
  font-size: 12px;
}
pre {
  margin: 10px 0;
  padding: 8px 10px;
  max-height: 220px;
  overflow: auto;
  background: var(--stone-1);
  font-size: 11px;
  line-height: 16px;
  white-space: pre;
}
.drop {
  display: block;
  border: 1px dashed var(--stone-5);
  border-radius: 3px;
  padding: 18px 12px;
  text-align: center;
  cursor: pointer;
  color: var(--ink-7);
}
.drop:hover,
.drop.over {
  border-color: var(--lapis);
  background: var(--lapis-tint);
}
.drop:focus-within {
  outline: 2px solid var(--lapis);
  outline-offset: 1px;
}
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  border-top: var(--line);
}
li {
  border-bottom: var(--line);
}
li label {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 10px;
  align-items: center;
  padding: 5px 0;
}
.words {
  display: block;
  min-width: 0;
  line-height: 18px;
}
.words > * {
  display: block;
}
</style>
