<script setup lang="ts">
/** Signing in; on a first start without the demo, creating the owner. */
import { computed, onMounted, ref, useTemplateRef } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import LabelledField from '../components/LabelledField.vue';
import { useAttempt } from './attempt.ts';
import EntranceDoor from './EntranceDoor.vue';
import { useSession } from '../stores/session.ts';

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
// At once: Vuetify's own autofocus comes a frame later and would take the cursor from whoever types already.
onMounted(() => first.value?.focus());

const go = () =>
  attempt(async () => {
    if (creating.value) await session.createOwner(name.value, email.value, password.value);
    else await session.signIn(email.value, password.value);
    const then =
      typeof route.query.then === 'string' && /^\/(?!\/)/.test(route.query.then) ? route.query.then : '/sites';
    await router.push(then);
  });

function fillDemo(): void {
  if (!demo.value) return;
  ({ email: email.value, password: password.value } = demo.value);
}
</script>

<template>
  <EntranceDoor @enter="go">
    <p class="quiet">
      {{ creating ? 'Nobody is here yet. Create the owner of this Fastigium.' : 'Take a finished site live.' }}
    </p>
    <LabelledField v-if="creating" ref="first" v-model="name" label="Your name" autocomplete="name" />
    <LabelledField
      :ref="creating ? 'email' : 'first'"
      v-model="email"
      label="E-mail"
      type="email"
      autocomplete="username"
    />
    <LabelledField
      v-model="password"
      label="Password"
      type="password"
      :autocomplete="creating ? 'new-password' : 'current-password'"
      :hint="creating ? 'At least 10 characters' : ''"
      :persistent-hint="creating"
    />
    <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <v-btn type="submit" variant="flat" color="primary" height="38" :loading="busy">{{
      creating ? 'Create the owner' : 'Sign in'
    }}</v-btn>
    <p v-if="demo && !creating" class="quiet">
      The demo is loaded: <span class="address">{{ demo.email }}</span>,
      <span class="address">{{ demo.password }}</span>.
      <button class="text-link" type="button" @click="fillDemo">Fill it in</button>
    </p>
  </EntranceDoor>
</template>
