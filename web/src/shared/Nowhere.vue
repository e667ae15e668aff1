<template>
  <div class="nowhere">
    <h1>There is nothing at this address.</h1>
    <p>It may have been deleted. <RouterLink :to="{ name: 'recordings' }">Go to your recordings</RouterLink></p>
  </div>
</template>

<style scoped>
.nowhere { padding: 80px; text-align: center; }
</style>
