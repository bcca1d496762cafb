<script setup lang="ts">
/** Who can visit one part of the site. */
import type { VisitorPlace } from '@fastigium/contracts/api/visitors';
import KeystoneMark from '../../components/KeystoneMark.vue';
import { useSession } from '../../stores/session.ts';
import { entryMark, placeWords } from './visitorWords.ts';
import { say } from './words.ts';

/** `password`: where somebody asked to see it. */
defineProps<{ row: VisitorPlace; password: string | undefined }>();
const emit = defineEmits<{ show: []; change: []; 'take-back': [] }>();
const session = useSession();
</script>

<template>
  <li>
    <KeystoneMark :mark="entryMark(row.kind)" />
    <span class="what"
      ><span class="one-line" :title="row.address">{{
        row.place === null ? row.title : say('visitorRow.andBelow', { title: row.title })
      }}</span
      ><span class="quiet"
        >{{ placeWords(row)
        }}<template v-if="password"
          >: <b class="address">{{ password }}</b></template
        ></span
      ></span
    >
    <span v-if="session.mayEdit" class="ways">
      <button
        v-if="row.kind === 'password' && !password"
        class="text-link"
        type="button"
        :aria-label="say('visitorRow.showThePasswordOf', { title: row.title })"
        @click="emit('show')"
      >
        {{ say('visitorRow.show') }}
      </button>
      <button
        class="text-link"
        type="button"
        :aria-label="say('visitorRow.changeWhoCanVisit', { title: row.title })"
        @click="emit('change')"
      >
        {{ say('visitorRow.change') }}
      </button>
      <button
        v-if="row.place !== null"
        class="text-link"
        type="button"
        :aria-label="say('visitorRow.takeBackWhatIsSaid', { title: row.title })"
        @click="emit('take-back')"
      >
        {{ say('common.takeBack') }}
      </button>
    </span>
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 10px;
  align-items: baseline;
  padding: 7px 0;
  border-bottom: var(--line);
  font-size: 13px;
}
.what {
  display: grid;
  min-width: 0;
  overflow-wrap: anywhere;
}
.ways {
  display: flex;
  gap: 10px;
}
.text-link {
  min-height: 24px;
}
</style>
