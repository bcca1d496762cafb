<script setup lang="ts">
/** What is inside a page: its sections in order, the parts around them, its own style rules, a document to embed. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { pagesApi, type PageInside } from '@fastigium/contracts/api/pages';
import { DomainError } from '@fastigium/contracts/errors';
import { ref, watch } from 'vue';
import { call } from '../../api/client.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { formatWhen } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';
import RemovedSwitch from './removals/RemovedSwitch.vue';
import { useShowsRemoved } from './removals/showsRemoved.ts';
import RemovePanel from '../shared/RemovePanel.vue';
import EmbedDocument from './EmbedDocument.vue';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const props = defineProps<{ page: PageRow; version: number }>();
const world = useWorld();
const site = useSite();
const session = useSession();
const notices = useNotices();
const inside = ref<PageInside>();
const css = ref('');
const showsRemoved = useShowsRemoved();
const open = ref<'css' | 'embed'>();
const PART_WORDS = {
  header: say('pageInside.header'),
  menu: say('pageInside.menu'),
  side: say('pageInside.sideColumn'),
  foot: say('pageInside.foot'),
  comments: say('pageInside.commentsForm'),
} as const;

// Read again when the draft changes; rules that are being typed are not thrown away for it.
watch(
  () => props.version,
  async () => {
    if (site.id === undefined) return;
    try {
      const next = await call(pagesApi.inside, { params: { site: site.id, page: props.page.id } });
      if (css.value === (inside.value?.css ?? '')) css.value = next.css;
      inside.value = next;
    } catch (error) {
      // Removed a moment ago: the tree, which is being read again, says so.
      if (!(error instanceof DomainError && error.code === 'not-found')) notices.problem(error);
    }
  },
  { immediate: true },
);

const readScope = () => ({ kind: 'page' as const, page: props.page.id });
type Section = PageInside['sections'][number];

function arrange(sections: readonly Section[]): void {
  runInBackground(
    site.decide({
      kind: 'touch',
      touch: {
        kind: 'sections',
        scope: readScope(),
        order: sections.map(({ name, nth, out, removal }) =>
          out && removal === null ? { name, nth, out: true as const } : { name, nth },
        ),
      },
    }),
  );
}

function move(index: number, by: -1 | 1): void {
  const list = [...(inside.value?.sections ?? [])];
  const [moved] = list.splice(index, 1);
  if (!moved) return;
  list.splice(index + by, 0, moved);
  arrange(list);
}

/** One left out before removals were kept, or by an order of sections. */
const show = (index: number) =>
  arrange((inside.value?.sections ?? []).map((section, at) => (at === index ? { ...section, out: false } : section)));
const removing = ref<Section>();
const putBack = (of: number) =>
  runInBackground(site.decide({ kind: 'put-back', things: [{ of }], where: 'in-place', taken: 'stop' }));

function setPart(part: PageInside['parts'][number]): void {
  const parts = (inside.value?.parts ?? [])
    .filter((each) => (each.part === part.part ? !part.out : each.out))
    .map((each) => each.part);
  runInBackground(site.decide({ kind: 'touch', touch: { kind: 'parts-out', scope: readScope(), parts } }));
}

const setCss = () =>
  runInBackground(site.decide({ kind: 'touch', touch: { kind: 'css', scope: readScope(), css: css.value } }));
</script>

<template>
  <RemovePanel
    v-if="removing"
    :thing="{ kind: 'section', page: page.id, section: { name: removing.name, nth: removing.nth } }"
    :pages="[]"
    @leave="removing = undefined"
    @removed="removing = undefined"
  />
  <template v-else-if="inside">
    <h2 class="heading">
      {{ say('pageInside.sectionsOfThisPage') }}
      <RemovedSwitch :removed="inside.sections.filter(({ removal }) => removal !== null).length" />
    </h2>
    <ul class="sections">
      <li
        v-for="(section, index) in inside.sections"
        v-show="showsRemoved || section.removal === null"
        :key="`${section.name} ${section.nth}`"
        :class="{ out: section.out }"
      >
        <KeystoneMark :mark="section.out ? 'dashed' : 'verdigris'" />
        <span class="one-line" :title="section.label">{{ section.label }}</span>
        <span v-if="section.removal" class="moves"
          ><span class="quiet" :title="section.removal.by.name">{{
            say('pageInside.removedBy', {
              at: formatWhen(section.removal.at, world.now),
              initials: section.removal.by.initials,
            })
          }}</span
          ><button v-if="session.mayEdit" type="button" class="text-link" @click="putBack(section.removal.of)">
            {{ say('common.putBack') }}
          </button></span
        >
        <span v-else-if="session.mayEdit" class="moves">
          <button
            type="button"
            class="text-link"
            :disabled="index === 0 || section.out"
            :aria-label="say('pageInside.moveUp', { label: section.label })"
            @click="move(index, -1)"
          >
            {{ say('pageInside.up') }}
          </button>
          <button
            type="button"
            class="text-link"
            :disabled="index === inside.sections.length - 1 || section.out"
            :aria-label="say('pageInside.moveDown', { label: section.label })"
            @click="move(index, 1)"
          >
            {{ say('pageInside.down') }}
          </button>
          <button v-if="section.out" type="button" class="text-link" @click="show(index)">
            {{ say('pageInside.show') }}
          </button>
          <button
            v-else
            type="button"
            class="text-link"
            :aria-label="say('pageInside.remove', { label: section.label })"
            @click="removing = section"
          >
            {{ say('pageInside.remove2') }}
          </button>
        </span>
      </li>
      <li v-for="part in inside.parts" :key="part.part" :class="{ out: part.out }">
        <KeystoneMark :mark="part.out ? 'dashed' : 'verdigris'" />
        <span>{{ PART_WORDS[part.part] }}</span>
        <span class="moves"
          ><span class="quiet">{{ say('pageInside.aroundThePage') }}</span
          ><button v-if="session.mayEdit" type="button" class="text-link" @click="setPart(part)">
            {{ part.out ? say('pageInside.showHere') : say('pageInside.leaveOutHere') }}
          </button></span
        >
      </li>
    </ul>
    <template v-if="session.mayEdit">
      <div class="more">
        <button
          class="text-link"
          type="button"
          :aria-expanded="open === 'embed'"
          @click="open = open === 'embed' ? undefined : 'embed'"
        >
          {{ say('pageInside.embedADocument') }}
        </button>
        <button
          class="text-link"
          type="button"
          :aria-expanded="open === 'css'"
          @click="open = open === 'css' ? undefined : 'css'"
        >
          {{ say('pageInside.styleRulesForThisPage', { hasCss: Boolean(inside.css) }) }}
        </button>
      </div>
      <EmbedDocument v-if="open === 'embed'" :page="page" :sections="inside.sections" @done="open = undefined" />
      <form v-if="open === 'css'" class="css" @submit.prevent="setCss">
        <v-textarea
          v-model="css"
          class="address"
          rows="4"
          maxlength="20000"
          hide-details
          :aria-label="say('pageInside.styleRulesCssForThis')"
          :placeholder="say('pageInside.mainMaxWidth60rem')"
        />
        <v-btn type="submit" :disabled="css === inside.css">{{ say('common.set') }}</v-btn>
      </form>
    </template>
  </template>
</template>

<style scoped>
.sections {
  list-style: none;
  margin: 0 0 10px;
  padding: 0;
}
li {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 34px;
  border-bottom: var(--line);
}
li > .one-line {
  flex: 1;
}
.out {
  background: repeating-linear-gradient(135deg, transparent 0 10px, var(--stone-1) 10px 20px);
  color: var(--ink-5);
}
.moves {
  display: flex;
  gap: 10px;
  align-items: baseline;
  margin-inline-start: auto;
  font-size: 13px;
}
.more {
  display: flex;
  gap: 18px;
  flex-wrap: wrap;
  margin-bottom: 10px;
}
.css {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.css > :first-child {
  width: 100%;
}
</style>
