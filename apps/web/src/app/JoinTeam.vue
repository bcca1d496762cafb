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
import { explain } from '../words/index.ts';
import { say } from './words.ts';

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
      <p>
        {{
          say('joinTeam.invitesYouToAs', { by: invitation.by, team: invitation.team, role: asRole(invitation.role) })
        }}
      </p>
      <LabelledField v-model="name" :label="say('joinTeam.yourName')" autocomplete="name" />
      <LabelledField v-model="email" :label="say('joinTeam.eMail')" type="email" autocomplete="username" />
      <NewPasswordField v-model="password" :label="say('common.password')" />
    </template>
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-btn v-if="invitation" type="submit" variant="flat" color="primary" height="38" :loading="busy">{{
      say('joinTeam.join')
    }}</v-btn>
    <RouterLink v-else class="text-link" :to="{ name: 'sign-in' }">{{ say('joinTeam.toTheSignIn') }}</RouterLink>
  </EntranceDoor>
</template>
