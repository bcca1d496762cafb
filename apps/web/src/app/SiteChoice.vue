<script setup lang="ts">
/** All sites of the team, and the place to drop a new one. */
import { sitesApi, type GoingSite, type SiteSummary } from '@fastigium/contracts/api/sites';
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../api/client.ts';
import KeystoneMark from '../components/KeystoneMark.vue';
import { readDay } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import BringIn from '../stations/shared/BringIn.vue';
import DeleteSite from './DeleteSite.vue';
import GoingSites from './GoingSites.vue';
import TwoSides from './TwoSides.vue';
import { say } from './words.ts';
import RichWords from '../words/RichWords.ts';

const notices = useNotices();
const session = useSession();
const router = useRouter();
const sites = ref<SiteSummary[]>();
const going = ref<GoingSite[]>([]);
const asked = ref<SiteSummary>();

async function read(): Promise<void> {
  try {
    [sites.value, going.value] = await Promise.all([
      call(sitesApi.list),
      session.isOwner ? call(sitesApi.going) : Promise.resolve([]),
    ]);
  } catch (error) {
    notices.problem(error);
  }
}
onMounted(read);

async function onDeleted(site: GoingSite): Promise<void> {
  asked.value = undefined;
  notices.done(say('siteChoice.isDeleted', { name: site.name, day: readDay(site.goneAt) }));
  await read();
}

const open = (site: string) => router.push({ name: 'survey', params: { site } });
</script>

<template>
  <TwoSides>
    <h1 class="title-face">{{ say('common.sites') }}</h1>
    <p v-if="sites?.length === 0 && session.isClient">{{ say('siteChoice.noSiteIsShownTo') }}</p>
    <template v-else-if="sites?.length === 0">
      <p>
        {{ say('siteChoice.thereIsNoneYetBring') }}
      </p>
      <ol class="order">
        <li><RichWords :words="say.parts('siteChoice.surveyWhatCameInPages')" /></li>
        <li><RichWords :words="say.parts('siteChoice.pagesSeeEachAsIt')" /></li>
        <li><RichWords :words="say.parts('siteChoice.redirectsEveryAddressOfThe')" /></li>
        <li><RichWords :words="say.parts('siteChoice.publishSeeWhatVisitorsWill')" /></li>
      </ol>
    </template>
    <div v-for="site in sites" :key="site.id" class="row" :class="{ asked: asked?.id === site.id }">
      <RouterLink class="site" :to="{ name: session.isClient ? 'client' : 'survey', params: { site: site.id } }">
        <KeystoneMark
          :mark="site.liveRelease !== null ? 'verdigris' : site.files > 0 ? 'ochre' : 'dashed'"
          :size="16"
        />
        <span class="who">
          <span class="name">{{ site.name }}</span>
          <span class="quiet">{{
            site.files > 0
              ? say('siteChoice.pagesFiles', { pages: site.pages, files: site.files })
              : say('siteChoice.nothingBroughtInYet')
          }}</span>
        </span>
        <span class="state">
          <span>{{
            site.liveRelease !== null
              ? say('siteChoice.releaseIsLive', { liveRelease: site.liveRelease })
              : say('common.notLiveYet')
          }}</span>
          <span class="address quiet">{{ site.answersAt }}</span>
        </span>
      </RouterLink>
      <button
        v-if="session.isOwner"
        class="text-link remove"
        type="button"
        :aria-label="say('siteChoice.delete', { name: site.name })"
        @click="asked = site"
      >
        {{ say('siteChoice.deleteWord') }}
      </button>
    </div>
    <GoingSites v-if="going.length > 0" :sites="going" @back="read" />
    <template v-if="asked" #bench
      ><DeleteSite :site="asked" @deleted="onDeleted" @close="asked = undefined"
    /></template>
    <template v-else-if="session.mayEdit" #bench><BringIn @started="open" /></template>
  </TwoSides>
</template>

<style scoped>
.order {
  padding-inline: 28px;
}
.order {
  list-style: none;
  margin: 16px 0 0;
  padding: 0;
  counter-reset: step;
}
.order li {
  counter-increment: step;
  padding: 12px 28px;
  border-top: var(--line);
}
.order li:last-child {
  border-bottom: var(--line);
}
.order li::before {
  content: counter(step);
  font-family: var(--face-title);
  font-size: 18px;
  color: var(--stone-5);
  display: inline-block;
  width: 28px;
}
.row {
  display: flex;
  align-items: center;
  border-top: var(--line);
}
.row:not(:has(+ .row)) {
  border-bottom: var(--line);
}
.row:hover,
.row.asked {
  background: var(--stone-1);
}
.site {
  flex: 1;
  min-width: 0;
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 14px;
  align-items: center;
  padding: 12px 28px;
  color: inherit;
  text-decoration: none;
}
/* Quiet: nobody comes here for it every day. */
.remove {
  padding-inline: 4px 28px;
  font-size: 13px;
}
.row:not(:hover, .asked) .remove:not(:focus-visible) {
  color: var(--ink-5);
}
.who,
.state {
  display: grid;
}
.state {
  justify-items: end;
  font-size: 13px;
}
.name {
  font-weight: 600;
  font-size: 16px;
  line-height: 22px;
}
</style>
