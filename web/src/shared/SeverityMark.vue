<script setup lang="ts">
import { mdiAlertOctagon, mdiCircle, mdiTriangle } from '@mdi/js'
import { computed } from 'vue'

const props = defineProps<{ severity: 'error' | 'warning' | 'note'; word?: boolean }>()
const icon = computed(() => ({ error: mdiAlertOctagon, warning: mdiTriangle, note: mdiCircle })[props.severity])
</script>

<template>
  <span class="severity" :class="severity">
    <svg viewBox="0 0 24 24" aria-hidden="true"><path :d="icon" /></svg>
    <span :class="{ 'sr-only': !word }">{{ severity }}</span>
  </span>
</template>

<style scoped>
.severity {
  display: inline-flex;
  align-items: center;
  gap: 4px;
  font-weight: 600;
  font-size: 13px;
}
svg {
  width: 11px;
  height: 11px;
  fill: currentColor;
}
.error {
  color: var(--brick);
}
.warning {
  color: var(--ochre);
}
.note {
  color: var(--slate);
}
.note svg {
  width: 8px;
  height: 8px;
}
</style>
