<script setup lang="ts">
import { computed } from 'vue'
import CalendarButton from './CalendarButton.vue'
import { day } from './format'

/** A day: typed in figures or words, which the server reads, or picked from a calendar. */
defineProps<{ label: string; plain?: boolean }>()
const typed = defineModel<string>({ required: true })
const emit = defineEmits<{ picked: [] }>()
const marked = computed(() => {
  const at = new Date(`${typed.value} 12:00`)
  return /^\d{4}-/.test(typed.value) ? typed.value : Number.isNaN(at.getTime()) ? '' : at.toISOString().slice(0, 10)
})
function pick(iso: string) {
  typed.value = day(iso)
  emit('picked')
}
</script>

<template>
  <span class="date">
    <input v-if="plain" v-model="typed" type="text" autocomplete="off" :aria-label="label" @change="emit('picked')" />
    <v-text-field v-else v-model="typed" :label="label" hide-details autocomplete="off" />
    <CalendarButton :day="marked" @picked="pick" />
  </span>
</template>

<style scoped>
.date {
  display: inline-flex;
  align-items: center;
}
.date input {
  width: 100px;
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: var(--ink);
  font: inherit;
}
</style>
