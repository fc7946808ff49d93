<script setup lang="ts">
import { mdiArrowDown, mdiArrowUp, mdiClose, mdiContentCopy } from '@mdi/js'
import { inject } from 'vue'
import type { ReturnStore, Section } from '../return/returnStore'

/** What can be done with a row, or with a page that repeats: move it among those shown with it, duplicate it, remove it. */
defineProps<{ section: Section; row: string; among: string[] }>()
const store = inject<ReturnStore>('return')!
</script>

<template>
  <span v-if="!store.locked" class="row-acts">
    <button
      type="button"
      title="Move up"
      aria-label="Move up"
      :disabled="among[0] === row"
      @click="store.moveRow(section, row, -1, among)"
    >
      <v-icon :icon="mdiArrowUp" size="15" />
    </button>
    <button
      type="button"
      title="Move down"
      aria-label="Move down"
      :disabled="among.at(-1) === row"
      @click="store.moveRow(section, row, 1, among)"
    >
      <v-icon :icon="mdiArrowDown" size="15" />
    </button>
    <button type="button" title="Duplicate (Alt+Y)" aria-label="Duplicate" @click="store.duplicateRow(section, row)">
      <v-icon :icon="mdiContentCopy" size="14" />
    </button>
    <button type="button" title="Remove; can be undone" aria-label="Remove" @click="store.removeRow(section, row)">
      <v-icon :icon="mdiClose" size="16" />
    </button>
  </span>
</template>

<style scoped>
.row-acts {
  display: inline-flex;
  gap: 2px;
}
button {
  width: 26px;
  height: 26px;
  border: 0;
  background: none;
  color: var(--secondary);
  cursor: pointer;
  border-radius: 3px;
}
button:hover:not(:disabled) {
  background: var(--verdigris-wash);
}
button:disabled {
  opacity: 0.35;
  cursor: default;
}
</style>
