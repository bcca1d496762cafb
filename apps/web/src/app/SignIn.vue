<script setup lang="ts">
/** Signing in; on a first start without the demo, creating the owner. */
import { peopleApi } from '@fastigium/contracts/api/people';
import { computed, onMounted, ref, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { call } from '../api/client.ts';
import LabelledField from '../components/LabelledField.vue';
import { useAttempt } from './attempt.ts';
import NewPasswordField from './NewPasswordField.vue';
import EntranceDoor from './EntranceDoor.vue';
import SecondFactor from './SecondFactor.vue';
import { useSession } from '../stores/session.ts';
import { runInBackground } from '../stores/background.ts';
import { say } from './words.ts';
import RichWords from '../words/RichWords.ts';

const session = useSession();
const router = useRouter();
const route = useRoute();
const creating = computed(() => session.session?.needsOwner ?? false);
const demo = computed(() => session.session?.demo ?? null);
const name = ref('');
const email = ref('');
const password = ref('');
const { problem, busy, attempt } = useAttempt();
const first = useTemplateRef<{ focus(): void }>('first');
const second = useTemplateRef<{ give(): Promise<void> }>('second');
const forgetting = ref(false);
const sent = ref(false);
// At once: Vuetify's own autofocus comes a frame later and would take the cursor from whoever types already.
onMounted(() => first.value?.focus());

const go = () => {
  if (session.second) return second.value?.give();
  if (forgetting.value) return forget();
  return attempt(async () => {
    if (creating.value) await session.createOwner(name.value, email.value, password.value);
    else await session.signIn(email.value, password.value);
  });
};
watch(
  () => session.person,
  (person) => {
    if (!person) return;
    const { then } = route.query;
    runInBackground(router.push(typeof then === 'string' && /^\/(?!\/)/.test(then) ? then : '/sites'));
  },
);

const forget = () =>
  attempt(async () => {
    await call(peopleApi.forgot, { body: { email: email.value } });
    sent.value = true;
  });

function fillDemo(): void {
  if (!demo.value) return;
  ({ email: email.value, password: password.value } = demo.value);
}
</script>

<template>
  <EntranceDoor @enter="go">
    <template v-if="session.second">
      <SecondFactor ref="second" :attempt="attempt" :busy="busy" />
      <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    </template>
    <template v-else-if="forgetting">
      <template v-if="sent">
        <p>
          <RichWords :words="say.parts('signIn.ifSomebodyWithTheAddress', { email })" />
        </p>
      </template>
      <template v-else>
        <p>{{ say('signIn.aLinkToSetA') }}</p>
        <LabelledField v-model="email" :label="say('signIn.eMail')" type="email" autocomplete="username" />
        <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
        <v-btn type="submit" variant="flat" color="primary" height="38" :loading="busy">{{
          say('signIn.sendTheLink')
        }}</v-btn>
      </template>
      <button class="text-link" type="button" @click="((forgetting = false), (sent = false), (problem = ''))">
        {{ say('signIn.backToThePassword') }}
      </button>
    </template>
    <template v-else>
      <p class="quiet">
        {{ creating ? say('signIn.nobodyIsHereYetCreate') : say('signIn.takeAFinishedSiteLive') }}
      </p>
      <LabelledField v-if="creating" ref="first" v-model="name" :label="say('signIn.yourName')" autocomplete="name" />
      <LabelledField
        :ref="creating ? 'mail' : 'first'"
        v-model="email"
        :label="say('signIn.eMail')"
        type="email"
        autocomplete="username"
      />
      <NewPasswordField v-if="creating" v-model="password" :label="say('common.password')" />
      <LabelledField
        v-else
        v-model="password"
        :label="say('common.password')"
        type="password"
        autocomplete="current-password"
      />
      <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
      <v-btn type="submit" variant="flat" color="primary" height="38" :loading="busy">{{
        creating ? say('signIn.createTheOwner') : say('common.signIn')
      }}</v-btn>
      <button
        v-if="session.session?.hasMail && !creating"
        class="text-link"
        type="button"
        @click="((forgetting = true), (problem = ''))"
      >
        {{ say('signIn.youHaveForgottenIt') }}
      </button>
      <p v-if="demo && !creating" class="quiet">
        {{ say('signIn.theDemoIsLoaded') }} <span class="address">{{ demo.email }}</span>,
        <span class="address">{{ demo.password }}</span>.
        <button class="text-link" type="button" @click="fillDemo">{{ say('signIn.fillItIn') }}</button>
      </p>
    </template>
  </EntranceDoor>
</template>
