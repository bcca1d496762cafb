<script setup lang="ts">
/** One redirect of the live release: how much it is used, and retiring it. */
import type { RedirectRow } from '@fastigium/contracts/api/redirects';
import type { UsedRule } from '@fastigium/contracts/api/watch';
import { count, dayOf, figure, when } from '../../logic/format.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { inBackground } from '../../stores/background.ts';

const props = defineProps<{
  rule: UsedRule;
  /** As the draft has it; undefined for a pattern, or where it is gone from the draft. */ row: RedirectRow | undefined;
  since: string | null;
  now: Date;
}>();
const site = useSite();
const session = useSession();
const retire = () => inBackground(site.decide({ kind: 'redirect-removed', from: props.rule.from }));
</script>

<template>
  <h1 class="title-face">{{ rule.isPattern ? 'A pattern' : 'A redirect' }}</h1>
  <p class="address from">{{ rule.from }}</p>
  <dl>
    <dt>Leads to</dt>
    <dd class="address">
      {{ rule.to ?? 'gone for good' }} <span class="quiet">({{ rule.status }})</span>
    </dd>
    <dt>Used</dt>
    <dd>
      {{ rule.visits === 0 ? 'by nobody' : count(rule.visits, 'visit')
      }}{{ rule.addresses > 1 ? `, by ${figure(rule.addresses)} addresses` : ''
      }}<template v-if="rule.lastAt">, last {{ when(rule.lastAt, now) }}</template>
    </dd>
    <dt>Counted since</dt>
    <dd>{{ since ? dayOf(since) : 'not yet' }}</dd>
    <template v-if="row && row.visits !== null"
      ><dt>On the old site</dt>
      <dd>{{ count(row.visits, 'visit') }}</dd></template
    >
  </dl>
  <template v-if="rule.visits === 0">
    <p class="quiet">
      Search engines take a redirect to heart only after months, and links elsewhere live longer. One that costs nothing
      may stay.
    </p>
    <v-btn v-if="session.mayEdit && row?.origin === 'decided'" @click="retire">Retire it with the next release</v-btn>
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
