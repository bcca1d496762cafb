<script setup lang="ts">
/** Who can visit one part of the site. */
import type { VisitorPlace } from '@fastigium/contracts/api/visitors';
import { useSession } from '../../stores/session.ts';
import PanelRow from './PanelRow.vue';
import { chooseEntryMark, placeWords } from './visitorWords.ts';
import { say } from './words.ts';

/** `password`: where somebody asked to see it. */
defineProps<{ row: VisitorPlace; password: string | undefined }>();
const emit = defineEmits<{ show: []; change: []; 'take-back': [] }>();
const session = useSession();
</script>

<template>
  <PanelRow :mark="chooseEntryMark(row.kind)">
    <span class="one-line" :title="row.address">{{
      row.place === null ? row.title : say('visitorRow.andBelow', { title: row.title })
    }}</span><span class="quiet"
      >{{ placeWords(row)
      }}<template v-if="password"
        >: <b class="address">{{ password }}</b></template
      ></span
    >
    <template v-if="session.mayEdit" #ways>
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
    </template>
  </PanelRow>
</template>
