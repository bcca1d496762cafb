<script setup lang="ts">
/** One's own account: where one is signed in, by what, and a new password. */
import { accountApi, type Account, type Factor } from '@fastigium/contracts/api/account';
import { onMounted, ref } from 'vue';
import { call } from '../api/client.ts';
import { nameBrowser } from '../logic/browser.ts';
import { formatWhen } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import AccountBench from './AccountBench.vue';
import TwoSides from './TwoSides.vue';
import { say } from './words.ts';

const notices = useNotices();
const account = ref<Account>();
const doing = ref<'password' | 'code' | 'passkey' | 'recovery' | Factor>('password');
const now = new Date();

async function read(): Promise<void> {
  try {
    account.value = await call(accountApi.get);
  } catch (error) {
    notices.problem(error);
  }
}
onMounted(read);

async function end(session?: string): Promise<void> {
  try {
    if (session === undefined) await call(accountApi.endOthers);
    else await call(accountApi.endSession, { params: { session } });
    notices.done(
      session === undefined ? say('accountPage.allOtherSessionsHaveEnded') : say('accountPage.theSessionHasEnded'),
    );
    await read();
  } catch (error) {
    notices.problem(error);
  }
}

const sayUsed = ({ usedAt }: Factor) =>
  usedAt === null ? say('accountPage.notUsedYet') : say('accountPage.lastUsed', { usedAt: formatWhen(usedAt, now) });
</script>

<template>
  <TwoSides>
    <h1 class="title-face">{{ say('accountPage.yourAccount') }}</h1>
    <template v-if="account">
      <div class="row">
        <span class="two"
          ><span class="strong">{{ account.name }}</span
          ><span class="address quiet">{{ account.email }}</span></span
        >
      </div>
      <div class="row">
        <span class="two"
          ><span class="strong">{{ say('common.password') }}</span
          ><span class="quiet">{{
            say('accountPage.set', { passwordChangedAt: formatWhen(account.passwordChangedAt, now) })
          }}</span></span
        >
        <button class="text-link" type="button" @click="doing = 'password'">{{ say('accountPage.changeIt') }}</button>
      </div>

      <h2 class="heading">{{ say('accountPage.secondFactors') }}</h2>
      <p v-if="account.factors.length === 0" class="quiet lead">
        {{ say('accountPage.whoeverLearnsYourPasswordIs') }}
      </p>
      <div v-for="factor in account.factors" :key="factor.id" class="row">
        <span class="two"
          ><span class="strong">{{ factor.name }}</span
          ><span class="quiet">{{
            say('accountPage.aPasskey', { isCode: factor.kind === 'code', factor: sayUsed(factor) })
          }}</span></span
        >
        <button class="text-link" type="button" @click="doing = factor">{{ say('common.remove') }}</button>
      </div>
      <div v-if="account.factors.length > 0" class="row">
        <span class="two"
          ><span class="strong">{{ say('accountPage.recoveryCodes') }}</span
          ><span class="quiet" :class="{ wrong: account.recoveryCodes < 3 }">{{
            say('accountPage.codesLeftEachGoodOnce', { recoveryCodes: account.recoveryCodes })
          }}</span></span
        >
        <button class="text-link" type="button" @click="doing = 'recovery'">
          {{ say('accountPage.makeNewOnes') }}
        </button>
      </div>
      <div class="row adds">
        <button class="text-link" type="button" @click="doing = 'passkey'">{{ say('accountPage.addAPasskey') }}</button>
        <button class="text-link" type="button" @click="doing = 'code'">
          {{ say('accountPage.addAnAppThatMakes') }}
        </button>
      </div>

      <h2 class="heading">{{ say('accountPage.whereYouAreSignedIn') }}</h2>
      <div v-for="session in account.sessions" :key="session.id" class="row">
        <span class="two"
          ><span class="strong">{{ nameBrowser(session.agent) }}</span
          ><span class="quiet">{{
            say('accountPage.fromSinceSeen', {
              address: session.address || say('accountPage.anUnknownAddress'),
              since: formatWhen(session.since, now),
              isThis: session.isThis,
              seenAt: formatWhen(session.seenAt, now),
            })
          }}</span></span
        >
        <span v-if="session.isThis" class="quiet">{{ say('accountPage.thisOne') }}</span>
        <button v-else class="text-link" type="button" @click="end(session.id)">{{ say('accountPage.endIt') }}</button>
      </div>
      <div v-if="account.sessions.length > 1" class="row adds">
        <button class="text-link" type="button" @click="end()">{{ say('accountPage.endAllButThisOne') }}</button>
      </div>
    </template>
    <template #bench>
      <AccountBench :doing="doing" @done="(read(), (doing = 'password'))" @changed="read" />
    </template>
  </TwoSides>
</template>

<style scoped>
.row {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 14px;
  padding: 9px 28px;
  border-top: var(--line);
}
.two {
  display: grid;
  min-width: 0;
}
.adds {
  justify-content: flex-start;
  gap: 24px;
}
.lead {
  margin: 0 0 10px;
}
</style>
