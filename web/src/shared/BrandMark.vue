<template>
  <div class="mark">
    <img src="/mark.svg" alt="" width="30" height="30" />
    <h1>Aerarium</h1>
  </div>
</template>

<style scoped>
.mark {
  display: flex;
  gap: 10px;
  align-items: center;
}
h1 {
  font-size: 30px;
}
</style>
