<script setup lang="ts">
/** The certificate as it is served, read from the wire. */
import { computed } from 'vue';
import { formatWhen } from '../../logic/format.ts';
import { useAddress } from './address.ts';
import { explainKept } from '../../words/index.ts';
import { say } from './words.ts';

const { standing, nowMs } = useAddress();
const certificate = computed(() => standing.value?.certificate);
const day = (instant: string | null) =>
  instant === null
    ? ''
    : new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' }).format(new Date(instant));
const lifeUsed = computed(() => {
  const { notBefore, notAfter } = certificate.value ?? {};
  if (!notBefore || !notAfter) return 0;
  const whole = Date.parse(notAfter) - Date.parse(notBefore);
  return Math.min(1, Math.max(0, (nowMs.value - Date.parse(notBefore)) / whole));
});
</script>

<template>
  <template v-if="certificate?.notAfter">
    <dl>
      <dt>{{ say('certificatePanel.covers') }}</dt>
      <dd class="address">{{ certificate.names.join(', ') }}</dd>
      <dt>{{ say('certificatePanel.issuedBy') }}</dt>
      <dd>{{ certificate.issuer }}</dd>
      <dt>{{ say('certificatePanel.chain') }}</dt>
      <dd>{{ certificate.chain.join(' → ') }}</dd>
      <dt>{{ say('certificatePanel.valid') }}</dt>
      <dd>
        {{
          say('certificatePanel.toDaysLeft', {
            notBefore: day(certificate.notBefore),
            notAfter: day(certificate.notAfter),
            daysLeft: certificate.daysLeft,
          })
        }}
      </dd>
      <dt>{{ say('certificatePanel.renewed') }}</dt>
      <dd>{{ say('certificatePanel.byItselfFromOnWith', { renewAt: day(certificate.renewAt) }) }}</dd>
    </dl>
    <div
      class="life"
      role="img"
      :aria-label="say('certificatePanel.percentOfItsLifeIs', { lifeUsed: Math.round(lifeUsed * 100) })"
    >
      <span class="used" :style="{ width: `${lifeUsed * 100}%` }" /><span class="renew" />
    </div>
    <p class="quiet legend">
      <span>{{ day(certificate.notBefore) }}</span><span>{{
        say('certificatePanel.renewal', { renewAt: day(certificate.renewAt) })
      }}</span
      ><span>{{ day(certificate.notAfter) }}</span>
    </p>
  </template>
  <p v-if="certificate?.error" class="wrong problem">
    {{ explainKept(certificate.error) }}
    <template v-if="certificate.nextTry">{{
      say('certificatePanel.nextTry', { nextTry: formatWhen(certificate.nextTry, new Date(nowMs)) })
    }}</template>
  </p>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 96px 1fr;
  gap: 6px 16px;
  margin: 0;
  padding: 12px 20px;
}
dt {
  color: var(--ink-5);
}
dd {
  margin: 0;
}
.life {
  position: relative;
  height: 12px;
  margin: 4px 20px 0;
  background: var(--verdigris-tint);
}
.used {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--verdigris);
}
.renew {
  position: absolute;
  left: 66.7%;
  top: -4px;
  bottom: -4px;
  border-left: 2px solid var(--ink-9);
}
.legend {
  display: flex;
  justify-content: space-between;
  margin: 6px 20px 0;
}
.problem {
  padding: 10px 20px;
  margin: 0;
}
</style>
