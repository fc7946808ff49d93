<script setup lang="ts">
import { computed, inject, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { day, lineText } from '../../shared/format'
import type { ReturnStore } from '../../return/returnStore'

/** Things gathered that the return can take, each ticked off against the paper. */
const props = defineProps<{ items: Schemas['GatheredItem'][]; from: 'authority-record' | 'statements' }>()
const emit = defineEmits<{ changed: [] }>()
const store = inject<ReturnStore>('return')!
const { busy, problem, act } = useAct()
const chosen = ref<string[]>([])
const path = { id: store.id }
const states: Record<string, string> = {
  new: 'not on the return',
  taken: 'on the return',
  different: 'differs from the return',
}

const take = () =>
  act(async () => {
    const body = { numbers: chosen.value }
    store.takeResult(
      props.from === 'statements'
        ? await call(api.POST('/api/returns/{id}/statements/take', { params: { path }, body }))
        : await call(api.POST('/api/returns/{id}/authority-record/take', { params: { path }, body })),
    )
    chosen.value = []
    emit('changed')
  })
const tick = (item: Schemas['GatheredItem']) =>
  act(async () => {
    const params = { path: { ...path, item: item.number } }
    await call(
      item.tick
        ? api.DELETE('/api/returns/{id}/ticks/{item}', { params })
        : api.PUT('/api/returns/{id}/ticks/{item}', { params }),
    )
    emit('changed')
  })
const told = (line: Schemas['GatheredLine'], value: string | null) => lineText(store.lineOf(line.line), value)
const canTake = computed(() => chosen.value.length > 0 && !busy.value)
</script>

<template>
  <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  <div v-for="item in items" :key="item.number" class="item">
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
    <template v-else>
      <table class="plain small">
        <tbody>
          <tr v-for="line in item.lines" :key="line.line">
            <td>{{ line.label }}</td>
            <td class="amount">{{ told(line, line.value) }}</td>
            <td
              class="amount"
              :class="{ differs: item.state === 'different' && told(line, line.onReturn) !== told(line, line.value) }"
            >
              {{ item.state === 'new' ? '' : told(line, line.onReturn) || 'blank' }}
            </td>
          </tr>
        </tbody>
      </table>
      <label class="tick small">
        <input type="checkbox" :checked="!!item.tick" :disabled="busy" @change="tick(item)" />
        <template v-if="item.tick"
          >checked against the original by {{ item.tick.person }}, {{ day(item.tick.at) }}</template
        >
        <template v-else>checked against the original</template>
      </label>
    </template>
  </div>
  <v-btn v-if="items.length" :disabled="!canTake" @click="take">Take {{ chosen.length || '' }} onto the return</v-btn>
</template>

<style scoped>
.item {
  padding: 8px 0;
}
label {
  display: flex;
  gap: 8px;
  align-items: baseline;
}
.tick {
  margin: 4px 0 0 22px;
  color: var(--secondary);
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
