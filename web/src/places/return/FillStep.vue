<script setup lang="ts">
import { computed, inject, onBeforeUnmount, onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import Page from '../../ledger/Page.vue'
import BoxesPanel from './BoxesPanel.vue'
import Contents from './Contents.vue'
import GatherPanel from './GatherPanel.vue'
import Margin from './Margin.vue'
import PaperBeside from './PaperBeside.vue'
import RegisteredCheck from './RegisteredCheck.vue'
import type { ReturnStore } from '../../return/returnStore'
import TakenOver from './TakenOver.vue'

const props = defineProps<{ scope: boolean }>()
const store = inject<ReturnStore>('return')!
const route = useRoute()
const ROOM_FOR_BOTH = 1500
/** Whether the Margin is shown; beside a grid it gives way where the window is narrow, until it is asked for. */
const margins = ref({
  page: localStorage.getItem('aerarium-margin') !== 'hidden',
  grid: window.innerWidth >= ROOM_FOR_BOTH,
  statements: true,
})
const gathering = ref(false)
const boxes = ref(false)

const form = computed(() => {
  const forms = store.layout.forms
  if (props.scope) return forms[0]!
  // Who comes from another return knows the line only.
  const wanted = forms.find((f) => f.key === (route.params.form || store.formOf(String(route.query.line))?.key))
  return wanted ? store.pageOf(wanted) : store.pages.find((f) => f.key !== forms[0]!.key)!
})
/** The form on which the rows of the page are added up: its figures stand in the Margin, beside what is mapped. */
const addedUpOn = computed(() => form.value.sections.map((s) => s.table?.addedUpOn).find((f) => f != null) ?? undefined)
const beside = computed<'page' | 'grid' | 'statements'>(() => {
  if (addedUpOn.value) return 'statements'
  return form.value.sections.some((s) => s.table?.grid && !s.table.ofPage) ? 'grid' : 'page'
})
/** A paper beside the page takes the Margin's room where the window has not enough for both. */
const ROOM_FOR_PAPER = 1700
const paper = ref(localStorage.getItem('aerarium-paper') === 'shown')
const margin = computed(
  () => margins.value[beside.value] && (!paper.value || window.innerWidth >= ROOM_FOR_PAPER || over.value),
)
/** Whether the Margin was asked for in place of the paper's room. */
const over = ref(false)
function turnPaper() {
  paper.value = !paper.value
  over.value = false
  localStorage.setItem('aerarium-paper', paper.value ? 'shown' : 'hidden')
}
const closed = computed(() => !store.isOpen(form.value) && !store.besideOf(form.value))
const unanswered = computed(() =>
  form.value.sections
    .flatMap((s) => s.lines)
    .filter(
      (l) => l.kind === 'answer' && l.mayBeRequired && store.valueOf(l.key, null)?.open && !store.said(l.key, null),
    ),
)
const gathers = computed(() => store.layout.gatherForms.includes(form.value.key))
const hasBoxes = computed(
  () =>
    !props.scope && form.value.sections.some((s) => store.openSections.value.has(s.key) && s.lines.some((l) => l.from)),
)
const usual = computed(() => {
  const yes = unanswered.value.filter((l) => l.usuallyYes).map((l) => l.label.replace(/\?$/, ''))
  return yes.length ? `${yes.join(', ')}: yes, everything else no` : 'no'
})
const next = computed(() => {
  const forms = store.pages
  return forms[forms.findIndex((f) => f.key === form.value.key) + 1]
})

function answerRest() {
  store.setMany(unanswered.value.map((line) => [null, line, line.usuallyYes ? 'yes' : 'no']))
}

function turnMargin() {
  const show = !margin.value
  over.value = show
  margins.value = { ...margins.value, [beside.value]: show }
  if (beside.value === 'page') localStorage.setItem('aerarium-margin', margin.value ? 'shown' : 'hidden')
}
function onKey(event: KeyboardEvent) {
  const key = event.altKey ? event.key.toLowerCase() : ''
  if (key !== 'm' && key !== 'p') return
  if (key === 'm') turnMargin()
  else turnPaper()
  event.preventDefault()
}
onMounted(() => window.addEventListener('keydown', onKey))
onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
</script>

<template>
  <div class="fill" :class="{ 'no-margin': !margin, 'with-paper': paper }">
    <Contents :current="form.key" />
    <div class="scroll pane middle">
      <div class="page-acts">
        <button v-if="!scope && !paper" class="link" title="Alt P" @click="turnPaper">Show a paper beside</button>
        <button v-if="!store.locked && scope && unanswered.length" class="link" @click="answerRest">
          Answer the other {{ unanswered.length }} the usual way: {{ usual }}
        </button>
        <button v-if="hasBoxes" class="link" :aria-expanded="boxes" @click="boxes = !boxes">
          {{ boxes ? 'Close the boxes' : 'Boxes of papers' }}
        </button>
        <button v-if="!store.locked && gathers" class="link" :aria-expanded="gathering" @click="gathering = !gathering">
          {{ gathering ? 'Close what was gathered' : 'Take from statements and the authority' }}
        </button>
      </div>
      <GatherPanel v-if="gathering && gathers" :key="form.key" :form="form.key" />
      <BoxesPanel v-if="boxes && hasBoxes" :form="form" />
      <RegisteredCheck v-if="scope" />
      <TakenOver v-if="scope" />
      <p v-if="closed" class="closed">
        {{ form.title }} does not apply. {{ form.when ?? form.sections[0]?.when }}
        <router-link :to="store.placeOf(store.layout.forms[0]!.key)">Go to Scope</router-link>
      </p>
      <Page v-else :key="form.key" :form="form" />
      <section v-if="scope && store.layout.notCovered.length" class="not-covered" aria-label="Not covered">
        <h2>Not covered by this return</h2>
        <ul>
          <li v-for="words in store.layout.notCovered" :key="words">{{ words }}</li>
        </ul>
      </section>
      <p v-if="next" class="next">
        <router-link :to="store.placeOf(next.key)">Next: {{ next.title }}</router-link>
      </p>
    </div>
    <PaperBeside v-if="paper" @close="turnPaper" />
    <Margin v-if="margin" :added-up-on="addedUpOn" />
    <button v-else type="button" class="strip" title="Show the Margin (Alt M)" @click="turnMargin">
      <span>Margin</span>
    </button>
  </div>
</template>

<style scoped>
.fill {
  display: grid;
  grid-template-columns: 216px minmax(0, 1fr) 304px;
  min-height: 0;
}
.fill.no-margin {
  grid-template-columns: 216px minmax(0, 1fr) 30px;
}
.fill.with-paper {
  grid-template-columns: 216px minmax(0, 1fr) minmax(0, 1fr) 304px;
}
.fill.with-paper.no-margin {
  grid-template-columns: 216px minmax(0, 1fr) minmax(0, 1fr) 30px;
}
.strip {
  border: 0;
  border-left: 1px solid var(--hairline);
  background: var(--paper);
  color: var(--secondary);
  font: inherit;
  cursor: pointer;
  padding-top: 22px;
  display: flex;
  align-items: flex-start;
  justify-content: center;
}
.strip span {
  writing-mode: vertical-rl;
}
.middle {
  background: var(--page);
  position: relative;
  container-type: inline-size;
}
.page-acts {
  position: absolute;
  top: 16px;
  right: 30px;
  display: flex;
  gap: 20px;
}
.next,
.closed {
  padding: 0 30px 40px;
  max-width: 760px;
}
.closed {
  padding-top: 30px;
}
.next {
  margin-top: -30px;
}
.not-covered {
  max-width: 760px;
  margin-top: -36px;
  padding: 0 30px 54px;
  color: var(--secondary);
}
.not-covered h2 {
  font-size: 14px;
}
.not-covered ul {
  margin: 4px 0 0;
  padding-left: 18px;
}
</style>
