<script setup lang="ts">
import { inject } from 'vue'
import type { Schemas } from '../../api/client'
import type { ReturnStore } from '../../return/returnStore'

/** What the authority says against an e-return, each with the line it is about. */
defineProps<{ reasons: Schemas['RejectionReason'][] }>()
const store = inject<ReturnStore>('return')!
</script>

<template>
  <div v-for="reason in reasons" :key="reason.code + reason.message" class="banner bad fault">
    <strong>{{ reason.lineLabel ?? reason.code }}.</strong> {{ reason.message }}
    <router-link v-if="reason.line" :to="store.placeOfLine(reason.line, reason.row)">Go to the line</router-link>
  </div>
</template>

<style scoped>
.fault {
  margin-top: 8px;
}
</style>
