<script setup lang="ts">
/** Which line of a robots.txt decides on an address. */
import type { Metadata } from '@fastigium/contracts/api/metadata';
import { parseRobots, findRobotsRule } from '@fastigium/core/robots';
import { computed, ref } from 'vue';
import KeystoneMark from '../../../components/KeystoneMark.vue';
import LabelledField from '../../../components/LabelledField.vue';
import { say } from '../words.ts';

const props = defineProps<{ text: string; metadata: Metadata }>();
const address = ref('/');
const agent = ref('anybot');
const robots = computed(() => parseRobots(props.text));
const lines = computed(() => props.text.split(/\r\n|\r|\n/));
const rule = computed(() =>
  findRobotsRule(
    robots.value,
    agent.value.trim() || 'anybot',
    address.value.trim().replace(/^https?:\/\/[^/]+/i, '') || '/',
  ),
);
const shut = computed(() =>
  props.metadata.rows.filter(
    ({ address: each }) => findRobotsRule(robots.value, agent.value.trim() || 'anybot', each)?.allow === false,
  ),
);
</script>

<template>
  <hr class="rule" />
  <h2 class="heading">{{ say('robotsTester.whatItMeans') }}</h2>
  <div class="ask">
    <LabelledField v-model="address" class="address" :label="say('common.address')" maxlength="2000" /><LabelledField
      v-model="agent"
      class="address"
      :label="say('robotsTester.crawler')"
      maxlength="100"
    />
  </div>
  <p role="status">
    <KeystoneMark class="mark" :mark="rule?.allow === false ? 'ochre' : 'verdigris'" /><b>{{
      rule?.allow === false ? say('robotsTester.keptOut') : say('robotsTester.letIn')
    }}</b
    ><template v-if="rule">
      {{ ' ' }}{{ say('robotsTester.byLine', { line: rule.line }) }}
      <code class="address">{{ lines[rule.line - 1]?.trim() }}</code></template
    ><template v-else>{{ say('robotsTester.noLineSpeaksOfIt') }}</template>
  </p>
  <p class="quiet">
    {{
      shut.length === 0
        ? say('robotsTester.itLetsAskForEvery', { agent: agent || 'anybot' })
        : say('robotsTester.pagesAreKeptOut', {
            shut: shut.length,
            shut2: shut
              .slice(0, 5)
              .map(({ address: each }) => each)
              .join(', '),
            shut3: shut.length > 5 ? ' …' : '',
          })
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
