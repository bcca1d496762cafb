<script setup lang="ts">
/** Domains that lead here and whose addresses are told apart from the site's own. */
import { redirectsApi } from '@fastigium/contracts/api/redirects';
import { ref } from 'vue';
import { call } from '../../api/client.ts';
import LabelledField from '../../components/LabelledField.vue';
import { useNotices } from '../../stores/notices.ts';
import { useSite } from '../../stores/site.ts';
import { say } from './words.ts';

defineProps<{ domains: readonly string[] }>();
const emit = defineEmits<{ changed: [] }>();
const site = useSite();
const notices = useNotices();
const host = ref('');
const busy = ref(false);

async function changeDomains(work: (id: string) => Promise<unknown>): Promise<void> {
  if (site.id === undefined) return;
  busy.value = true;
  try {
    await work(site.id);
    emit('changed');
  } catch (error) {
    notices.problem(error);
  }
  busy.value = false;
}
const add = () =>
  changeDomains(async (id) => {
    await call(redirectsApi.addOldDomain, { params: { site: id }, body: { host: host.value } });
    host.value = '';
  });
const remove = (each: string) =>
  changeDomains((id) => call(redirectsApi.removeOldDomain, { params: { site: id }, query: { host: each } }));
</script>

<template>
  <details class="domains" :open="domains.length > 0">
    <summary>
      <span class="strong">{{ say('oldDomains.oldDomains') }}</span>{{ ' ' }}
      <span class="quiet">{{ say('oldDomains.whoseAddressesMeanOtherPages') }}</span>
    </summary>
    <ul v-if="domains.length > 0">
      <li v-for="each in domains" :key="each">
        <span class="address">{{ each }}</span><button type="button" class="text-link" @click="remove(each)">
          {{ say('oldDomains.tellApartNoLonger') }}
        </button>
      </li>
    </ul>
    <form @submit.prevent="add">
      <LabelledField
        v-model="host"
        class="address"
        :label="say('oldDomains.domainToTellApart')"
        placeholder="old-shop.example"
        maxlength="260"
      />
      <v-btn type="submit" height="36" :disabled="host.trim() === ''" :loading="busy">{{ say('common.add') }}</v-btn>
    </form>
    <p class="quiet">
      {{ say('oldDomains.whatComesInFromNow') }}
    </p>
  </details>
</template>

<style scoped>
.domains {
  margin-top: 16px;
}
summary {
  cursor: pointer;
}
ul {
  list-style: none;
  margin: 6px 0;
  padding: 0;
  border-top: var(--line);
}
li {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  border-bottom: var(--line);
  padding: 5px 0;
}
form {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
  margin-top: 8px;
}
p {
  margin: 4px 0;
}
</style>
