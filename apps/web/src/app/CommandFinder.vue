<script setup lang="ts">
/** Ctrl K: finds pages and old addresses, goes to stations, does what can be done. */
import { draftApi } from '@fastigium/contracts/api/draft';
import { computed, onMounted, ref, shallowRef, watch } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../api/client.ts';
import KeyHint from '../components/KeyHint.vue';
import { deriveBays, STATION_KEYS, type StationName } from '../logic/bays.ts';
import { find } from '../logic/find.ts';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import { useSite } from '../stores/site.ts';
import { useWorld } from '../stores/world.ts';
import { speak } from '../words/index.ts';
import { runInBackground } from '../stores/background.ts';
import { say } from './words.ts';

interface Found {
  readonly text: string;
  readonly title: string;
  readonly detail: string;
  readonly keys?: string;
  readonly run: () => void;
}

const emit = defineEmits<{
  close: [];
  go: [station: StationName];
  step: [direction: 'back' | 'forward'];
  keys: [];
  history: [];
  standIns: [];
}>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const router = useRouter();
const world = useWorld();
const typed = ref('');
const at = ref(0);
const pages = shallowRef<Found[]>([]);
const field = ref<HTMLInputElement>();
const MOST = 12;

onMounted(async () => {
  const id = site.id;
  if (id === undefined || (site.overview?.files ?? 0) === 0) return;
  try {
    const { pages: rows, removed } = await call(draftApi.pages, { params: { site: id } });
    const away = removed.map(({ id: page, title, address }) => ({
      text: say('commandFinder.removed', { title, address }).toLowerCase(),
      title: title || address,
      detail: say('commandFinder.removedPutItBack', { address }),
      run: () => runInBackground(router.push({ name: 'pages', params: { page } })),
    }));
    pages.value = rows
      .map(({ id: page, title, address }) => ({
        text: `${title} ${address}`.toLowerCase(),
        title: title || address,
        detail: address,
        run: () => runInBackground(router.push({ name: 'pages', params: { page } })),
      }))
      .concat(away);
  } catch (error) {
    notices.problem(error);
  }
});

const commands = computed<Found[]>(() => {
  const command = (title: string, run: () => void, keys?: string, detail = ''): Found => ({
    text: `${title} ${detail}`.toLowerCase(),
    title,
    detail,
    run,
    ...(keys ? { keys } : {}),
  });
  const { undo, redo } = site.overview?.steps ?? {};
  return [
    ...(site.overview ? deriveBays(site.overview, site.changes) : [])
      .filter(({ isOpen }) => isOpen)
      .map(({ station, title, words }) =>
        command(
          say('commandFinder.goTo', { title }),
          () => emit('go', station),
          `G ${STATION_KEYS[station].toUpperCase()}`,
          words,
        ),
      ),
    ...(session.mayEdit && undo
      ? [command(say('commandFinder.oneStepBack'), () => emit('step', 'back'), 'Ctrl Z', speak(undo))]
      : []),
    ...(session.mayEdit && redo
      ? [
          command(
            say('commandFinder.oneStepForward'),
            () => emit('step', 'forward'),
            say('commandFinder.ctrlShiftZ'),
            speak(redo),
          ),
        ]
      : []),
    ...(site.overview?.liveUrl
      ? [
          command(say('commandFinder.openTheLiveSite'), () =>
            window.open(site.overview?.liveUrl ?? '', '_blank', 'noopener'),
          ),
        ]
      : []),
    ...(site.overview && site.overview.removals.all > 0
      ? [
          command(
            say('commandFinder.removedThings'),
            () => runInBackground(router.push({ name: 'pages', query: { show: 'removed' } })),
            undefined,
            say('commandFinder.putBackHoldOrFor'),
          ),
        ]
      : []),
    command(
      say('common.theDayOfTheMove'),
      () => runInBackground(router.push({ name: 'move' })),
      undefined,
      say('commandFinder.allStepsInTheirOrder'),
    ),
    command(say('commandFinder.historyOfTheDraft'), () => emit('history'), 'L'),
    ...(world.clock
      ? [
          command(
            say('commandFinder.playTheStandIns'),
            () => emit('standIns'),
            undefined,
            say('commandFinder.worldClock', { time: world.time }),
          ),
        ]
      : []),
    command(say('commandFinder.allSites'), () => runInBackground(router.push({ name: 'sites' }))),
    command(say('commandFinder.listTheKeys'), () => emit('keys'), '?'),
  ];
});
const found = computed(() => find([...commands.value, ...pages.value], typed.value, MOST));
watch(found, () => (at.value = 0));
// At once, not after the dialog has opened: people type on.
watch(field, (input) => input?.focus());

function run(item: Found | undefined): void {
  if (!item) return;
  emit('close');
  item.run();
}

function onKey(event: KeyboardEvent): void {
  const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
  if (step !== undefined) at.value = Math.max(0, Math.min(found.value.length - 1, at.value + step));
  else if (event.key === 'Enter') run(found.value[at.value]);
  else return;
  event.preventDefault();
}
</script>

<template>
  <v-dialog
    model-value
    :aria-label="say('commandFinder.findOrDo')"
    scroll-strategy="block"
    @update:model-value="emit('close')"
  >
    <v-sheet class="finder">
      <input
        ref="field"
        v-model="typed"
        class="typed"
        type="text"
        :placeholder="say('commandFinder.aPageAnAddressA')"
        :aria-label="say('commandFinder.findOrDo')"
        role="combobox"
        aria-expanded="true"
        aria-controls="found"
        :aria-activedescendant="`found-${at}`"
        @keydown="onKey"
      />
      <ul id="found" role="listbox" :aria-label="say('commandFinder.found')">
        <li
          v-for="(item, index) in found"
          :id="`found-${index}`"
          :key="index"
          role="option"
          :aria-selected="index === at"
          :class="{ on: index === at }"
          @click="run(item)"
          @mousemove="at = index"
        >
          <span class="one-line">{{ item.title }}</span>
          <span class="detail one-line">{{ item.detail }}</span>
          <KeyHint v-if="item.keys" :keys="item.keys" />
        </li>
        <li v-if="found.length === 0" class="none">{{ say('commandFinder.nothingHereIsCalledThat') }}</li>
      </ul>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.finder {
  border: 1px solid var(--stone-3);
  border-radius: 3px;
  overflow: hidden;
  align-self: start;
}
.typed {
  width: 100%;
  box-sizing: border-box;
  padding: 14px 16px;
  font: inherit;
  font-size: 16px;
  border: 0;
  border-bottom: var(--line);
  background: var(--bench);
  color: inherit;
  outline: 0;
}
ul {
  list-style: none;
  margin: 0;
  padding: 4px 0;
  height: 400px;
  overflow: auto;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: 12px;
  padding: 7px 16px;
  cursor: default;
}
li.on {
  background: var(--lapis-tint);
}
.detail {
  color: var(--ink-5);
  font-size: 12px;
}
.none {
  color: var(--ink-5);
  display: block;
}
</style>
