<script setup lang="ts">
/** Which line of a robots.txt decides on an address. */
import type { Metadata } from '@fastigium/contracts/api/metadata';
import { parseRobots, robotsRule } from '@fastigium/core/robots';
import { computed, ref } from 'vue';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import LabelledField from '../../../components/LabelledField.vue';
import { count } from '../../../logic/format.ts';

const props = defineProps<{ text: string; metadata: Metadata }>();
const address = ref('/');
const agent = ref('anybot');
const robots = computed(() => parseRobots(props.text));
const lines = computed(() => props.text.split(/\r\n|\r|\n/));
const rule = computed(() =>
  robotsRule(
    robots.value,
    agent.value.trim() || 'anybot',
    address.value.trim().replace(/^https?:\/\/[^/]+/i, '') || '/',
  ),
);
const shut = computed(() =>
  props.metadata.rows.filter(
    ({ address: each }) => robotsRule(robots.value, agent.value.trim() || 'anybot', each)?.allow === false,
  ),
);
</script>

<template>
  <hr class="rule" />
  <h2 class="heading">What it means</h2>
  <div class="ask">
    <LabelledField v-model="address" class="address" label="Address" maxlength="2000" /><LabelledField
      v-model="agent"
      class="address"
      label="Crawler"
      maxlength="100"
    />
  </div>
  <p role="status">
    <KeystoneMark class="mark" :mark="rule?.allow === false ? 'ochre' : 'verdigris'" /><b>{{
      rule?.allow === false ? 'Kept out' : 'Let in'
    }}</b
    ><template v-if="rule">
      by line {{ rule.line }}: <code class="address">{{ lines[rule.line - 1]?.trim() }}</code></template
    ><template v-else>: no line speaks of it.</template>
  </p>
  <p class="quiet">
    {{
      shut.length === 0
        ? `It lets ${agent || 'anybot'} ask for every page.`
        : `${count(shut.length, 'page')} ${shut.length === 1 ? 'is' : 'are'} kept out: ${shut
            .slice(0, 5)
            .map(({ address: each }) => each)
            .join(', ')}${shut.length > 5 ? ' …' : ''}`
    }}
  </p>
</template>

<style scoped>
.ask {
  display: grid;
  grid-template-columns: 2fr 1fr;
  gap: 8px;
}
p {
  margin: 10px 0 0;
}
.mark {
  margin-inline-end: 7px;
  vertical-align: -1px;
}
</style>
