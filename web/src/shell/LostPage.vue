<template>
  <div class="page">
    <h1>There is nothing at this address</h1>
    <p class="my-4">The page may have been moved, or the address mistyped.</p>
    <v-btn to="/jobs">To the jobs</v-btn>
  </div>
</template>
