<script setup lang="ts">
/** Before something is removed: what leads there, what goes with it, and where its address leads from then on. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { removalsApi, type RemovePreview } from '@fastigium/contracts/api/removals';
import type { RemoveRequest } from '@fastigium/contracts/decisions/removals';
import { computed, ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { usePreviewOrigins } from './previewOrigin.ts';
import PagePicker from './PagePicker.vue';
import type { PickedTarget } from './pickedTarget.ts';
import { speak } from '../../words/index.ts';
import { say } from './words.ts';

const props = defineProps<{ thing: RemoveRequest['thing']; pages: readonly PageRow[] }>();
const emit = defineEmits<{ leave: []; removed: [] }>();
const site = useSite();
const notices = useNotices();
const preview = shallowRef<RemovePreview>();
const alone = ref<'branch' | 'alone'>('branch');
const stands = ref<'parent' | 'home' | 'page' | 'gone' | 'none'>();
const other = ref<PickedTarget>();
const newHome = ref<PickedTarget>();
const links = ref<'kept' | 'lead-on' | 'unlinked'>();
const why = ref('');
const working = ref(false);
const SHOWN = 4;
const MOST_LETTERS = 240;
/** Whole words of it. */
const cutBeginning = (words: string) =>
  words.length <= MOST_LETTERS ? words : `${words.slice(0, MOST_LETTERS).replace(/\s+\S*$/, '')} …`;
const SHOWN_PICTURES = 6;
const origins = usePreviewOrigins();

const thing = computed<RemoveRequest['thing']>(() =>
  props.thing.kind === 'node' ? { ...props.thing, alone: alone.value === 'alone' } : props.thing,
);
// The same thing written anew is no other one: it may be gone by then.
watch(
  () => JSON.stringify(thing.value),
  async () => {
    if (site.id === undefined) return;
    const wanted = thing.value;
    try {
      preview.value = await call(removalsApi.previewRemove, { params: { site: site.id }, body: { thing: wanted } });
    } catch (error) {
      notices.problem(error);
      emit('leave');
    }
  },
  { immediate: true },
);

const below = computed(() =>
  props.thing.kind === 'node' ? props.pages.filter((page, _, all) => isBelow(page, all)).length : 0,
);
function isBelow(page: PageRow, all: readonly PageRow[]): boolean {
  const { thing: of } = props;
  for (let parent = page.parent; parent !== null; parent = all.find(({ id }) => id === parent)?.parent ?? null)
    if (of.kind === 'node' && parent === of.node) return true;
  return false;
}
// A document that is gone leads nowhere sensible; a page leads to the one above it.
const standsIn = computed(
  () => stands.value ?? (preview.value?.parent ? 'parent' : props.thing.kind === 'file' ? 'gone' : 'home'),
);
const isLed = computed(() => standsIn.value !== 'gone' && standsIn.value !== 'none');
const treatment = computed(() =>
  links.value === 'lead-on' && !isLed.value ? 'unlinked' : (links.value ?? (isLed.value ? 'lead-on' : 'unlinked')),
);
const standOptions = computed(() => [
  ...(preview.value?.parent
    ? [
        {
          value: 'parent' as const,
          label: preview.value.parent.label,
          hint: say('removePanel.thePageAbove', { address: preview.value.parent.address }),
        },
      ]
    : []),
  { value: 'home' as const, label: say('common.homePage') },
  { value: 'page' as const, label: say('removePanel.anotherPage') },
  {
    value: 'gone' as const,
    label: say('removePanel.goneForGood'),
    hint: say('removePanel.answeredWith410MachinesForget'),
  },
  { value: 'none' as const, label: say('removePanel.nowhere'), hint: say('removePanel.answeredWith404NotFound') },
]);
const linkOptions = computed(() => [
  ...(isLed.value ? [{ value: 'lead-on' as const, label: say('removePanel.leadThereAtOnce') }] : []),
  { value: 'unlinked' as const, label: say('removePanel.becomePlainWords') },
  { value: 'kept' as const, label: say('removePanel.stayAsTheyAre') },
]);
const isReady = computed(
  () =>
    preview.value !== undefined &&
    (standsIn.value !== 'page' || other.value?.kind === 'page') &&
    (!preview.value.roles.includes('home') || newHome.value?.kind === 'page'),
);

async function remove(): Promise<void> {
  if (!isReady.value) return;
  working.value = true;
  const standIn: RemoveRequest['standIn'] = !preview.value?.hasAddress
    ? { kind: 'none' }
    : standsIn.value !== 'page'
      ? { kind: standsIn.value }
      : other.value?.kind === 'page'
        ? { kind: 'page', page: other.value.page }
        : { kind: 'home' };
  const done = await site.decide({
    kind: 'remove',
    thing: thing.value,
    standIn,
    links: preview.value?.hasAddress ? treatment.value : 'kept',
    why: why.value.trim(),
    newHome: newHome.value?.kind === 'page' ? newHome.value.page : null,
  });
  working.value = false;
  if (done) emit('removed');
}
</script>

<template>
  <form v-if="preview" @submit.prevent="remove" @keydown.esc.stop="emit('leave')">
    <h1 class="title-face">{{ say('removePanel.remove', { label: speak(preview.label) }) }}</h1>
    <p v-if="preview.goes[0]?.address" class="address quiet">{{ preview.goes[0]?.address ?? '' }}</p>
    <SegmentedChoice
      v-if="below > 0"
      v-model="alone"
      :label="say('removePanel.whatGoes')"
      :options="[
        { value: 'branch', label: say('removePanel.withAllBelowIt', { below }) },
        { value: 'alone', label: say('removePanel.thisPageAlone') },
      ]"
    />
    <template v-if="preview.inside">
      <h2 class="heading">{{ say('removePanel.whatGoesWithIt') }}</h2>
      <blockquote v-if="preview.inside.words" class="words">{{ cutBeginning(preview.inside.words) }}</blockquote>
      <ul
        v-if="preview.inside.picturesInAll > 0"
        class="pictures"
        :aria-label="say('removePanel.pictures', { picturesInAll: preview.inside.picturesInAll })"
      >
        <li v-for="picture in preview.inside.pictures.slice(0, SHOWN_PICTURES)" :key="picture.address ?? picture.words">
          <img
            v-if="picture.address !== null && origins"
            :src="origins.seen + picture.address"
            :alt="picture.words"
            :title="picture.address"
            loading="lazy"
          /><span v-else class="quiet">{{ picture.words || say('removePanel.aPictureFromElsewhere') }}</span>
        </li>
      </ul>
    </template>
    <h2 class="heading">{{ say('removePanel.whatVisitorsWouldNotice') }}</h2>
    <ul class="facts">
      <template v-if="preview.inside">
        <li v-if="preview.inside.picturesInAll > 0">
          <KeystoneMark mark="ochre" /><span
            >{{ say('removePanel.picturesNoLongerShownHere', { picturesInAll: preview.inside.picturesInAll })
            }}<span class="quiet names">{{
              say('removePanel.theFilesStayAtTheir', { picturesInAll: preview.inside.picturesInAll })
            }}</span></span
          >
        </li>
        <li v-if="preview.inside.linksInAll > 0">
          <KeystoneMark mark="ochre" /><span
            >{{ say('removePanel.linksGo', { linksInAll: preview.inside.linksInAll })
            }}<span class="quiet names"
              >{{
                preview.inside.links
                  .slice(0, SHOWN)
                  .map(({ label, to }) => (label ? say('removePanel.to', { label, to }) : to))
                  .join(', ')
              }}{{ preview.inside.linksInAll > SHOWN ? ' …' : '' }}</span
            ></span
          >
        </li>
        <li v-for="page in preview.inside.lost" :key="page.id">
          <KeystoneMark mark="madder" /><span
            >{{ say('removePanel.noOtherPageLinksTo', { label: page.label })
            }}<span class="address quiet names">{{ page.address }}</span></span
          >
        </li>
        <li v-if="preview.inside.picturesInAll + preview.inside.linksInAll === 0">
          <KeystoneMark mark="verdigris" /><span>{{ say('removePanel.itsWordsAloneNoLinks') }}</span>
        </li>
      </template>
      <li v-if="preview.linkedFromInAll > 0">
        <KeystoneMark mark="ochre" /><span
          >{{ say('removePanel.otherPagesLinkHere', { linkedFromInAll: preview.linkedFromInAll })
          }}<span class="quiet names"
            >{{
              preview.linkedFrom
                .slice(0, SHOWN)
                .map(({ label }) => label)
                .join(', ')
            }}{{ preview.linkedFromInAll > SHOWN ? ' …' : '' }}</span
          ></span
        >
      </li>
      <li v-for="menu in preview.menus" :key="speak(menu)">
        <KeystoneMark mark="ochre" /><span>{{ speak(menu) }}</span>
      </li>
      <li v-if="preview.redirectsInAll > 0">
        <KeystoneMark mark="madder" /><span
          >{{ say('removePanel.oldAddressesLandHereAnd', { redirectsInAll: preview.redirectsInAll })
          }}<span class="address quiet names">{{ preview.redirects.slice(0, SHOWN).join(', ') }}</span></span
        >
      </li>
      <li v-if="preview.visits !== null">
        <KeystoneMark mark="ochre" /><span>{{
          say('removePanel.visitsCountedInLogsAnd', { visits: preview.visits })
        }}</span>
      </li>
      <li v-if="preview.roles.includes('listing')">
        <KeystoneMark mark="ochre" /><span>{{ say('removePanel.itListsDatedPagesAnd') }}</span>
      </li>
      <li
        v-if="
          !preview.inside && preview.linkedFromInAll === 0 && preview.menus.length === 0 && preview.redirectsInAll === 0
        "
      >
        <KeystoneMark mark="verdigris" /><span>{{ say('removePanel.nothingElseLeadsHere') }}</span>
      </li>
    </ul>
    <div v-if="preview.roles.includes('home')" class="ask">
      <p class="wrong">{{ say('removePanel.theHomePageGoesAs') }}</p>
      <span class="quiet">{{ say('removePanel.homePageFromThenOn') }}</span>
      <PagePicker v-model="newHome" :pages="pages" :disabled="false" :offers="[]" />
    </div>
    <template v-if="preview.hasAddress">
      <div class="ask">
        <span class="quiet">{{
          preview.goesInAll > 1 ? say('removePanel.itsAddressesLeadTo') : say('removePanel.itsAddressLeadsTo')
        }}</span>
        <SegmentedChoice
          :model-value="standsIn"
          :label="say('removePanel.whereItsAddressLeads')"
          :options="standOptions"
          @update:model-value="stands = $event"
        />
        <PagePicker v-if="standsIn === 'page'" v-model="other" :pages="pages" :disabled="false" :offers="[]" />
      </div>
      <div v-if="preview.linkedFromInAll > 0" class="ask">
        <span class="quiet">{{ say('removePanel.linksToItInOther') }}</span>
        <SegmentedChoice
          :model-value="treatment"
          :label="say('removePanel.whatBecomesOfLinks')"
          :options="linkOptions"
          @update:model-value="links = $event"
        />
      </div>
    </template>
    <LabelledField v-model="why" :label="say('removePanel.whyForWhoeverWondersLater')" maxlength="500" />
    <div class="acts">
      <v-btn type="submit" variant="flat" color="error" :disabled="!isReady" :loading="working">{{
        say('common.remove')
      }}</v-btn>
      <v-btn @click="emit('leave')">{{ say('removePanel.keepIt') }}</v-btn>
    </div>
    <p class="quiet">
      {{ say('removePanel.itStaysInItsPlace') }}
    </p>
  </form>
  <p v-else class="quiet" role="status">{{ say('removePanel.lookingWhatLeadsHere') }}</p>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
}
h1,
h1 + p {
  margin: 0;
}
h1 + p {
  margin-top: -8px;
  overflow-wrap: anywhere;
}
.heading {
  margin: 4px 0 -4px;
}
.facts {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: var(--line);
}
.facts li {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 8px;
  align-items: baseline;
  padding: 6px 0;
  border-bottom: var(--line);
}
.names {
  display: block;
}
.words {
  margin: 0;
  padding-left: 10px;
  border-left: 3px solid var(--stone-3);
  color: var(--ink-5);
}
.pictures {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  list-style: none;
  margin: 0;
  padding: 0;
}
.pictures img {
  display: block;
  height: 64px;
  max-width: 140px;
  object-fit: cover;
  border: var(--line);
}
.ask {
  display: grid;
  gap: 6px;
}
.ask p {
  margin: 0;
}
.acts {
  display: flex;
  gap: 8px;
  margin-top: 4px;
}
p {
  margin: 0;
}
</style>
