<script setup lang="ts">
/** Those elsewhere who are told what happens to the site: programs, search indexes, accounts; and whether it arrived. */
import { HOOK_EVENTS, tellingApi, type Hook, type HookEvent, type HookKind } from '@fastigium/contracts/api/telling';
import { computed, ref, shallowRef } from 'vue';
import { call } from '../../api/client.ts';
import KeystoneMark from '../../components/KeystoneMark.vue';
import LabelledField from '../../components/LabelledField.vue';
import SegmentedChoice from '../../components/SegmentedChoice.vue';
import { formatWhen } from '../../logic/format.ts';
import { useNotices } from '../../stores/notices.ts';
import { useReadAgain } from '../../stores/readAgain.ts';
import { useSession } from '../../stores/session.ts';
import { useSite } from '../../stores/site.ts';
import { useWorld } from '../../stores/world.ts';
import { chooseDeliveryMark, sayDelivery, EVENT_WORDS, KIND_CHOICES, KIND_MEANING, sayTold } from './tellingWords.ts';
import { say } from './words.ts';
import RichWords from '../../words/RichWords.ts';

const site = useSite();
const session = useSession();
const notices = useNotices();
const world = useWorld();
const hooks = shallowRef<readonly Hook[]>([]);
const offered = shallowRef<{
  readonly index: string | null;
  readonly account: { readonly url: string } | null;
}>({ index: null, account: null });
const isAdding = ref(false);
const kind = ref<HookKind>('webhook');
const url = ref('');
const token = ref('');
const events = ref<HookEvent[]>([...HOOK_EVENTS]);
const secret = ref<{ url: string; text: string }>();
/** The account a message is written for, and its words. */
const writing = ref<string>();
const message = ref('');
const now = computed(() => new Date(world.nowMs));

const read = async (id: string) => {
  if (session.mayEdit)
    ({ hooks: hooks.value, offered: offered.value } = await call(tellingApi.hooks, { params: { site: id } }));
};
useReadAgain(read, ['draft', 'watch']);

async function run(work: (id: string) => Promise<unknown>): Promise<void> {
  if (site.id === undefined) return;
  try {
    await work(site.id);
    await read(site.id);
  } catch (error) {
    notices.problem(error);
  }
}
const canUseStandIn = computed(() =>
  kind.value === 'index' ? offered.value.index !== null : kind.value === 'account' && offered.value.account !== null,
);
function takeStandIn(): void {
  if (kind.value === 'index') url.value = offered.value.index ?? '';
  else url.value = offered.value.account?.url ?? '';
}
/** Fastigium has that one's token itself. */
const isOffered = computed(() => kind.value === 'account' && url.value.trim() === offered.value.account?.url);
const isWhole = computed(
  () =>
    url.value.trim() !== '' &&
    (kind.value !== 'webhook' || events.value.length > 0) &&
    (kind.value !== 'account' || isOffered.value || token.value.trim() !== ''),
);
const add = () =>
  run(async (id) => {
    const where = url.value.trim();
    const body =
      kind.value === 'webhook'
        ? { kind: 'webhook' as const, url: where, events: events.value }
        : kind.value === 'index'
          ? { kind: 'index' as const, url: where }
          : { kind: 'account' as const, url: where, ...(isOffered.value ? {} : { token: token.value.trim() }) };
    const made = await call(tellingApi.add, { params: { site: id }, body });
    if (made.secret !== null) secret.value = { url: made.hook.url, text: made.secret };
    [isAdding.value, url.value, token.value] = [false, '', ''];
    if (kind.value === 'index') await site.refresh();
  });
const remove = (hook: string) => run((id) => call(tellingApi.remove, { params: { site: id, hook } }));
/** As long as a telling takes to be on its way and back, so that what became of it shows. */
const MOMENT_MS = 2500;
const formatMoment = () =>
  new Promise((resolve) => {
    setTimeout(resolve, MOMENT_MS);
  });
const tryNow = (hook: string) =>
  run(async (id) => {
    await call(tellingApi.try, { params: { site: id, hook } });
    await formatMoment();
  });
const write = (hook: string) =>
  run(async (id) => {
    message.value = (await call(tellingApi.draft, { params: { site: id } })).text;
    writing.value = hook;
  });
const send = () =>
  run(async (id) => {
    if (writing.value === undefined) return;
    await call(tellingApi.send, { params: { site: id, hook: writing.value }, body: { text: message.value.trim() } });
    writing.value = undefined;
    await formatMoment();
  });
</script>

<template>
  <section v-if="session.mayEdit" :aria-label="say('tellOthers.tellOthers')">
    <h2 class="heading">{{ say('tellOthers.tellOthers') }}</h2>
    <p v-if="hooks.length === 0 && !isAdding" class="quiet">
      {{ say('tellOthers.aProgramCanBeTold') }}
    </p>
    <p v-if="secret" class="secret" role="status">
      <RichWords :words="say.parts('tellOthers.theSecretForShownThis', { url: secret.url, text: secret.text })"
        ><template #b="{ words }"
          ><b class="address">{{ words }}</b></template
        ><template #button="{ words }"
          ><button class="text-link" type="button" @click="secret = undefined">{{ words }}</button></template
        ></RichWords
      >
    </p>
    <ul v-if="hooks.length > 0">
      <li v-for="hook in hooks" :key="hook.id">
        <KeystoneMark :mark="chooseDeliveryMark(hook.deliveries[0])" />
        <span class="what"
          ><span class="address one-line" :title="hook.url">{{ hook.url }}</span
          ><span class="quiet">{{ sayTold(hook, HOOK_EVENTS.length) }}</span>
          <details v-if="hook.deliveries[0]">
            <summary class="quiet">{{ sayDelivery(hook.deliveries[0], now) }}</summary>
            <ol>
              <li v-for="each in hook.deliveries" :key="each.id" class="quiet">
                {{ formatWhen(each.at, now) }}, {{ sayDelivery(each, now) }}
              </li>
            </ol>
          </details>
        </span>
        <span class="ways">
          <button v-if="hook.kind === 'webhook'" class="text-link" type="button" @click="tryNow(hook.id)">
            {{ say('tellOthers.tryIt') }}
          </button>
          <button
            v-else-if="hook.kind === 'account' && site.overview?.live"
            class="text-link"
            type="button"
            @click="write(hook.id)"
          >
            {{ say('tellOthers.writeAMessage') }}
          </button>
          <button
            v-if="session.isOwner"
            class="text-link"
            type="button"
            :aria-label="say('tellOthers.remove', { url: hook.url })"
            @click="remove(hook.id)"
          >
            {{ say('common.remove') }}
          </button>
        </span>
      </li>
    </ul>
    <form v-if="writing !== undefined" @submit.prevent="send" @keydown.esc.stop="writing = undefined">
      <label class="quiet" for="message">{{ say('tellOthers.messageDraftedFromWhatIs') }}</label>
      <textarea id="message" v-model="message" rows="4" maxlength="2000" />
      <div class="acts">
        <v-btn type="submit" height="36" variant="flat" color="primary" :disabled="message.trim() === ''">{{
          say('tellOthers.postIt')
        }}</v-btn><v-btn height="36" @click="writing = undefined">{{ say('common.leaveIt') }}</v-btn>
      </div>
    </form>
    <template v-if="session.isOwner">
      <button v-if="!isAdding" class="text-link" type="button" @click="isAdding = true">
        {{ say('tellOthers.addSomebody') }}
      </button>
      <form v-else @submit.prevent="add" @keydown.esc.stop="isAdding = false">
        <SegmentedChoice v-model="kind" :label="say('tellOthers.whoIsTold')" :options="KIND_CHOICES" />
        <p class="quiet">{{ KIND_MEANING[kind] }}</p>
        <LabelledField
          v-model="url"
          :label="
            kind === 'webhook'
              ? say('tellOthers.addressThatIsToldWebhook')
              : kind === 'index'
                ? say('tellOthers.addressItTakesSubmissionsAt')
                : say('tellOthers.addressItTakesPostsAt')
          "
          placeholder="https://"
          maxlength="2000"
        />
        <LabelledField
          v-if="kind === 'account' && !isOffered"
          v-model="token"
          :label="say('tellOthers.itsToken')"
          maxlength="2000"
          autocomplete="off"
        />
        <button v-if="canUseStandIn" class="text-link stand-in" type="button" @click="takeStandIn">
          {{ say('tellOthers.takeTheSimulatedOne') }}
        </button>
        <fieldset v-if="kind === 'webhook'">
          <legend class="quiet">{{ say('tellOthers.ofWhat') }}</legend>
          <label v-for="event in HOOK_EVENTS" :key="event"
            ><input v-model="events" type="checkbox" :value="event" /> {{ EVENT_WORDS[event] }}</label
          >
        </fieldset>
        <div class="acts">
          <v-btn type="submit" height="36" :disabled="!isWhole">{{ say('common.add') }}</v-btn><v-btn
            height="36"
            @click="isAdding = false"
            >{{ say('common.leaveIt') }}</v-btn
          >
        </div>
      </form>
    </template>
  </section>
</template>

<style scoped>
p {
  margin: 2px 0 8px;
}
ul {
  list-style: none;
  margin: 0 0 6px;
  padding: 0;
}
ul > li {
  display: grid;
  grid-template-columns: auto 1fr auto;
  gap: 10px;
  align-items: baseline;
  padding: 7px 0;
  border-bottom: var(--line);
  font-size: 13px;
}
ol {
  margin: 4px 0 0;
  padding-inline-start: 18px;
}
.what {
  display: grid;
  min-width: 0;
}
.ways {
  display: grid;
  justify-items: end;
}
.secret {
  padding: 8px 12px;
  background: var(--ochre-tint);
  border: var(--line);
  border-radius: 3px;
  overflow-wrap: anywhere;
}
form {
  display: grid;
  gap: 8px;
  margin-top: 8px;
}
form p {
  margin: 0;
}
form + .text-link {
  margin-top: 10px;
}
.stand-in {
  justify-self: start;
  min-height: 24px;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 2px;
  font-size: 13px;
}
.acts {
  display: flex;
  gap: 8px;
}
</style>
