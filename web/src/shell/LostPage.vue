<template>
  <div class="page">
    <h1>Page not found</h1>
    <p class="my-4">The page may have been moved, or the address mistyped.</p>
    <v-btn to="/jobs">Go to the jobs</v-btn>
  </div>
</template>
