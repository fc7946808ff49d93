<script setup lang="ts">
import { computed, inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { amount } from '../../shared/format'
import type { ReturnStore } from './returnStore'

const store = inject<ReturnStore>('return')!
const items = ref<Schemas['AuthorityItem'][] | null>(null)
const problem = ref('')
const chosen = ref<string[]>([])
const busy = ref(false)
const path = { id: store.id }
const states: Record<string, string> = {
  new: 'not on the return',
  taken: 'on the return',
  different: 'differs from the return',
}

async function load() {
  problem.value = ''
  try {
    items.value = await call(api.GET('/api/returns/{id}/authority-record', { params: { path } }))
  } catch (error) {
    problem.value = (error as Error).message
  }
}

async function take() {
  busy.value = true
  problem.value = ''
  try {
    store.takeResult(
      await call(
        api.POST('/api/returns/{id}/authority-record/take', { params: { path }, body: { numbers: chosen.value } }),
      ),
    )
    chosen.value = []
    await load()
  } catch (error) {
    problem.value = (error as Error).message
  }
  busy.value = false
}
const shown = (value: string | null | undefined) =>
  value && /^-?\d+(\.\d+)?$/.test(value) ? amount(value) : (value ?? '')
const canTake = computed(() => chosen.value.length > 0 && !busy.value)
onMounted(load)
</script>

<template>
  <section class="gather" aria-label="What the authority holds">
    <div class="rule-head">
      <h2>What the authority holds</h2>
      <span class="faint small">never complete; tick each item off against the paper</span>
    </div>
    <p v-if="problem" class="banner bad" role="alert">
      {{ problem }} <button class="link" @click="load">Try again</button>
    </p>
    <p v-else-if="!items" class="secondary">Asking the authority ...</p>
    <p v-else-if="!items.length" class="secondary">It holds nothing for this taxpayer and year.</p>
    <div v-for="item in items ?? []" :key="item.number" class="item">
      <label>
        <input
          v-model="chosen"
          type="checkbox"
          :value="item.number"
          :disabled="item.state === 'taken' || !!item.problem"
        />
        <strong>{{ item.title }}</strong>
        <span class="small" :class="item.state">{{ states[item.state] }}</span>
        <span class="faint small">{{ item.number }}</span>
      </label>
      <p v-if="item.problem" class="banner warn">{{ item.problem }}</p>
      <table v-else class="plain small">
        <tbody>
          <tr v-for="line in item.lines" :key="line.label">
            <td>{{ line.label }}</td>
            <td class="amount">{{ shown(line.value) }}</td>
            <td
              class="amount"
              :class="{ differs: item.state === 'different' && shown(line.onReturn) !== shown(line.value) }"
            >
              {{ item.state === 'new' ? '' : shown(line.onReturn) || 'blank' }}
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <v-btn v-if="items?.length" :disabled="!canTake" @click="take"
      >Take {{ chosen.length || '' }} onto the return</v-btn
    >
  </section>
</template>

<style scoped>
.gather {
  margin: 48px 30px 0;
  padding: 14px 18px 18px;
  max-width: 700px;
  border: 1px solid var(--hairline);
  border-radius: 4px;
  background: var(--paper);
}
.item {
  padding: 8px 0;
}
label {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.item table td {
  height: 24px;
}
.item table {
  margin: 4px 0 0 22px;
  width: calc(100% - 22px);
}
.new {
  color: var(--slate);
}
.taken {
  color: var(--verdigris);
}
.different,
.differs {
  color: var(--ochre);
  font-weight: 600;
}
</style>
