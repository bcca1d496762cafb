<script setup lang="ts">
/** Where old branches lead, in figures. */
import { formatFigure } from '../../../logic/format.ts';
import type { Flow } from './flows.ts';
import { say } from '../words.ts';

defineProps<{ flows: readonly Flow[] }>();
</script>

<template>
  <div class="figures" tabindex="0" role="region" :aria-label="say('flowFigures.whereOldBranchesLeadIn')">
    <table>
      <thead>
        <tr>
          <th>{{ say('flowFigures.oldBranch') }}</th>
          <th>{{ say('flowFigures.endsAt') }}</th>
          <th class="figure">{{ say('common.addresses') }}</th>
          <th class="figure">{{ say('common.visits') }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="flow in flows" :key="`${flow.from} ${flow.to}`">
          <td class="address">{{ flow.from }}</td>
          <td class="address">{{ flow.to }}</td>
          <td class="figure">{{ formatFigure(flow.addresses) }}</td>
          <td class="figure">{{ formatFigure(flow.visits) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.figures {
  font-size: 12px;
  height: 210px;
  overflow: auto;
}
table {
  border-collapse: collapse;
  width: 100%;
  margin-block: 6px;
}
th {
  text-align: left;
  font-weight: 400;
  color: var(--ink-5);
}
th.figure {
  text-align: right;
}
th,
td {
  padding: 2px 12px 2px 0;
  border-bottom: var(--line);
}
</style>
