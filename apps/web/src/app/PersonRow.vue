<script setup lang="ts">
/** One line of people: initials, who, in which role. */
defineProps<{ initials: string; name: string; about: string; role: string; words: string; isOpen?: boolean }>();
</script>

<template>
  <div class="person" :class="{ open: isOpen }">
    <span class="initials" aria-hidden="true">{{ initials }}</span>
    <span class="two"
      ><span class="strong one-line">{{ name }}</span
      ><span class="quiet one-line">{{ about }}</span></span
    >
    <span class="two"
      ><span>{{ role }}</span
      ><span class="quiet">{{ words }}</span></span
    >
  </div>
</template>

<style scoped>
.person {
  display: grid;
  grid-template-columns: 34px minmax(0, 4fr) minmax(0, 5fr);
  gap: 14px;
  align-items: center;
  text-align: left;
}
.initials {
  width: 32px;
  height: 32px;
  display: grid;
  place-items: center;
  border: 1px solid var(--ink-7);
  border-radius: 3px;
  font-size: 12px;
  font-weight: 600;
}
.open .initials {
  border-style: dashed;
  color: var(--ink-5);
}
.two {
  display: grid;
}
@media (max-width: 799px) {
  .person {
    grid-template-columns: 34px 1fr;
  }
  .two:last-child {
    grid-column: 2;
  }
}
</style>
