/** The clock of the simulated world, where there is one. */
import { standInsApi, type StandInFaults } from '@fastigium/contracts/api/standIns';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { useNow } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, shallowRef } from 'vue';
import { call } from '../api/client.ts';
import { useNotices } from './notices.ts';

export const useWorld = defineStore('world', () => {
  const notices = useNotices();
  /** Null where the internet is a real one. */
  const clock = shallowRef<AnswerOf<typeof standInsApi.clock>>(null);
  const real = useNow({ interval: 1000 });
  const nowMs = computed(() => real.value.getTime() + (clock.value?.aheadMs ?? 0));
  const form = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
  const dayForm = new Intl.DateTimeFormat('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });

  async function read(): Promise<void> {
    // Signed out, or stand-ins away: then there is no clock to show.
    clock.value = await call(standInsApi.clock).catch(() => null);
  }
  async function runOn(byMs: number): Promise<void> {
    try {
      clock.value = await call(standInsApi.runOn, { body: { byMs } });
    } catch (error) {
      notices.problem(error);
    }
  }
  const now = computed(() => new Date(nowMs.value));
  return {
    clock,
    nowMs,
    /** The same as a date, for saying when something was. */ now,
    read,
    runOn,
    time: computed(() => ((clock.value?.aheadMs ?? 0) < 3_600_000 ? form : dayForm).format(new Date(nowMs.value))),
    faults: () => call(standInsApi.faults),
    setFaults: (faults: StandInFaults) => call(standInsApi.setFaults, { body: faults }),
  };
});
