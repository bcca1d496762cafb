<script setup lang="ts">
/** One redirect of the live release: how much it is used, and retiring it. */
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import type { UsedRule } from '@fastigium/contracts/api/watch';
import { readDay, formatWhen } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { runInBackground } from '../../stores/background.ts';
import { say } from './words.ts';

const props = defineProps<{
  rule: UsedRule;
  /** As the draft has it; undefined for a pattern, or where it is gone from the draft. */ row: RedirectRow | undefined;
  since: string | null;
  now: Date;
}>();
const site = useSite();
const session = useSession();
const retireRule = () => runInBackground(site.decide({ kind: 'redirect-removed', from: props.rule.from }));
</script>

<template>
  <h1 class="title-face">{{ rule.isPattern ? say('ruleUseBench.aPattern') : say('ruleUseBench.aRedirect') }}</h1>
  <p class="address from">{{ rule.from }}</p>
  <dl>
    <dt>{{ say('common.leadsTo') }}</dt>
    <dd class="address">
      {{ rule.to ?? say('common.goneForGood') }} <span class="quiet">({{ rule.status }})</span>
    </dd>
    <dt>{{ say('ruleUseBench.used') }}</dt>
    <dd>
      {{
        say('ruleUseBench.visitsByAddresses', {
          noVisits: rule.visits === 0,
          visits: rule.visits,
          hasAddresses: rule.addresses > 1,
          addresses: rule.addresses,
        })
      }}<template v-if="rule.lastAt">{{ say('ruleUseBench.last', { lastAt: formatWhen(rule.lastAt, now) }) }}</template>
    </dd>
    <dt>{{ say('ruleUseBench.countedSince') }}</dt>
    <dd>{{ since ? readDay(since) : say('ruleUseBench.notYet') }}</dd>
    <template v-if="row && row.visits !== null"
      ><dt>{{ say('ruleUseBench.onTheOldSite') }}</dt>
      <dd>{{ say('ruleUseBench.visits', { visits: row.visits }) }}</dd></template
    >
  </dl>
  <template v-if="rule.visits === 0">
    <p class="quiet">
      {{ say('ruleUseBench.searchEnginesTakeARedirect') }}
    </p>
    <v-btn v-if="session.mayEdit && row?.origin === 'decided'" @click="retireRule">{{
      say('ruleUseBench.retireItWithTheNext')
    }}</v-btn>
  </template>
</template>

<style scoped>
.from {
  margin: 2px 0 12px;
  overflow-wrap: anywhere;
}
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 4px 12px;
  margin: 0 0 14px;
}
dt {
  color: var(--ink-5);
  font-size: 12px;
  line-height: 20px;
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>
