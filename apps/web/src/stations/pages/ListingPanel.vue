<script setup lang="ts">
/** Whether a page lists the dated pages below it: how many to a page, what it lists, and its feed. */
import type { PageRow } from '@fastigium/contracts/api/draft';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import LabelledField from '../../components/LabelledField.vue';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { say } from './words.ts';

const props = defineProps<{ page: PageRow; pages: readonly PageRow[] }>();
const site = useSite();
const session = useSession();
const router = useRouter();
const perPage = ref('10');
const isChoosing = ref(false);

/** Dated pages below it in the tree, whatever level. */
const dated = computed(() => {
  const at = props.pages.findIndex(({ id }) => id === props.page.id);
  let n = 0;
  for (const row of props.pages.slice(at + 1)) {
    if (row.depth <= props.page.depth) break;
    if (row.date !== null) n += 1;
  }
  return n;
});
const number = computed(() => Number(perPage.value));

async function set(): Promise<void> {
  if (await site.decide({ kind: 'listing', page: props.page.id, perPage: number.value })) isChoosing.value = false;
}
</script>

<template>
  <template v-if="page.lists !== null">
    <h2 class="heading">
      {{ say('listingPanel.listsEntries', { lists: page.lists })
      }}<button
        v-if="session.mayEdit"
        class="text-link"
        type="button"
        @click="site.decide({ kind: 'listing-removed', page: page.id })"
      >
        {{ say('listingPanel.noListingAnyMore') }}
      </button>
    </h2>
    <p class="quiet">{{ say('listingPanel.theNewestFirstInThe') }}</p>
    <p v-if="page.menus.length === 0" class="lost">
      <span class="wrong">{{ say('listingPanel.noMenuLeadsToIt') }}</span><button
        v-if="session.mayEdit"
        class="text-link"
        type="button"
        @click="router.replace({ query: { show: 'menus', add: page.id } })"
      >
        {{ say('listingPanel.addItToTheMain') }}
      </button>
    </p>
    <hr class="rule" />
  </template>
  <template v-else-if="dated > 0 && session.mayEdit">
    <h2 class="heading">
      {{ say('listingPanel.datedPagesBelowIt', { dated })
      }}<button v-if="!isChoosing" class="text-link" type="button" @click="isChoosing = true">
        {{ say('listingPanel.listThemHere') }}
      </button>
    </h2>
    <form v-if="isChoosing" class="choose" @submit.prevent="set">
      <LabelledField v-model="perPage" :label="say('listingPanel.entriesToAPage')" inputmode="numeric" maxlength="4" />
      <v-btn type="submit" height="36" variant="flat" color="primary" :disabled="!(number >= 1 && number <= 1000)">{{
        say('listingPanel.listThem')
      }}</v-btn>
    </form>
    <hr class="rule" />
  </template>
</template>

<style scoped>
p {
  margin: 0 0 8px;
}
.lost {
  display: flex;
  gap: 12px;
}
.choose {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
  align-items: end;
}
</style>
