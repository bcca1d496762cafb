<template>
  <svg width="30" height="20" viewBox="0 0 30 20" aria-hidden="true">
    <path d="M1 17.5 15 3.5l14 14M8.5 17.5 15 11l6.5 6.5M.5 18.3h29" />
    <circle cx="15" cy="2.4" r="1.5" />
  </svg>
</template>

<style scoped>
path {
  fill: none;
  stroke: var(--gilt);
  stroke-width: 1.7;
}
circle {
  fill: var(--gilt);
}
</style>
