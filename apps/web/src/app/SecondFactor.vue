<script setup lang="ts">
/** What is asked for after the password: a code, one that was written down, or a passkey. */
import { computed, onMounted, ref, useTemplateRef } from 'vue';
import LabelledField from '../components/LabelledField.vue';
import { useSession } from '../stores/session.ts';
import { usePasskey } from './passkeys.ts';
import { say } from './words.ts';

const props = defineProps<{ attempt: (work: () => Promise<unknown>) => Promise<void>; busy: boolean }>();
const session = useSession();
const code = ref('');
const field = useTemplateRef<{ focus(): void }>('field');
const second = computed(() => session.second);
const takesCodes = computed(() => Boolean(second.value?.hasCodes || second.value?.hasRecoveryCodes));
const label = computed(() =>
  second.value?.hasCodes ? say('secondFactor.codeOfYourAppOr') : say('secondFactor.oneOfTheCodesYou'),
);
onMounted(() => field.value?.focus());

const signInByPasskey = () =>
  props.attempt(async () => {
    const options = second.value?.passkey;
    if (options) await session.giveSecond({ passkey: await usePasskey(options) });
  });

defineExpose({ give: () => props.attempt(() => session.giveSecond({ code: code.value })) });
</script>

<template>
  <p>{{ say('secondFactor.yourPasswordWasRightNow') }}</p>
  <v-btn v-if="second?.passkey" variant="flat" color="primary" height="38" :loading="busy" @click="signInByPasskey">{{
    say('secondFactor.useYourPasskey')
  }}</v-btn>
  <template v-if="takesCodes">
    <p v-if="second?.passkey" class="quiet">{{ say('secondFactor.orByACode') }}</p>
    <LabelledField ref="field" v-model="code" :label="label" autocomplete="one-time-code" />
    <v-btn
      type="submit"
      :variant="second?.passkey ? 'outlined' : 'flat'"
      color="primary"
      height="38"
      :loading="busy"
      :disabled="code.trim().length < 6"
      >{{ say('common.signIn') }}</v-btn
    >
  </template>
  <button class="text-link" type="button" @click="session.backToPassword()">
    {{ say('secondFactor.backToThePassword') }}
  </button>
</template>
