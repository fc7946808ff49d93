<script setup lang="ts">
import { inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { day } from '../../shared/format'
import { vFocus } from '../../shared/focus'
import type { ReturnStore } from '../../return/returnStore'

/** Reminders about this return, for the Desk of whoever they are for. */
const store = inject<ReturnStore>('return')!
const emit = defineEmits<{ close: [] }>()
const reminders = ref<Schemas['ReminderView'][]>([])
const people = ref<Schemas['ColleagueView'][]>([])
const typed = ref({ words: '', onDay: '', personId: null as number | null })
const { busy, problem, act } = useAct()
const path = { id: store.id }
onMounted(() =>
  act(async () => {
    reminders.value = await call(api.GET('/api/returns/{id}/reminders', { params: { path } }))
    people.value = (await call(api.GET('/api/practice'))).people
  }),
)
const add = () =>
  act(async () => {
    reminders.value = await call(api.POST('/api/returns/{id}/reminders', { params: { path }, body: typed.value }))
    typed.value = { words: '', onDay: '', personId: null }
  })
const done = (reminder: number) =>
  act(async () => {
    reminders.value = await call(
      api.POST('/api/returns/{id}/reminders/{reminder}/done', { params: { path: { ...path, reminder } } }),
    )
  })
</script>

<template>
  <section class="remind among" aria-label="Reminders">
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <ul v-if="reminders.length">
      <li v-for="item in reminders" :key="item.id!">
        {{ day(item.day) }}: {{ item.words }}
        <button class="link small" :disabled="busy" @click="done(item.id!)">Done</button>
      </li>
    </ul>
    <form @submit.prevent="add">
      <input v-model="typed.words" v-focus placeholder="Remind of ..." maxlength="200" aria-label="Remind of" />
      <input v-model="typed.onDay" placeholder="day, such as 20/06/2026" aria-label="On the day" />
      <select v-model="typed.personId" aria-label="Whom">
        <option :value="null">myself</option>
        <option v-for="person in people" :key="person.id" :value="person.id">{{ person.name }}</option>
      </select>
      <v-btn type="submit" size="small" :disabled="busy || !typed.words.trim() || !typed.onDay.trim()">Remind</v-btn>
      <button type="button" class="link" @click="emit('close')">Close</button>
    </form>
  </section>
</template>

<style scoped>
.remind {
  padding: 8px 18px;
  border-bottom: 1px solid var(--hairline);
  background: var(--page);
}
form {
  display: flex;
  gap: 16px;
  align-items: baseline;
}
input:first-child {
  width: 320px;
}
ul {
  margin: 0 0 8px;
  padding-left: 18px;
}
</style>
