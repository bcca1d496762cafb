<script setup lang="ts">
/** Programs elsewhere that are told what happens to the site, and whether each telling arrived. */
import { HOOK_EVENTS, tellingApi, type Hook, type HookEvent } from '@fastigium/contracts/api/telling';
import { computed, ref, shallowRef } from 'vue';
import { call } from '../../api/client.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import LabelledField from '../../components/LabelledField.vue';
import { when } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';
import { deliveryMark, deliveryWords, EVENT_WORDS } from './tellingWords.ts';

const site = useSite();
const session = useSession();
const notices = useNotices();
const world = useWorld();
const hooks = shallowRef<readonly Hook[]>([]);
const isAdding = ref(false);
const url = ref('');
const events = ref<HookEvent[]>([...HOOK_EVENTS]);
const secret = ref<{ url: string; text: string }>();
const now = computed(() => new Date(world.nowMs));

const read = async (id: string) => { hooks.value = session.mayEdit ? (await call(tellingApi.hooks, { params: { site: id } })).hooks : []; };
useReadAgain(read, [() => site.tick, () => site.watchTick]);

async function run(work: (id: string) => Promise<unknown>): Promise<void> {
  if (site.id === undefined) return;
  try {
    await work(site.id);
    await read(site.id);
  } catch (error) {
    notices.problem(error);
  }
}
const add = () => run(async (id) => {
  const made = await call(tellingApi.add, { params: { site: id }, body: { url: url.value.trim(), events: events.value } });
  secret.value = { url: made.hook.url, text: made.secret };
  [isAdding.value, url.value] = [false, ''];
});
const remove = (hook: string) => run((id) => call(tellingApi.remove, { params: { site: id, hook } }));
const tryNow = (hook: string) => run(async (id) => {
  await call(tellingApi.try, { params: { site: id, hook } });
  await new Promise((resolve) => { setTimeout(resolve, 2500); });
});
</script>

<template>
  <section v-if="session.mayEdit" aria-label="Tell others">
    <h2 class="heading">Tell others</h2>
    <p v-if="hooks.length === 0 && !isAdding" class="quiet">An address of another program can be told when a release is live, when something is found otherwise, or when the site is away.</p>
    <p v-if="secret" class="secret" role="status">The secret for <span class="address">{{ secret.url }}</span>, shown this once: <b class="address">{{ secret.text }}</b> <button class="text-link" type="button" @click="secret = undefined">I have it</button></p>
    <ul v-if="hooks.length > 0">
      <li v-for="hook in hooks" :key="hook.id">
        <KeystoneMark :mark="deliveryMark(hook.deliveries[0])" />
        <span class="what"><span class="address one-line" :title="hook.url">{{ hook.url }}</span><span class="quiet">{{ hook.events.length === HOOK_EVENTS.length ? 'everything' : hook.events.map((event) => EVENT_WORDS[event]).join(', ') }}</span>
          <details v-if="hook.deliveries[0]"><summary class="quiet">{{ deliveryWords(hook.deliveries[0], now) }}</summary><ol><li v-for="each in hook.deliveries" :key="each.id" class="quiet">{{ when(each.at, now) }}, {{ deliveryWords(each, now) }}</li></ol></details>
        </span>
        <span class="ways"><button class="text-link" type="button" @click="tryNow(hook.id)">Try it</button><button v-if="session.isOwner" class="text-link" type="button" :aria-label="`Remove ${hook.url}`" @click="remove(hook.id)">Remove</button></span>
      </li>
    </ul>
    <template v-if="session.isOwner">
      <button v-if="!isAdding" class="text-link" type="button" @click="isAdding = true">Add an address …</button>
      <form v-else @submit.prevent="add" @keydown.esc.stop="isAdding = false">
        <LabelledField v-model="url" label="Address that is told (webhook)" placeholder="https://" maxlength="2000" />
        <fieldset><legend class="quiet">Of what</legend><label v-for="event in HOOK_EVENTS" :key="event"><input v-model="events" type="checkbox" :value="event" /> {{ EVENT_WORDS[event] }}</label></fieldset>
        <div class="acts"><v-btn type="submit" height="36" :disabled="url.trim() === '' || events.length === 0">Add</v-btn><v-btn height="36" @click="isAdding = false">Leave it</v-btn></div>
      </form>
    </template>
  </section>
</template>

<style scoped>
p { margin: 2px 0 8px; }
ul { list-style: none; margin: 0 0 6px; padding: 0; }
ul > li { display: grid; grid-template-columns: auto 1fr auto; gap: 10px; align-items: baseline; padding: 7px 0; border-bottom: var(--line); font-size: 13px; }
ol { margin: 4px 0 0; padding-inline-start: 18px; }
.what { display: grid; min-width: 0; }
.ways { display: grid; justify-items: end; }
.secret { padding: 8px 12px; background: var(--ochre-tint); border: var(--line); border-radius: 3px; overflow-wrap: anywhere; }
form { display: grid; gap: 8px; margin-top: 8px; }
fieldset { border: 0; margin: 0; padding: 0; display: grid; gap: 2px; font-size: 13px; }
.acts { display: flex; gap: 8px; }
</style>
