<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { day, daysLeft } from '../../shared/format'

/** Everything that is open for a client: unfiled, unpaid, questions of the authority and of colleagues. */
const props = defineProps<{ clientId: number }>()
const { problem, act } = useAct()
const matters = ref<Schemas['OpenMatter'][] | null>(null)
const path = { id: props.clientId }
onMounted(() =>
  act(async () => (matters.value = await call(api.GET('/api/clients/{id}/standing', { params: { path } })))),
)
const kinds = [
  ['unfiled', 'Not filed', 'Everything that was opened has been filed.'],
  ['unpaid', 'Not paid', 'Nothing is left to pay.'],
  ['question', 'Open questions', 'Nobody waits for an answer.'],
] as const
const groups = computed(() =>
  kinds.map(([kind, title, none]) => ({ title, none, items: matters.value?.filter((m) => m.kind === kind) ?? [] })),
)
</script>

<template>
  <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  <div v-if="matters" class="standing">
    <section v-for="group in groups" :key="group.title" :aria-label="group.title">
      <div class="rule-head">
        <h2>{{ group.title }}</h2>
      </div>
      <p v-if="!group.items.length" class="secondary">{{ group.none }}</p>
      <table v-else class="plain">
        <tbody>
          <tr v-for="matter in group.items" :key="matter.returnId + matter.words">
            <td>
              <router-link :to="`/returns/${matter.returnId}/${matter.step}`">{{ matter.title }}</router-link>
            </td>
            <td class="secondary">{{ matter.words }}</td>
            <td class="amount" :class="{ late: (matter.days ?? 0) < 0 }">
              <template v-if="matter.day">{{ day(matter.day) }}, {{ daysLeft(matter.days!) }}</template>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
  </div>
</template>

<style scoped>
.standing {
  max-width: 980px;
}
section {
  margin-top: 18px;
}
table {
  table-layout: fixed;
}
.late {
  color: var(--brick);
}
</style>
