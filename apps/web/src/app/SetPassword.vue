<script setup lang="ts">
/** Setting a new password by the link somebody was sent. */
import { peopleApi } from '@fastigium/contracts/api/people';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { onMounted, ref } from 'vue';
import { call } from '../api/client.ts';
import { useAttempt } from './attempt.ts';
import EntranceDoor from './EntranceDoor.vue';
import NewPasswordField from './NewPasswordField.vue';
import { say } from './words.ts';
import RichWords from '../words/RichWords.ts';

const props = defineProps<{ token: string }>();
const whose = ref<AnswerOf<typeof peopleApi.reset>>();
const password = ref('');
const isSet = ref(false);
const { problem, busy, attempt } = useAttempt();

onMounted(() =>
  attempt(async () => {
    whose.value = await call(peopleApi.reset, { params: { token: props.token } });
  }),
);

const go = () =>
  attempt(async () => {
    await call(peopleApi.useReset, { params: { token: props.token }, body: { password: password.value } });
    isSet.value = true;
  });
</script>

<template>
  <EntranceDoor @enter="go">
    <p v-if="isSet">{{ say('setPassword.yourNewPasswordHoldsEvery') }}</p>
    <template v-else-if="whose">
      <p>
        <RichWords :words="say.parts('setPassword.setANewPasswordFor', { name: whose.name, email: whose.email })" />
      </p>
      <NewPasswordField v-model="password" :label="say('setPassword.newPassword')" />
    </template>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-btn v-if="whose && !isSet" type="submit" variant="flat" color="primary" height="38" :loading="busy">{{
      say('common.setIt')
    }}</v-btn>
    <RouterLink v-else class="text-link" :to="{ name: 'sign-in' }">{{ say('setPassword.toTheSignIn') }}</RouterLink>
  </EntranceDoor>
</template>
