<script setup lang="ts">
/** Setting a new password by the link somebody was sent. */
import { peopleApi } from '@fastigium/contracts/api/people';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { onMounted, ref } from 'vue';
import { call } from '../api/client.ts';
import { useAttempt } from './attempt.ts';
import EntranceDoor from './EntranceDoor.vue';
import NewPasswordField from './NewPasswordField.vue';

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
    <p v-if="isSet">Your new password holds. Every session of yours has ended; sign in with it.</p>
    <template v-else-if="whose">
      <p>
        {{ whose.name }}, set a new password for <span class="address">{{ whose.email }}</span>.
      </p>
      <NewPasswordField v-model="password" label="New password" />
    </template>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-btn v-if="whose && !isSet" type="submit" variant="flat" color="primary" height="38" :loading="busy"
      >Set it</v-btn
    >
    <RouterLink v-else class="text-link" :to="{ name: 'sign-in' }">To the sign-in</RouterLink>
  </EntranceDoor>
</template>
