<script setup lang="ts">
import { computed, inject, ref, watch } from 'vue'
import { api, call, type Schemas } from '../api/client'
import { useAct } from '../shared/act'
import { plural } from '../shared/format'
import type { ReturnStore, Section } from '../return/returnStore'

/** How far the rows are mapped, and what is proposed for those that go nowhere yet: as last year, or as other clients chose. */
const props = defineProps<{ section: Section }>()
const store = inject<ReturnStore>('return')!
const { problem, act } = useAct()
const view = ref<Schemas['MappingView'] | null>(null)
const open = ref(false)
const line = computed(() => props.section.lines.find((l) => l.key === props.section.table!.mapsTo)!)

const load = () =>
  act(async () => {
    view.value = await call(
      api.GET('/api/returns/{id}/lists/{section}/mapping', {
        params: { path: { id: store.id, section: props.section.table!.key } },
      }),
    )
  })
/** Proposals rest on other accounts: they are read when the page opens and when rows come or go, not at each edit. */
watch(() => store.rowsOf(props.section.table!.key).length, load, { immediate: true })

const toMap = computed(() => store.findings.value.filter((f) => f.id === `${line.value.key}:missing`).length)
const proposals = computed(() => view.value?.proposals.filter((p) => !store.said(line.value.key, p.row)) ?? [])
const of = (source: string) => proposals.value.filter((p) => p.source === source)
/** Takes what is proposed for some rows. */
function takeFor(rows: readonly string[]) {
  take(proposals.value.filter((p) => rows.includes(p.row)))
}
/** The row after one, round to the first again, that goes nowhere yet; undefined when all are mapped. */
function nextToMap(rows: readonly string[], after: number): number | undefined {
  const open = new Set(store.findings.value.filter((f) => f.id === `${line.value.key}:missing`).map((f) => f.row ?? ''))
  for (let step = 1; step < rows.length; step++) {
    const at = (after + step) % rows.length
    if (open.has(rows[at]!) && !store.said(line.value.key, rows[at]!)) return at
  }
  return undefined
}
defineExpose({ takeFor, nextToMap })
const take = (taken: Schemas['MappingProposal'][]) =>
  store.setMany(taken.map((p): [string, Schemas['LineLayout'], string] => [p.row, line.value, p.item]))
</script>

<template>
  <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  <div v-if="view" class="mapping" role="group" :aria-label="`Where each ${section.table!.rowLabel} goes`">
    <span v-if="toMap" class="open" role="status">{{ plural(toMap, section.table!.rowLabel) }} to map</span>
    <span v-else class="secondary" role="status">Every {{ section.table!.rowLabel }} with a balance is mapped.</span>
    <template v-if="!store.locked">
      <button v-if="of('last-year').length" type="button" class="link" @click="take(of('last-year'))">
        Map like last year ({{ of('last-year').length }})
      </button>
      <button v-if="of('others').length" type="button" class="link" @click="take(of('others'))">
        Map as for other clients ({{ of('others').length }})
      </button>
      <button v-if="proposals.length" type="button" class="link" :aria-expanded="open" @click="open = !open">
        See each
      </button>
    </template>
    <table v-if="open && proposals.length" class="plain">
      <thead>
        <tr>
          <th>{{ section.table!.rowLabel }}</th>
          <th>Would go to</th>
          <th>As</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="proposal in proposals" :key="proposal.row">
          <td>{{ proposal.name }}</td>
          <td>{{ proposal.label }}</td>
          <td class="secondary">
            {{ proposal.source === 'last-year' ? 'last year' : `for ${plural(proposal.times, 'other client')}` }}
          </td>
          <td><button type="button" class="link" @click="take([proposal])">Take</button></td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.mapping {
  display: flex;
  flex-wrap: wrap;
  align-items: baseline;
  gap: 4px 18px;
  margin: 6px 0;
}
.mapping table {
  flex-basis: 100%;
}
.open {
  color: var(--ochre);
  font-weight: 600;
}
th:first-child {
  text-transform: capitalize;
}
</style>
