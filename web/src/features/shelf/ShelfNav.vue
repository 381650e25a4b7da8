<script setup lang="ts">
/** The parts of the shelf. */
const parts = [
  { to: '/shelf', name: 'Products' },
  { to: '/shelf/media', name: 'Media and tools' },
  { to: '/shelf/systems', name: 'Systems' },
]
</script>

<template>
  <nav class="parts" aria-label="Shelf">
    <router-link v-for="p in parts" :key="p.to" :to="p.to" exact-active-class="here">{{
      p.name
    }}</router-link>
  </nav>
</template>

<style scoped>
.parts {
  display: flex;
  gap: 4px;
  margin-bottom: 14px;
  border-bottom: 1px solid var(--line);
}
.parts a {
  padding: 6px 14px;
  color: inherit;
  text-decoration: none;
  font-weight: 600;
  border-bottom: 4px solid transparent;
}
.parts a.here {
  border-bottom-color: var(--cure);
}
</style>
