<script setup lang="ts">
/** What is being done to one's account; each asks for the password, so that an open screen is not enough. */
import { accountApi, type Factor } from '@fastigium/contracts/api/account';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { renderSVG } from 'uqr';
import { computed, ref, watch } from 'vue';
import { call } from '../api/client.ts';
import LabelledField from '../components/LabelledField.vue';
import { useNotices } from '../stores/notices.ts';
import { useAttempt } from './attempt.ts';
import { makePasskey } from './passkeys.ts';
import NewPasswordField from './NewPasswordField.vue';
import { say } from './words.ts';

const props = defineProps<{ doing: 'password' | 'code' | 'passkey' | 'recovery' | Factor }>();
const emit = defineEmits<{ done: []; changed: [] }>();
const notices = useNotices();
const { problem, busy, attempt } = useAttempt();
const password = ref('');
const next = ref('');
const name = ref('');
const code = ref('');
const begun = ref<AnswerOf<typeof accountApi.beginCodes>>();
/** Shown once. */
const recovery = ref<readonly string[]>();

const TITLES = {
  password: say('accountBench.aNewPassword'),
  code: say('accountBench.anAppThatMakesCodes'),
  passkey: say('accountBench.aPasskey'),
  recovery: say('accountBench.newRecoveryCodes'),
} as const;
const title = computed(() =>
  typeof props.doing === 'string' ? TITLES[props.doing] : say('accountBench.remove', { name: props.doing.name }),
);
const needsName = computed(() => props.doing === 'code' || props.doing === 'passkey');
const act = computed(() =>
  typeof props.doing === 'string'
    ? {
        password: say('accountBench.changeThePassword'),
        code: say('accountBench.goOn'),
        passkey: say('accountBench.makeThePasskey'),
        recovery: say('accountBench.makeNewOnes'),
      }[props.doing]
    : say('accountBench.removeIt'),
);

function clear(): void {
  for (const field of [password, next, name, code]) field.value = '';
  begun.value = undefined;
  recovery.value = undefined;
  problem.value = '';
}
watch(() => props.doing, clear);

function showEnded(words: string, codes: readonly string[] | null = null): void {
  notices.done(words);
  clear();
  if (codes === null) emit('done');
  else {
    recovery.value = codes;
    emit('changed');
  }
}

const go = () =>
  attempt(async () => {
    const body = { password: password.value };
    if (props.doing === 'password') {
      await call(accountApi.changePassword, { body: { ...body, next: next.value } });
      showEnded(say('accountBench.yourPasswordIsChangedEvery'));
    } else if (props.doing === 'code') {
      if (!begun.value) {
        begun.value = await call(accountApi.beginCodes, { body: { ...body, name: name.value } });
        return;
      }
      const { recoveryCodes } = await call(accountApi.proveCodes, {
        params: { factor: begun.value.factor },
        body: { code: code.value.replace(/\s/g, '') },
      });
      showEnded(say('accountBench.fromNowOnYouAre'), recoveryCodes);
    } else if (props.doing === 'passkey') {
      const { step, options } = await call(accountApi.beginPasskey, { body });
      const passkey = await makePasskey(options);
      const { recoveryCodes } = await call(accountApi.addPasskey, { body: { step, name: name.value, passkey } });
      showEnded(say('accountBench.fromNowOnYouAre2'), recoveryCodes);
    } else if (props.doing === 'recovery') {
      const { recoveryCodes } = await call(accountApi.newRecoveryCodes, { body });
      showEnded(say('accountBench.thoseOfBeforeOpenNothing'), recoveryCodes);
    } else {
      await call(accountApi.removeFactor, { params: { factor: props.doing.id }, body });
      showEnded(say('accountBench.itIsRemoved'));
    }
  });

async function copyCodes(): Promise<void> {
  try {
    await navigator.clipboard.writeText((recovery.value ?? []).join('\n'));
    notices.done(say('accountBench.theCodesAreCopied'));
  } catch (error) {
    notices.problem(error);
  }
}
</script>

<template>
  <template v-if="recovery">
    <h2 class="title-face">{{ say('accountBench.writeTheseDown') }}</h2>
    <p>
      {{ say('accountBench.eachOpensYourAccountOnce') }}
    </p>
    <ul class="codes address">
      <li v-for="each in recovery" :key="each">{{ each }}</li>
    </ul>
    <p>
      <button class="text-link" type="button" @click="copyCodes">{{ say('accountBench.copyThem') }}</button>
    </p>
    <v-btn variant="flat" color="primary" @click="$emit('done')">{{ say('accountBench.iHaveThem') }}</v-btn>
  </template>
  <form v-else @submit.prevent="go">
    <h2 class="title-face">{{ title }}</h2>
    <template v-if="begun">
      <p>{{ say('accountBench.takeThisIntoTheApp') }}</p>
      <!-- eslint-disable-next-line vue/no-v-html -- made here, of nothing but squares -->
      <div class="square" role="img" :aria-label="say('accountBench.theSecretAsAQr')" v-html="renderSVG(begun.uri)" />
      <p class="address secret">{{ begun.secret.replace(/(.{4})(?=.)/g, '$1 ') }}</p>
      <LabelledField
        v-model="code"
        :label="say('accountBench.codeTheAppShows')"
        autocomplete="one-time-code"
        inputmode="numeric"
      />
    </template>
    <template v-else>
      <p v-if="doing === 'passkey'" class="quiet">
        {{ say('accountBench.aKeyOnYourDevice') }}
      </p>
      <p v-else-if="doing === 'code'" class="quiet">
        {{ say('accountBench.anyAppThatMakesCodes') }}
      </p>
      <p v-else-if="doing === 'recovery'" class="quiet">{{ say('accountBench.thoseOfBeforeEndWith') }}</p>
      <LabelledField
        v-if="needsName"
        v-model="name"
        :label="say('accountBench.whatYouCallIt')"
        :placeholder="say('accountBench.telephone')"
      />
      <LabelledField
        v-model="password"
        :label="doing === 'password' ? say('accountBench.yourCurrentPassword') : say('accountBench.yourPassword')"
        type="password"
        autocomplete="current-password"
      />
      <NewPasswordField v-if="doing === 'password'" v-model="next" :label="say('accountBench.newPassword')" />
    </template>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-btn type="submit" variant="flat" color="primary" :loading="busy">{{
      begun ? say('accountBench.proveIt') : act
    }}</v-btn>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 12px;
  justify-items: start;
}
form > :deep(.field) {
  width: 100%;
}
p {
  margin: 8px 0;
}
form p {
  margin: 0;
}
.square {
  width: 200px;
  height: 200px;
  border: var(--line);
}
.secret {
  padding: 6px 10px;
  background: var(--stone-1);
  border: var(--line);
  border-radius: 3px;
}
.codes {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 6px 18px;
  list-style: none;
  margin: 0;
  padding: 10px 12px;
  background: var(--stone-1);
  border: var(--line);
  border-radius: 3px;
}
</style>
