<script setup lang="ts">
/** Patterns that would say what many single redirects say, each with what becomes of addresses nobody has seen. */
import { redirectsApi, type PatternProposal } from '@fastigium/contracts/api/redirects';
import { ref, shallowRef, watch } from 'vue';
import { call } from '../../api/client.ts';
import { useSite } from '../../stores/site.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const props = defineProps<{ /** Grows when rules changed. */ tick: number }>();
const site = useSite();
const proposals = shallowRef<PatternProposal[]>([]);
const busy = ref(false);

watch(
  [() => site.id, () => props.tick],
  async () => {
    if (site.id !== undefined) proposals.value = await call(redirectsApi.proposals, { params: { site: site.id } });
  },
  { immediate: true },
);

async function take({ text, status, target, replaces }: PatternProposal): Promise<void> {
  busy.value = true;
  await site.decide({
    kind: 'redirects',
    settle: [],
    remove: replaces,
    patterns: [{ text, status, target, ignoreCase: false, dropsQuery: false }],
  });
  busy.value = false;
}
</script>

<template>
  <template v-if="proposals.length > 0">
    <hr class="rule" />
    <h2 class="heading">
      {{ say('proposedPatterns.oneInPlaceOfMany') }}
      <span class="quiet">{{ say('proposedPatterns.noKnownAddressWouldLand') }}</span>
    </h2>
    <ul :aria-label="say('proposedPatterns.proposedPatterns')">
      <li v-for="proposal in proposals" :key="`${proposal.text} ${proposal.target}`">
        <span class="address one-line" :title="proposal.text">{{ proposal.text }}</span>
        <span class="quiet one-line"
          >→ <span class="address">{{ proposal.target ?? say('proposedPatterns.gone410') }}</span></span
        >
        <p class="small">
          <RichWords
            :words="
              say.parts('proposedPatterns.unknownOnesSuchAsWould', {
                at: proposal.unknown.address,
                noTo: proposal.unknown.to === null,
                isThere: proposal.unknown.isThere,
              })
            "
          />
        </p>
        <details class="small">
          <summary>{{ say('proposedPatterns.replacesRedirects', { replaces: proposal.replaces.length }) }}</summary>
          <p v-for="from in proposal.replaces.slice(0, 100)" :key="from" class="address one-line">{{ from }}</p>
        </details>
        <v-btn height="28" :loading="busy" @click="take(proposal)">{{ say('proposedPatterns.takeIt') }}</v-btn>
      </li>
    </ul>
  </template>
</template>

<style scoped>
ul {
  list-style: none;
  margin: 6px 0 0;
  padding: 0;
  border-top: var(--line);
}
li {
  display: grid;
  gap: 2px;
  justify-items: start;
  border-bottom: var(--line);
  padding: 8px 0;
}
li > * {
  max-width: 100%;
}
.small {
  font-size: 12px;
  margin: 2px 0;
}
summary {
  cursor: pointer;
}
</style>
