<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { day } from '../../shared/format'
import { useAct } from '../../shared/act'

/** What to think of today: reminders people made, deadlines near, sendings unanswered. */
const reminders = ref<Schemas['ReminderView'][]>([])
const open = ref(true)
const { busy, act } = useAct()
const load = async () => (reminders.value = await call(api.GET('/api/desk/reminders')))
const done = (item: Schemas['ReminderView']) =>
  act(async () => {
    await call(
      api.POST('/api/returns/{id}/reminders/{reminder}/done', {
        params: { path: { id: item.returnId!, reminder: item.id! } },
      }),
    )
    await load()
  })
const look = () => void load().catch(() => undefined)
onMounted(() => {
  look()
  window.addEventListener('focus', look)
})
onBeforeUnmount(() => window.removeEventListener('focus', look))
</script>

<template>
  <details
    v-if="reminders.length"
    class="reminders small"
    :open="open"
    @toggle="open = ($event.target as HTMLDetailsElement).open"
  >
    <summary>
      <strong>Reminders</strong> <span class="secondary">{{ reminders.length }}</span>
    </summary>
    <ul aria-label="Reminders">
      <li v-for="(item, index) in reminders" :key="index">
        <span :class="item.late ? 'late' : 'secondary'">{{ day(item.day) }}</span>
        <router-link v-if="item.returnId" :to="`/returns/${item.returnId}`">{{ item.words }}</router-link>
        <span v-else>{{ item.words }}</span>
        <button v-if="item.id" class="link" :disabled="busy" @click="done(item)">Done</button>
      </li>
    </ul>
  </details>
</template>

<style scoped>
.reminders {
  padding: 5px 18px 6px;
  border-bottom: 1px solid var(--hairline);
}
ul {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 30px;
  max-height: 66px;
  overflow: auto;
  list-style: none;
  margin: 4px 0 0;
  padding: 0;
}
li {
  display: flex;
  gap: 10px;
  white-space: nowrap;
  overflow: hidden;
}
.late {
  color: var(--brick);
  font-weight: 600;
}
@media print {
  .reminders {
    display: none;
  }
}
</style>
