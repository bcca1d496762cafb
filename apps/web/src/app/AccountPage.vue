<script setup lang="ts">
/** One's own account: where one is signed in, by what, and a new password. */
import { accountApi, type Account, type Factor } from '@fastigium/contracts/api/account';
import { onMounted, ref } from 'vue';
import { call } from '../api/client.ts';
import { browserInWords } from '../logic/browser.ts';
import { count, when } from '../logic/format.ts';
import { useNotices } from '../stores/notices.ts';
import AccountBench from './AccountBench.vue';
import TwoSides from './TwoSides.vue';

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
    notices.done(session === undefined ? 'All other sessions have ended' : 'The session has ended');
    await read();
  } catch (error) {
    notices.problem(error);
  }
}

const used = ({ usedAt }: Factor) => (usedAt === null ? 'not used yet' : `last used ${when(usedAt, now)}`);
</script>

<template>
  <TwoSides>
    <h1 class="title-face">Your account</h1>
    <template v-if="account">
      <div class="row">
        <span class="two"
          ><span class="strong">{{ account.name }}</span
          ><span class="address quiet">{{ account.email }}</span></span
        >
      </div>
      <div class="row">
        <span class="two"
          ><span class="strong">Password</span
          ><span class="quiet">set {{ when(account.passwordChangedAt, now) }}</span></span
        >
        <button class="text-link" type="button" @click="doing = 'password'">Change it</button>
      </div>

      <h2 class="heading">Second factors</h2>
      <p v-if="account.factors.length === 0" class="quiet lead">
        Whoever learns your password is in. With a second factor they need something you hold, too.
      </p>
      <div v-for="factor in account.factors" :key="factor.id" class="row">
        <span class="two"
          ><span class="strong">{{ factor.name }}</span
          ><span class="quiet"
            >{{ factor.kind === 'code' ? 'codes from an app' : 'a passkey' }}, {{ used(factor) }}</span
          ></span
        >
        <button class="text-link" type="button" @click="doing = factor">Remove</button>
      </div>
      <div v-if="account.factors.length > 0" class="row">
        <span class="two"
          ><span class="strong">Recovery codes</span
          ><span class="quiet" :class="{ wrong: account.recoveryCodes < 3 }"
            >{{ count(account.recoveryCodes, 'code') }} left, each good once, for when you have lost the rest</span
          ></span
        >
        <button class="text-link" type="button" @click="doing = 'recovery'">Make new ones</button>
      </div>
      <div class="row adds">
        <button class="text-link" type="button" @click="doing = 'passkey'">Add a passkey</button>
        <button class="text-link" type="button" @click="doing = 'code'">Add an app that makes codes</button>
      </div>

      <h2 class="heading">Where you are signed in</h2>
      <div v-for="session in account.sessions" :key="session.id" class="row">
        <span class="two"
          ><span class="strong">{{ browserInWords(session.agent) }}</span
          ><span class="quiet"
            >from {{ session.address || 'an unknown address' }}, since {{ when(session.since, now)
            }}{{ session.isThis ? '' : `, seen ${when(session.seenAt, now)}` }}</span
          ></span
        >
        <span v-if="session.isThis" class="quiet">this one</span>
        <button v-else class="text-link" type="button" @click="end(session.id)">End it</button>
      </div>
      <div v-if="account.sessions.length > 1" class="row adds">
        <button class="text-link" type="button" @click="end()">End all but this one</button>
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
