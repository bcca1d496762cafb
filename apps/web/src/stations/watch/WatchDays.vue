<script setup lang="ts">
/** The visits of two weeks, and how far the access log is read. */
import { watchApi, type Watch } from '@fastigium/contracts/api/watch';
import { ref } from 'vue';
import { call } from '../../api/client.ts';
import { formatWhen } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import DaysChart from './DaysChart.vue';
import { sayDays } from './watchWords.ts';
import { say } from './words.ts';

defineProps<{ seen: Watch; now: Date }>();
const site = useSite();
const session = useSession();
const notices = useNotices();
const reading = ref(false);

async function readNow(): Promise<void> {
  if (site.id === undefined) return;
  reading.value = true;
  try {
    const { requests } = await call(watchApi.read, { params: { site: site.id } });
    notices.done(
      requests === 0 ? say('watchDays.nobodyHasComeSince') : say('watchDays.requestsByPeopleSince', { requests }),
    );
  } catch (error) {
    notices.problem(error);
  } finally {
    reading.value = false;
  }
}
</script>

<template>
  <div class="days">
    <p>
      <b>{{ sayDays(seen.days) }}</b><span class="quiet"
        >{{
          seen.problem
            ? ''
            : seen.readAt
              ? say('watchDays.accessLogRead', { readAt: formatWhen(seen.readAt, now) })
              : say('watchDays.accessLogNotReadYet')
        }}<button
          v-if="session.mayEdit && seen.state === 'reading'"
          class="text-link"
          type="button"
          :disabled="reading"
          @click="readNow"
        >
          {{ say('watchDays.readNow') }}
        </button></span
      >
    </p>
    <DaysChart :days="seen.days" />
  </div>
</template>

<style scoped>
.days {
  border-bottom: var(--line);
  padding-top: 10px;
}
.days .quiet {
  display: flex;
  gap: 12px;
  align-items: baseline;
}
.days p {
  display: flex;
  justify-content: space-between;
  gap: 16px;
  margin: 0;
  padding-inline: 20px;
}
</style>
