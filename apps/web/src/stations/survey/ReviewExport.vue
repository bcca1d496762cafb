<script setup lang="ts">
/** A newer export before it is applied: what it adds, changes, drops and moves, and each place where it meets what was decided here. */
import { importsApi, type ImportReview } from '@fastigium/contracts/api/imports';
import { DomainError } from '@fastigium/contracts/errors';
import { computed, onMounted, ref, shallowRef } from 'vue';
import { call } from '../../api/client.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { formatFigure, reckonPercent } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const site = useSite();
const session = useSession();
const notices = useNotices();
const review = shallowRef<ImportReview>();
const choices = ref<Record<string, 'ours' | 'theirs'>>({});
const working = ref(false);
const MOST = 12;

async function load(): Promise<void> {
  if (site.id === undefined) return;
  try {
    review.value = await call(importsApi.review, { params: { site: site.id } });
  } catch (error) {
    notices.problem(error);
  }
}
onMounted(load);

const open = computed(
  () => (review.value?.conflicts ?? []).filter(({ key }) => choices.value[key] === undefined).length,
);
const groups = computed(() => {
  const it = review.value;
  if (!it) return [];
  return [
    {
      title: say('reviewExport.new'),
      mark: 'ochre' as const,
      rows: it.added.map(({ path, title }) => ({ key: path, title, more: `/${path}`, warn: '' })),
    },
    {
      title: say('reviewExport.changed'),
      mark: 'ochre' as const,
      rows: it.changed.map(({ path, title }) => ({ key: path, title, more: `/${path}`, warn: '' })),
    },
    {
      title: say('reviewExport.knownAgainAtAnotherAddress'),
      mark: 'lapis' as const,
      rows: it.moved.map(({ from, to, title, alike }) => ({
        key: to,
        title,
        more: `/${from} → /${to}`,
        warn: alike < 1 ? say('reviewExport.alike', { alike: reckonPercent(alike, 1) }) : '',
      })),
    },
    {
      title: say('reviewExport.noLongerThere'),
      mark: 'madder' as const,
      rows: it.dropped.map(({ path, title, isHome, linksIn }) => ({
        key: path,
        title,
        more: `/${path}`,
        warn: isHome
          ? say('reviewExport.theHomePage')
          : linksIn > 0
            ? say('reviewExport.pagesLedHere', { linksIn })
            : '',
      })),
    },
  ].filter(({ rows }) => rows.length > 0);
});

async function runAct(what: (id: string, it: ImportReview) => Promise<unknown>): Promise<void> {
  if (site.id === undefined || !review.value) return;
  working.value = true;
  try {
    await what(site.id, review.value);
  } catch (error) {
    notices.problem(error);
    if (error instanceof DomainError && error.code === 'draft-stale') await load();
  } finally {
    working.value = false;
    await site.refresh();
  }
}
const apply = () =>
  runAct(async (id, it) => {
    await call(importsApi.apply, {
      params: { site: id },
      body: { import: it.import, version: it.version, choices: choices.value },
    });
    notices.done(say('reviewExport.isAppliedEverythingDecidedHere', { fileName: it.fileName }));
  });
const drop = () =>
  runAct(async (id, it) => {
    await call(importsApi.drop, { params: { site: id } });
    notices.done(say('reviewExport.isLeftTheSiteStands', { fileName: it.fileName }));
  });
</script>

<template>
  <div v-if="review" class="review">
    <header>
      <h1 class="title-face">{{ say('reviewExport.newerExport', { fileName: review.fileName }) }}</h1>
      <p>
        {{
          say('reviewExport.pagesAreByteForByte', {
            unchanged: review.unchanged,
            added: review.files.added,
            changed: review.files.changed,
            dropped: review.files.dropped,
          })
        }}
      </p>
      <div v-if="session.mayEdit" class="acts">
        <v-btn variant="flat" color="primary" :loading="working" @click="apply">{{
          say('reviewExport.applyIt')
        }}</v-btn>
        <v-btn :disabled="working" @click="drop">{{ say('common.leaveIt') }}</v-btn>
        <span v-if="open > 0" class="wait">{{ say('reviewExport.conflictsNotDecidedTheseTouches', { open }) }}</span>
      </div>
    </header>
    <section v-if="review.conflicts.length > 0">
      <h2 class="heading">{{ say('reviewExport.changedHereAndInThe') }}</h2>
      <article v-for="conflict in review.conflicts" :key="conflict.key">
        <p class="strong">
          <KeystoneMark class="mark" :mark="choices[conflict.key] ? 'verdigris' : 'ochre'" />{{
            say('reviewExport.andMore', {
              title: conflict.title,
              hasPages: conflict.pages > 1,
              pages: conflict.pages - 1,
            })
          }}
        </p>
        <dl>
          <dt>{{ say('reviewExport.before') }}</dt>
          <dd>{{ conflict.before }}</dd>
          <dt>{{ say('reviewExport.inTheExport') }}</dt>
          <dd>{{ conflict.theirs }}</dd>
          <dt>{{ say('reviewExport.here') }}</dt>
          <dd>{{ speak(conflict.ours) }}</dd>
        </dl>
        <SegmentedChoice
          v-if="session.mayEdit"
          :model-value="choices[conflict.key] ?? ''"
          :label="say('reviewExport.whichOfTheTwoFor', { title: conflict.title })"
          :options="[
            { value: 'ours', label: say('reviewExport.keepWhatWasSetHere') },
            { value: 'theirs', label: say('reviewExport.takeTheExports') },
          ]"
          @update:model-value="(value) => (choices[conflict.key] = value as 'ours' | 'theirs')"
        />
      </article>
    </section>
    <section v-if="review.waiting.length > 0">
      <h2 class="heading">{{ say('reviewExport.touchesWhosePlaceIsGone') }}</h2>
      <p v-for="touch in review.waiting" :key="touch.key" class="line words">
        <KeystoneMark class="mark" mark="dashed" />{{ speak(touch.message) }}
      </p>
    </section>
    <section v-for="group in groups" :key="group.title">
      <h2 class="heading">
        <span
          >{{ group.title }} <span class="quiet">{{ formatFigure(group.rows.length) }}</span></span
        >
      </h2>
      <p v-for="row in group.rows.slice(0, MOST)" :key="row.key" class="line">
        <KeystoneMark class="mark" :mark="group.mark" /><span class="one-line">{{
          row.title || say('common.noTitle')
        }}</span
        ><span class="address quiet one-line">{{ row.more }}</span
        ><span class="quiet wait">{{ row.warn }}</span>
      </p>
      <p v-if="group.rows.length > MOST" class="quiet">
        {{ say('reviewExport.andMore2', { rows: group.rows.length - MOST }) }}
      </p>
    </section>
  </div>
</template>

<style scoped>
.review {
  overflow: auto;
  flex: 1;
  padding: 16px 20px 28px;
  display: grid;
  gap: 22px;
  align-content: start;
}
header p {
  max-width: 640px;
  margin: 6px 0 12px;
}
.acts {
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
}
.wait {
  color: var(--ochre-dark);
}
article {
  border: var(--line);
  border-radius: 3px;
  padding: 10px 12px;
  margin-bottom: 10px;
  background: var(--bench);
  max-width: 720px;
}
article p {
  margin: 0 0 6px;
}
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 2px 12px;
  margin: 0 0 10px;
}
dt {
  color: var(--ink-5);
  font-size: 12px;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
.mark {
  margin-inline-end: 7px;
  vertical-align: -1px;
  flex: none;
}
.line {
  display: grid;
  grid-template-columns: auto minmax(0, 3fr) minmax(0, 4fr) minmax(0, 1.4fr);
  align-items: center;
  gap: 4px 10px;
  margin: 0;
  padding: 6px 0;
  border-bottom: var(--line);
}
.words {
  grid-template-columns: auto minmax(0, 1fr);
}
</style>
