<script setup lang="ts">
import { computed, inject, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import DerivationNode from '../../ledger/DerivationNode.vue'
import { amount, lineText, moment } from '../../shared/format'
import SeverityMark from '../../shared/SeverityMark.vue'
import AcceptFinding from './AcceptFinding.vue'
import AddedUp from './AddedUp.vue'
import Override from './Override.vue'
import Remarks from './Remarks.vue'
import Tied from './Tied.vue'
import type { ReturnStore, Spot } from '../../return/returnStore'

/** The form on which the rows of this page are added up, shown beside them; undefined for most pages. */
const props = defineProps<{ addedUpOn?: string }>()
const store = inject<ReturnStore>('return')!
const router = useRouter()
type Tab = 'added-up' | 'derivation' | 'last-year' | 'source' | 'remarks'
const tab = ref<Tab>('derivation')
watch(
  () => props.addedUpOn,
  (form) => (tab.value = form ? 'added-up' : 'derivation'),
  { immediate: true },
)
const derivation = ref<Schemas['Derivation'] | null>(null)
const history = ref<Schemas['LineAct'][]>([])
const tabs = computed<[Tab, string][]>(() => [
  ...(props.addedUpOn
    ? [['added-up', store.layout.forms.find((f) => f.key === props.addedUpOn)!.title] as [Tab, string]]
    : []),
  ['derivation', 'Derivation'],
  ['last-year', 'Last year'],
  ['source', 'Source'],
  ['remarks', 'Remarks'],
])

/** The line shown: it follows the line in focus once that has come to rest and its derivation is there. */
const spot = shallowRef<Spot | null>(null)
const line = computed(() => (spot.value ? store.lineOf(spot.value.line) : undefined))
const value = computed(() => (spot.value ? store.valueOf(spot.value.line, spot.value.row) : undefined))
const lastYear = computed(() => store.view.value.lastYear)
/** The row of last year that the row in focus goes on from; undefined when it is new, or there was no last year. */
const rowBefore = shallowRef<Schemas['RowLastYearView']>()
const findings = computed(() =>
  store.findings.value.filter(
    (f) => spot.value && f.lines.includes(spot.value.line) && (f.row == null || f.row === spot.value.row),
  ),
)
const origins: Record<string, string> = {
  typed: 'typed',
  authority: "taken from the authority's record",
  client: "follows the client's particulars",
  practice: "follows the practice's particulars",
  statement: 'taken from a statement',
  'last-year': 'taken over from the filed return',
  tied: 'tied to',
  imported: 'from a file',
  attached: 'counted from',
}
const tie = computed(() => (spot.value && !spot.value.row ? store.ties.value.get(spot.value.line) : undefined))
const remarks = computed(() => (spot.value ? store.remarksOn(spot.value.line, spot.value.row).length : 0))

const REST_MS = 100
let timer: number | undefined
watch(
  [() => store.focus.value, () => store.revision.value, tab],
  () => {
    window.clearTimeout(timer)
    timer = window.setTimeout(load, REST_MS)
  },
  { immediate: true },
)

async function load() {
  const at = store.focus.value
  if (!at) return
  const params = { path: { id: store.id, line: at.line }, query: at.row ? { row: at.row } : {} }
  try {
    const [found, acts, before] = await Promise.all([
      call(api.GET('/api/returns/{id}/lines/{line}/derivation', { params })),
      tab.value === 'source'
        ? call(api.GET('/api/returns/{id}/lines/{line}/history', { params }))
        : Promise.resolve([]),
      tab.value === 'last-year' && at.row && lastYear.value ? rowLastYear(at) : undefined,
    ])
    if (store.focus.value === at)
      [spot.value, derivation.value, history.value, rowBefore.value] = [at, found, acts, before]
  } catch {
    if (store.focus.value === at) [spot.value, derivation.value] = [at, null]
  }
}

async function rowLastYear(at: Spot) {
  const section = store.sectionOf(at.line)!.table!.key
  const [found] = await call(
    api.GET('/api/returns/{id}/last-year/{section}', {
      params: { path: { id: store.id, section }, query: { row: at.row! } },
    }),
  )
  return found && !found.isNew ? found : undefined
}

function follow(key: string, row: string | null) {
  void router.push(store.placeOfLine(key, row))
}
const shown = (text: string | null | undefined) => lineText(line.value, text) || 'blank'
</script>

<template>
  <aside class="margin scroll pane" aria-label="Margin">
    <div class="tabs" role="tablist" aria-label="About this line">
      <button
        v-for="[key, label] in tabs"
        :key="key"
        role="tab"
        :aria-selected="tab === key"
        :class="{ at: tab === key }"
        @click="tab = key"
      >
        {{ key === 'remarks' && remarks ? `${label} ${remarks}` : label }}
      </button>
    </div>
    <AddedUp v-if="tab === 'added-up'" :form="addedUpOn!" />
    <p v-else-if="!line" class="secondary empty">Put the cursor in a line to see how it came about.</p>
    <template v-else>
      <h3>{{ line.label }}</h3>
      <p class="secondary about">
        line {{ line.number }}<template v-if="derivation?.law">, {{ derivation.law }}</template>
      </p>

      <p v-for="room in derivation?.limits ?? []" :key="room.line" class="limit small" data-limit>
        <template v-if="room.cut !== '0'"
          >{{ amount(room.cut) }} is beyond the limit of {{ amount(room.limit) }} and does not count ({{
            room.label
          }}).</template
        >
        <template v-else
          >{{ amount(room.left) || '0' }} left before {{ room.label }} reaches its limit of
          {{ amount(room.limit) }}.</template
        >
      </p>
      <!-- What is acted on stands above what is read: a derivation gets longer or shorter with every figure. -->
      <Override v-if="line.override && tab === 'derivation'" :line="line" />
      <div v-for="finding in findings" :key="finding.id + finding.row" class="finding" :class="finding.severity">
        <p><SeverityMark :severity="finding.severity" word /> {{ finding.message }}</p>
        <p v-if="finding.acceptance" class="small secondary">
          Accepted by {{ finding.acceptance.person }}: {{ finding.acceptance.reason }}
        </p>
        <AcceptFinding v-else-if="finding.severity === 'warning'" :finding="finding" />
      </div>

      <div v-if="tab === 'derivation'">
        <template v-if="derivation?.root">
          <DerivationNode :node="derivation.root" @follow="follow" />
          <div class="result">
            <strong>{{ line.label }}</strong><strong class="amount">{{ shown(value?.value) }}</strong>
          </div>
        </template>
        <template v-else-if="!line.computed">
          <Tied v-if="tie" :tie="tie" :line="line" />
          <p v-if="value?.value && store.sectionOf(line.key)?.table?.grid" class="entered">{{ shown(value.value) }}</p>
          <p v-if="line.countsAttachments" class="entered">Counted from the documents attached to the return.</p>
          <p v-else-if="!tie?.sources.length" class="entered">
            Entered<template v-if="line.from">, from: {{ line.from }}</template
            >.
          </p>
        </template>
        <div v-for="user in derivation?.goesTo ?? []" :key="user.line!" class="goes">
          <span class="secondary">goes to</span>
          <button class="link" @click="follow(user.line!, user.row ?? null)">{{ user.number }} {{ user.words }}</button>
        </div>
      </div>
      <div v-else-if="tab === 'last-year'">
        <table v-if="lastYear && (!spot?.row || rowBefore)" class="plain">
          <tbody>
            <tr>
              <td>{{ lastYear.year }}</td>
              <td class="amount">{{ shown((rowBefore?.before ?? lastYear.values)[line.key]) }}</td>
            </tr>
            <tr>
              <td>{{ store.view.value.year }}</td>
              <td class="amount">{{ shown(value?.value) }}</td>
            </tr>
          </tbody>
        </table>
        <p v-else class="secondary">
          {{ lastYear ? 'There was no such row last year.' : 'There is no return for last year.' }}
        </p>
      </div>
      <Remarks v-else-if="tab === 'remarks'" :spot="spot!" />
      <div v-else>
        <p v-if="line.from">Copied from: {{ line.from }}.</p>
        <p v-if="value?.origin">
          {{ origins[value.origin] ?? value.origin }}<template v-if="value.source">, {{ value.source }}</template
          ><template v-if="value.expression">: {{ value.expression }}</template>
        </p>
        <p v-if="line.computed" class="secondary">Computed; see Derivation.</p>
        <div v-for="act in history" :key="act.at" class="act small">
          <span class="secondary">{{ moment(act.at) }}, {{ act.person }}</span>
          <span>{{ shown(act.before) }} became {{ shown(act.after) }}</span>
        </div>
      </div>
    </template>
  </aside>
</template>

<style scoped>
.margin {
  border-left: 1px solid var(--hairline);
  padding: 8px 18px 30px;
}
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  white-space: nowrap;
  border-bottom: 1px solid var(--hairline);
  margin-bottom: 12px;
}
.tabs button {
  border: 0;
  background: none;
  font: inherit;
  font-size: 13px;
  padding: 7px 0;
  color: var(--secondary);
  border-bottom: 2px solid transparent;
  cursor: pointer;
}
.tabs .at {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--verdigris);
}
.about {
  margin: 2px 0 10px;
  line-height: 1.35;
}
.empty {
  margin-top: 4px;
}
.entered {
  margin: 0 0 8px;
}
.result {
  display: grid;
  grid-template-columns: minmax(0, 1fr) fit-content(45%);
  gap: 10px;
  border-top: 1px solid var(--ink);
  margin-top: 6px;
  padding-top: 4px;
}
.goes {
  display: flex;
  justify-content: space-between;
  gap: 10px;
  margin-top: 10px;
}
.goes .link {
  text-align: right;
}
.goes .secondary {
  white-space: nowrap;
}
.finding {
  margin-bottom: 14px;
  padding: 8px 10px;
  border-radius: 4px;
}
.finding p {
  margin: 0 0 4px;
}
.error {
  background: var(--brick-wash);
}
.warning {
  background: var(--ochre-wash);
}
.note {
  background: var(--slate-wash);
}
.act {
  display: grid;
  padding: 5px 0;
  border-bottom: 1px solid var(--hairline);
}
.limit {
  margin: 0 0 10px;
  color: var(--bronze);
}
</style>
