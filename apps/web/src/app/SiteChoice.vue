<script setup lang="ts">
/** All sites of the team, and the place to drop a new one. */
import { sitesApi, type SiteSummary } from '@fastigium/contracts/api/sites';
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../api/client.ts';
import KeystoneMark from '../components/KeystoneMark.vue';
import { count } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import { useSession } from '../stores/session.ts';
import { useSite } from '../stores/site.ts';
import BringIn from '../stations/shared/BringIn.vue';
import TwoSides from './TwoSides.vue';

const notices = useNotices();
const session = useSession();
const router = useRouter();
const sites = ref<SiteSummary[]>();
useSite().close();

onMounted(async () => {
  try {
    sites.value = await call(sitesApi.list);
  } catch (error) {
    notices.problem(error);
  }
});

const open = (site: string) => router.push({ name: 'survey', params: { site } });
</script>

<template>
  <TwoSides>
    <h1 class="title-face">Sites</h1>
    <p v-if="sites?.length === 0 && session.isClient">No site is shown to you yet. Ask whoever invited you.</p>
    <template v-else-if="sites?.length === 0">
      <p>
        There is none yet. Bring in the finished site, as its designer exported it; then the work goes in this order.
      </p>
      <ol class="order">
        <li><b>Survey</b> what came in: pages, assets, links that lead nowhere.</li>
        <li><b>Pages</b>: see each as it will be, correct its title, choose the home page.</li>
        <li><b>Redirects</b>: every address of the old site lands on a page of the new one.</li>
        <li><b>Publish</b>: see what visitors will notice, make it live all at once, go back if need be.</li>
      </ol>
    </template>
    <RouterLink
      v-for="site in sites"
      :key="site.id"
      class="site"
      :to="{ name: session.isClient ? 'client' : 'survey', params: { site: site.id } }"
    >
      <KeystoneMark :mark="site.liveRelease !== null ? 'verdigris' : site.files > 0 ? 'ochre' : 'dashed'" :size="16" />
      <span class="who">
        <span class="name">{{ site.name }}</span>
        <span class="quiet">{{
          site.files > 0 ? `${count(site.pages, 'page')}, ${count(site.files, 'file')}` : 'nothing brought in yet'
        }}</span>
      </span>
      <span class="state">
        <span>{{ site.liveRelease !== null ? `release ${site.liveRelease} is live` : 'not live yet' }}</span>
        <span class="address quiet">{{ site.answersAt }}</span>
      </span>
    </RouterLink>
    <template v-if="session.mayEdit" #bench><BringIn @started="open" /></template>
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
.site {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 14px;
  align-items: center;
  padding: 12px 28px;
  border-top: var(--line);
  color: inherit;
  text-decoration: none;
}
.site:last-child {
  border-bottom: var(--line);
}
.site:hover {
  background: var(--stone-1);
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
