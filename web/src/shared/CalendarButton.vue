<script setup lang="ts">
import { mdiCalendarBlankOutline } from '@mdi/js'
import { computed, ref } from 'vue'
import { today } from './today'

/** Opens a calendar to pick a day from. */
const props = defineProps<{
  /** The day that is marked: year, month and day. */
  day: string
}>()
const emit = defineEmits<{ picked: [day: string] }>()
const open = ref(false)
const marked = computed(() => {
  const at = new Date(`${props.day}T12:00:00`)
  return Number.isNaN(at.getTime()) ? undefined : at
})
/** The month it opens on: of the day marked, or of today. */
const opens = computed(() => (marked.value || !today.value ? marked.value : new Date(`${today.value}T12:00:00`)))
const two = (part: number) => String(part).padStart(2, '0')
function pick(date: unknown) {
  if (!(date instanceof Date)) return
  emit('picked', `${date.getFullYear()}-${two(date.getMonth() + 1)}-${two(date.getDate())}`)
  open.value = false
}
</script>

<template>
  <button type="button" class="calendar" tabindex="-1" aria-label="Calendar" aria-haspopup="dialog">
    <v-icon :icon="mdiCalendarBlankOutline" size="17" />
    <v-menu v-model="open" activator="parent" :close-on-content-click="false">
      <v-date-picker
        v-if="open"
        hide-header
        show-adjacent-months
        :month="opens?.getMonth()"
        :year="opens?.getFullYear()"
        :model-value="marked"
        @update:model-value="pick"
      />
    </v-menu>
  </button>
</template>

<style scoped>
.calendar {
  border: 0;
  background: none;
  color: var(--secondary);
  cursor: pointer;
  padding: 2px 0 2px 4px;
}
</style>
