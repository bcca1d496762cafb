<script setup lang="ts">
/** The session has ended while somebody was at work: they sign in over what is open, and what they did goes on. */
import { onMounted, ref, useTemplateRef } from 'vue';
import LabelledField from '../components/LabelledField.vue';
import { useSession } from '../stores/session.ts';
import { useAttempt } from './attempt.ts';
import SecondFactor from './SecondFactor.vue';
import { say } from './words.ts';

defineProps<{ email: string }>();
defineEmits<{ leave: [] }>();
const session = useSession();
const password = ref('');
const { problem, busy, attempt } = useAttempt();
const field = useTemplateRef<{ focus(): void }>('field');
onMounted(() => field.value?.focus());

const second = useTemplateRef<{ give(): Promise<void> }>('second');

const go = () => (session.second ? second.value?.give() : attempt(() => session.signInAgain(password.value)));
</script>

<template>
  <v-dialog model-value persistent max-width="420" aria-labelledby="sign-in-again">
    <v-sheet class="again">
      <form @submit.prevent="go">
        <h2 id="sign-in-again" class="title-face">{{ say('signInAgain.yourSessionHasEnded') }}</h2>
        <p>{{ say('signInAgain.signInAgainAndWhat') }}</p>
        <p class="address">{{ email }}</p>
        <SecondFactor v-if="session.second" ref="second" :attempt="attempt" :busy="busy" />
        <LabelledField
          v-else
          ref="field"
          v-model="password"
          :label="say('common.password')"
          type="password"
          autocomplete="current-password"
        />
        <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
        <div class="acts">
          <v-btn
            v-if="!session.second"
            type="submit"
            variant="flat"
            color="primary"
            :loading="busy"
            :disabled="password === ''"
            >{{ say('common.signIn') }}</v-btn
          >
          <button class="text-link" type="button" @click="$emit('leave')">{{ say('signInAgain.notNow') }}</button>
        </div>
      </form>
    </v-sheet>
  </v-dialog>
</template>

<style scoped>
.again {
  border: 1px solid var(--stone-3);
  border-radius: 3px;
  padding: 18px 22px;
}
form {
  display: grid;
  gap: 12px;
}
p {
  margin: 0;
}
.acts {
  display: flex;
  gap: 16px;
  align-items: center;
}
</style>
