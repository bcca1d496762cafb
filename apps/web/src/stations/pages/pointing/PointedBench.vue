<script setup lang="ts">
/** What was pointed at, and what can be changed about it: its words, where it leads, what it shows. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import type { TouchRequest } from '@fastigium/contracts/decisions/touches';
import { pagesApi, type Pointed } from '@fastigium/contracts/api/pages';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../../../api/client.ts';
import { useKept } from '../../../stores/kept.ts';
import { useNotices } from '../../../stores/notices.ts';
import { useSession } from '../../../stores/session.ts';
import { useSite } from '../../../stores/site.ts';
import PagePicker from '../../shared/PagePicker.vue';
import type { PickedTarget } from '../../shared/pickedTarget.ts';
import PictureSwap from './PictureSwap.vue';
import ScopeChoice from './ScopeChoice.vue';
import { speak } from '../../../words/index.ts';
import { say } from '../words.ts';

const props = defineProps<{
  pointed: Pointed;
  /** Where it stands in the page's source. */ start: number;
  page: PageRow;
  pages: readonly PageRow[];
}>();
const notices = useNotices();
const emit = defineEmits<{ done: [] }>();
const site = useSite();
const session = useSession();
const kept = useKept(
  say('pointedBench.text', { id: props.page.id, stringify: JSON.stringify(props.pointed.anchor) }),
  () => props.pointed.text ?? '',
);
const { text } = kept;
const led = leadsNow(props.pointed.link);
const target = ref<PickedTarget | undefined>(led);
const newWindow = ref(props.pointed.link?.newWindow ?? false);
const textScope = ref<'page' | 'branch' | 'everywhere'>('page');
const linkScope = ref<'page' | 'branch' | 'everywhere'>('page');
const working = ref(false);

/** What the link leads to in the draft, as the picker has it. */
function leadsNow(link: Pointed['link']): PickedTarget | undefined {
  if (!link) return undefined;
  const fragment = /#(.+)$/.exec(link.href)?.[1];
  if (link.isHome && fragment === undefined) return { kind: 'home' };
  if (link.page !== null) return { kind: 'page', page: link.page, ...(fragment === undefined ? {} : { fragment }) };
  return /^(https?:|mailto:|tel:)/i.test(link.href) ? { kind: 'url', url: link.href } : undefined;
}

function linkTarget(picked: PickedTarget | undefined): Pick<Extract<TouchRequest, { kind: 'link' }>, 'target'> {
  if (!picked || picked.kind === 'none') return {};
  return { target: picked.kind === 'address' ? { kind: 'file', address: picked.address } : picked };
}

const makeScope = (kind: 'page' | 'branch' | 'everywhere'): TouchRequest['scope'] =>
  kind === 'everywhere' ? { kind } : { kind, page: props.page.id };
const textTouch = computed((): TouchRequest => ({
  kind: 'text',
  scope: makeScope(textScope.value),
  place: props.pointed.anchor,
  to: text.value || ' ',
}));
const linkTouch = computed((): TouchRequest => ({
  kind: 'link',
  scope: makeScope(linkScope.value),
  place: props.pointed.link?.anchor ?? props.pointed.anchor,
  newWindow: newWindow.value,
  ...(props.pointed.link?.leads == null ? {} : { leads: props.pointed.link.leads }),
  ...(isTargetNew.value ? linkTarget(target.value) : {}),
}));
const isTargetNew = computed(() => target.value !== undefined && JSON.stringify(target.value) !== JSON.stringify(led));
const isTextNew = computed(() => text.value.trim() !== '' && text.value.trim() !== props.pointed.text);
const isLinkNew = computed(() => {
  const { link } = props.pointed;
  if (!link) return false;
  return newWindow.value !== link.newWindow || isTargetNew.value;
});

const router = useRouter();
const isInMenus = (menu: string) =>
  router.push({ name: 'pages', params: { site: site.id, page: '' }, query: { show: 'menus', menu } });

/** The list the link stands in becomes a menu, wherever it stands. */
async function makeMenu(): Promise<void> {
  if (site.id === undefined) return;
  working.value = true;
  try {
    const body = { page: props.page.id, start: props.start };
    const { id, name, pages } = await call(pagesApi.pointMenu, { params: { site: site.id }, body });
    notices.done(say('pointedBench.foundOnPages', { name: speak(name), pages }));
    await isInMenus(id);
  } catch (error) {
    notices.problem(error);
  } finally {
    working.value = false;
  }
}

async function set(touch: TouchRequest): Promise<void> {
  working.value = true;
  const done = await site.decide({ kind: 'touch', touch });
  working.value = false;
  if (done) emit('done');
}
</script>

<template>
  <template v-if="pointed.text !== null">
    <h1 class="title-face">{{ say('pointedBench.thisText') }}</h1>
    <p class="quiet where">
      {{
        say('pointedBench.inUnder', {
          tag: pointed.anchor.tag,
          hasUnder: Boolean(pointed.anchor.under),
          under: pointed.anchor.under,
        })
      }}
    </p>
    <form @submit.prevent="set(textTouch)">
      <v-textarea
        v-model="text"
        rows="3"
        auto-grow
        max-rows="10"
        maxlength="20000"
        hide-details
        :aria-label="say('pointedBench.theText')"
        :readonly="!session.mayEdit"
      />
      <p v-if="kept.wasKept.value && isTextNew" class="wait" role="status">
        {{ say('pointedBench.whatYouTypedBeforeIs') }}
        <button class="text-link" type="button" @click="kept.letGo()">{{ say('common.letItGo') }}</button>
      </p>
      <template v-if="session.mayEdit">
        <ScopeChoice v-model="textScope" what="text" :page="page" :touch="textTouch" />
        <v-btn type="submit" variant="flat" color="primary" :disabled="!isTextNew" :loading="working">{{
          say('pointedBench.setTheText')
        }}</v-btn>
      </template>
    </form>
  </template>
  <template v-if="pointed.link">
    <hr v-if="pointed.text !== null" class="rule" />
    <component :is="pointed.text === null ? 'h1' : 'h2'" :class="pointed.text === null ? 'title-face' : 'heading'">{{
      say('pointedBench.whereItLeads')
    }}</component>
    <p class="address quiet where">{{ pointed.link.href || say('pointedBench.nowhere') }}</p>
    <form v-if="session.mayEdit" @submit.prevent="set(linkTouch)">
      <PagePicker
        v-model="target"
        :pages="pages"
        :disabled="false"
        :offers="['home', 'newest', 'file', 'url', 'person']"
        has-places
      />
      <label class="check"
        ><input v-model="newWindow" type="checkbox" /> {{ say('pointedBench.opensInANewWindow') }}</label
      >
      <ScopeChoice v-model="linkScope" what="link" :page="page" :touch="linkTouch" />
      <v-btn type="submit" :disabled="!isLinkNew" :loading="working">{{ say('pointedBench.setTheLink') }}</v-btn>
    </form>
  </template>
  <template v-if="pointed.list">
    <hr class="rule" />
    <h2 class="heading">{{ say('pointedBench.theListAroundIt') }}</h2>
    <p class="quiet where">{{ pointed.list.labels.join(' · ') }}</p>
    <p v-if="pointed.list.menu" class="where">
      <button type="button" class="text-link" @click="isInMenus(pointed.list.menu.id)">
        {{ say('pointedBench.editItIn', { name: speak(pointed.list.menu.name) }) }}</button><span class="quiet">{{
        say('pointedBench.onceForAllPages')
      }}</span>
    </p>
    <template v-else-if="session.mayEdit">
      <p class="quiet where">{{ say('pointedBench.itWasNotTakenFor') }}</p>
      <v-btn :loading="working" @click="makeMenu">{{ say('pointedBench.editItAsAMenu') }}</v-btn>
    </template>
  </template>
  <template v-if="pointed.picture">
    <hr v-if="pointed.link" class="rule" />
    <PictureSwap :picture="pointed.picture" :page="page" @done="emit('done')" />
  </template>
  <template v-if="pointed.text === null && !pointed.link && !pointed.picture">
    <h1 class="title-face">{{ say('pointedBench.nothingToChangeHere') }}</h1>
    <p class="explain">{{ say('pointedBench.pointAtTheWordsThemselves') }}</p>
  </template>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
  justify-items: start;
}
form > :first-child {
  width: 100%;
}
.where {
  margin: 2px 0 10px;
  overflow-wrap: anywhere;
}
.check {
  display: flex;
  gap: 6px;
  align-items: center;
  font-size: 13px;
}
.check input {
  accent-color: var(--ink-9);
  margin: 0;
}
.wait {
  color: var(--ochre-dark);
  margin: 0;
}
.explain {
  color: var(--ink-7);
}
</style>
