<script setup lang="ts">
/** A link that is shown once, for somebody to be sent. */
import { useNotices } from '../stores/notices.ts';
import { say } from './words.ts';

const props = defineProps<{ link: string }>();
const notices = useNotices();

async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(props.link);
    notices.done(say('oneTimeLink.theLinkIsCopied'));
  } catch (error) {
    notices.problem(error);
  }
}
</script>

<template>
  <div>
    <p class="address link">{{ link }}</p>
    <p class="quiet">
      {{ say('oneTimeLink.itIsShownOnlyNow') }}
      <button class="text-link" type="button" @click="copy">{{ say('oneTimeLink.copyIt') }}</button>
    </p>
  </div>
</template>

<style scoped>
p {
  margin: 8px 0;
}
.link {
  overflow-wrap: anywhere;
  padding: 8px 10px;
  background: var(--stone-1);
  border: var(--line);
  border-radius: 3px;
}
</style>
