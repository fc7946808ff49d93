<script setup lang="ts">
import { computed, inject, ref, watch } from 'vue'
import { api, call, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { plural } from '../shared/format'
import type { ReturnStore } from '../return/returnStore'

/** What a group of companies divides between them: one agreement, read from all their returns and written into all of them. */
const store = inject<ReturnStore>('return')!
const { busy, problem, act } = useAct()
const view = ref<Schemas['AgreementView'] | null>(null)
const parts = ref<Record<number, string>>({})
const changing = ref(false)

async function load() {
  view.value = (await call(api.GET('/api/returns/{id}/agreement', { params: { path: { id: store.id } } }))) ?? null
}
watch(
  () => store.revision.value,
  () => (changing.value ? undefined : act(load)),
  { immediate: true },
)
const mayChange = computed(
  () => !store.locked && !!view.value && view.value.members.some((m) => m.mayChange) && !view.value.outOfReach,
)
const sum = computed(() =>
  view.value!.members.reduce(
    (total, m) => total + (Number((changing.value && m.returnId ? parts.value[m.returnId] : m.part) || 0) || 0),
    Number(view.value!.ofOthers),
  ),
)
const shown = (value: number) => `${Math.round(value * 10000) / 10000}${view.value!.unit ?? ''}`

function change() {
  parts.value = Object.fromEntries(view.value!.members.flatMap((m) => (m.returnId ? [[m.returnId, m.part ?? '']] : [])))
  changing.value = true
}
const agree = () =>
  act(async () => {
    const given = Object.entries(parts.value).filter(([, part]) => part.trim() !== '')
    view.value =
      (await call(
        api.PUT('/api/returns/{id}/agreement', {
          params: { path: { id: store.id } },
          body: {
            parts: given.map(([id, part]) => ({ returnId: Number(id), part: part.trim() })),
            stamp: view.value!.stamp,
          },
        }),
      )) ?? null
    changing.value = false
  })
async function cancel() {
  changing.value = false
  await act(load)
}
</script>

<template>
  <section v-if="view" class="section" :aria-label="view.what">
    <div class="rule-head">
      <h2>{{ view.what }}</h2>
      <button v-if="mayChange && !changing" type="button" class="link" @click="change">Change for all companies</button>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <table class="plain">
      <thead>
        <tr>
          <th>Company</th>
          <th>Return</th>
          <th class="amount">Part</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="member in view.members" :key="member.client">
          <td>{{ member.client }}</td>
          <td class="secondary">
            <router-link v-if="member.returnId" :to="`/returns/${member.returnId}/fill/${view.form}`">{{
              member.stage
            }}</router-link>
            <template v-else>{{ member.stage }}</template>
          </td>
          <td class="amount">
            <input
              v-if="changing && member.returnId && member.mayChange"
              v-model="parts[member.returnId]"
              class="part"
              inputmode="decimal"
              :aria-label="`Part of ${member.client}`"
            />
            <template v-else>{{ member.part ? `${member.part}${view.unit ?? ''}` : 'not stated' }}</template>
          </td>
        </tr>
        <tr v-if="view.ofOthers !== '0'">
          <td colspan="2">Companies that are no clients</td>
          <td class="amount">{{ view.ofOthers }}{{ view.unit }}</td>
        </tr>
        <tr class="together">
          <td colspan="2">Together, at most {{ view.whole }}{{ view.unit }}</td>
          <td class="amount" :class="{ above: sum > Number(view.whole) }">{{ shown(sum) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="view.outOfReach" class="small secondary">
      {{ plural(view.outOfReach, 'company', 'companies') }} of the group cannot be seen by you; a manager can change the
      agreement.
    </p>
    <p v-if="changing" class="acts">
      <v-btn :disabled="busy || sum > Number(view.whole)" @click="agree"> Write into all returns </v-btn>
      <button type="button" class="link" @click="cancel">Cancel</button>
    </p>
  </section>
</template>

<style scoped>
.section {
  margin-top: 20px;
}
table {
  width: 100%;
}
.together td {
  font-weight: 600;
  border-top: 1px solid var(--ink);
}
.above {
  color: var(--brick);
}
.part {
  width: 76px;
  border: 0;
  border-bottom: 1px solid var(--faint);
  background: none;
  color: var(--ink);
  font: inherit;
  text-align: right;
}
.acts {
  display: flex;
  gap: 14px;
  margin-top: 10px;
}
</style>
