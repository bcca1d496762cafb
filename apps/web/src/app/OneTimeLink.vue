<script setup lang="ts">
/** A link that is shown once, for somebody to be sent. */
import { useNotices } from '../stores/notices.ts';

const props = defineProps<{ link: string }>();
const notices = useNotices();

async function copy(): Promise<void> {
  try {
    await navigator.clipboard.writeText(props.link);
    notices.done('The link is copied');
  } catch (error) {
    notices.problem(error);
  }
}
</script>

<template>
  <div>
    <p class="address link">{{ link }}</p>
    <p class="quiet">
      It is shown only now; send it to the person.
      <button class="text-link" type="button" @click="copy">Copy it</button>
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
