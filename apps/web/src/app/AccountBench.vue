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
  password: 'A new password',
  code: 'An app that makes codes',
  passkey: 'A passkey',
  recovery: 'New recovery codes',
} as const;
const title = computed(() => (typeof props.doing === 'string' ? TITLES[props.doing] : `Remove “${props.doing.name}”`));
const needsName = computed(() => props.doing === 'code' || props.doing === 'passkey');
const act = computed(() =>
  typeof props.doing === 'string'
    ? { password: 'Change the password', code: 'Go on', passkey: 'Make the passkey', recovery: 'Make new ones' }[
        props.doing
      ]
    : 'Remove it',
);

function clear(): void {
  for (const field of [password, next, name, code]) field.value = '';
  begun.value = undefined;
  recovery.value = undefined;
  problem.value = '';
}
watch(() => props.doing, clear);

function ended(words: string, codes: readonly string[] | null = null): void {
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
      ended('Your password is changed; every other session has ended');
    } else if (props.doing === 'code') {
      if (!begun.value) {
        begun.value = await call(accountApi.beginCodes, { body: { ...body, name: name.value } });
        return;
      }
      const { recoveryCodes } = await call(accountApi.proveCodes, {
        params: { factor: begun.value.factor },
        body: { code: code.value.replace(/\s/g, '') },
      });
      ended('From now on you are asked for a code, too', recoveryCodes);
    } else if (props.doing === 'passkey') {
      const { step, options } = await call(accountApi.beginPasskey, { body });
      const passkey = await makePasskey(options);
      const { recoveryCodes } = await call(accountApi.addPasskey, { body: { step, name: name.value, passkey } });
      ended('From now on you are asked for your passkey, too', recoveryCodes);
    } else if (props.doing === 'recovery') {
      const { recoveryCodes } = await call(accountApi.newRecoveryCodes, { body });
      ended('Those of before open nothing any more', recoveryCodes);
    } else {
      await call(accountApi.removeFactor, { params: { factor: props.doing.id }, body });
      ended('It is removed');
    }
  });

async function copyCodes(): Promise<void> {
  try {
    await navigator.clipboard.writeText((recovery.value ?? []).join('\n'));
    notices.done('The codes are copied');
  } catch (error) {
    notices.problem(error);
  }
}
</script>

<template>
  <template v-if="recovery">
    <h2 class="title-face">Write these down</h2>
    <p>
      Each opens your account once, after your password, when you have lost your telephone or key. They are shown only
      now; keep them on paper or where your passwords are.
    </p>
    <ul class="codes address">
      <li v-for="each in recovery" :key="each">{{ each }}</li>
    </ul>
    <p>
      <button class="text-link" type="button" @click="copyCodes">Copy them</button>
    </p>
    <v-btn variant="flat" color="primary" @click="$emit('done')">I have them</v-btn>
  </template>
  <form v-else @submit.prevent="go">
    <h2 class="title-face">{{ title }}</h2>
    <template v-if="begun">
      <p>Take this into the app, with its camera or by hand, and write the code it shows.</p>
      <!-- eslint-disable-next-line vue/no-v-html -- made here, of nothing but squares -->
      <div class="square" role="img" aria-label="The secret as a QR code" v-html="renderSVG(begun.uri)" />
      <p class="address secret">{{ begun.secret.replace(/(.{4})(?=.)/g, '$1 ') }}</p>
      <LabelledField v-model="code" label="Code the app shows" autocomplete="one-time-code" inputmode="numeric" />
    </template>
    <template v-else>
      <p v-if="doing === 'passkey'" class="quiet">
        A key on your device, a telephone or a stick of its own: nothing to write down, and it works at this address
        alone.
      </p>
      <p v-else-if="doing === 'code'" class="quiet">
        Any app that makes codes of six digits by the time (RFC 6238), on your telephone or in your password keeper.
      </p>
      <p v-else-if="doing === 'recovery'" class="quiet">Those of before end with it.</p>
      <LabelledField v-if="needsName" v-model="name" label="What you call it" placeholder="Telephone" />
      <LabelledField
        v-model="password"
        :label="doing === 'password' ? 'Your current password' : 'Your password'"
        type="password"
        autocomplete="current-password"
      />
      <NewPasswordField v-if="doing === 'password'" v-model="next" label="New password" />
    </template>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-btn type="submit" variant="flat" color="primary" :loading="busy">{{ begun ? 'Prove it' : act }}</v-btn>
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
