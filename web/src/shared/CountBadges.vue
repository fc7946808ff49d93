<script setup lang="ts">
import { plural } from './format'

defineProps<{ errors: number; warnings: number }>()
</script>

<template>
  <span class="badges">
    <span v-if="errors" class="badge bad" :title="plural(errors, 'error')"
      ><span aria-hidden="true">{{ errors }}</span
      ><span class="sr-only">{{ plural(errors, 'error') }}</span></span
    >
    <span v-if="warnings" class="badge warn" :title="plural(warnings, 'warning')"
      ><span aria-hidden="true">{{ warnings }}</span
      ><span class="sr-only">{{ plural(warnings, 'warning') }}</span></span
    >
  </span>
</template>

<style scoped>
.badges {
  display: inline-flex;
  gap: 4px;
}
.badge {
  min-width: 18px;
  height: 18px;
  border-radius: 9px;
  padding: 0 5px;
  font-size: 11.5px;
  font-weight: 600;
  line-height: 18px;
  text-align: center;
}
.bad {
  background: var(--brick-wash);
  color: var(--brick);
}
.warn {
  background: var(--ochre-wash);
  color: var(--ochre);
}
</style>
