<script setup lang="ts">
import { computed, inject } from 'vue'
import { lineText } from '../shared/format'
import { placeKey, type Line, type ReturnStore } from '../return/returnStore'
import AttachmentsValue from './AttachmentsValue.vue'
import EntryField from './EntryField.vue'

/** The value of a line at a place: printed when computed, a field when entered, a word when it does not apply. */
const props = defineProps<{ line: Line; row: string | null }>()
const store = inject<ReturnStore>('return')!

const key = computed(() => placeKey(props.line.key, props.row))
const value = computed(() => store.values.get(key.value))
const shown = computed(() => lineText(props.line, value.value?.value))
</script>

<template>
  <span class="value">
    <span v-if="!value?.open && value?.kept" class="kept" :title="`Kept: ${value.kept}`"
      >does not apply, {{ value.kept }} kept</span
    >
    <template v-else-if="!value?.open" />
    <button
      v-else-if="line.computed"
      type="button"
      class="computed"
      :data-place="key"
      :aria-label="`${line.label}: ${shown || 'blank'}; explain`"
      @focus="store.focus.value = { line: line.key, row }"
      @click="store.focus.value = { line: line.key, row }"
    >
      {{ shown }}
    </button>
    <AttachmentsValue v-else-if="line.countsAttachments" :line="line" />
    <EntryField v-else :line="line" :row="row" />
  </span>
</template>

<style scoped>
.value {
  display: flex;
  justify-content: flex-end;
  min-width: 0;
}
.computed {
  width: 100%;
  min-height: 25px;
  padding: 0 8px;
  border: 0;
  background-color: transparent;
  font: inherit;
  color: var(--ink);
  text-align: right;
  cursor: pointer;
}
.computed:focus-visible {
  outline-offset: -2px;
}
.kept {
  font-size: 12px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
</style>
