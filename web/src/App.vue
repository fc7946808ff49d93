<script setup lang="ts">
import KeyboardHelp from './bar/KeyboardHelp.vue'
</script>

<template>
  <v-app>
    <router-view />
    <KeyboardHelp />
  </v-app>
</template>
