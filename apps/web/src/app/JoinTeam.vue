<script setup lang="ts">
/** Joining a team by the link somebody was sent. */
import { peopleApi } from '@fastigium/contracts/api/people';
import type { AnswerOf } from '@fastigium/contracts/endpoint';
import { onMounted, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call } from '../api/client.ts';
import LabelledField from '../components/LabelledField.vue';
import { useSession } from '../stores/session.ts';
import { useAttempt } from './attempt.ts';
import EntranceDoor from './EntranceDoor.vue';
import NewPasswordField from './NewPasswordField.vue';
import { asRole } from './roles.ts';
import { explain } from '../words.ts';

const props = defineProps<{ token: string }>();
const session = useSession();
const router = useRouter();
const invitation = ref<AnswerOf<typeof peopleApi.invited>>();
const name = ref('');
const email = ref('');
const password = ref('');
const { problem, busy, attempt } = useAttempt();

onMounted(async () => {
  try {
    invitation.value = await call(peopleApi.invited, { params: { token: props.token } });
  } catch (error) {
    problem.value = explain(error);
  }
});

const go = () =>
  attempt(async () => {
    await session.join(props.token, name.value, email.value, password.value);
    await router.push({ name: 'sites' });
  });
</script>

<template>
  <EntranceDoor @enter="go">
    <template v-if="invitation">
      <p>{{ invitation.by }} invites you to “{{ invitation.team }}” as {{ asRole(invitation.role) }}.</p>
      <LabelledField v-model="name" label="Your name" autocomplete="name" />
      <LabelledField v-model="email" label="E-mail" type="email" autocomplete="username" />
      <NewPasswordField v-model="password" label="Password" />
    </template>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-btn v-if="invitation" type="submit" variant="flat" color="primary" height="38" :loading="busy">Join</v-btn>
    <RouterLink v-else class="text-link" :to="{ name: 'sign-in' }">To the sign-in</RouterLink>
  </EntranceDoor>
</template>
