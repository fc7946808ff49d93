<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { isNavigationFailure, NavigationFailureType, useRoute, useRouter } from 'vue-router'
import { Problem, Unreachable } from '../../api/client'
import { useSession } from '../../session'
import CountBadges from '../../shared/CountBadges.vue'
import { day, daysLeft, periodOf, timeOfDay } from '../../shared/format'
import KeptBar from '../../shared/KeptBar.vue'
import { isKept } from '../../shared/kept'
import TopBar from '../../bar/TopBar.vue'
import AfterStep from './AfterStep.vue'
import ApproveStep from './ApproveStep.vue'
import FillStep from './FillStep.vue'
import { findingSpot } from '../../return/findingWalk'
import { openReturn } from '../../return/openReturn'
import OutcomeStrip from './OutcomeStrip.vue'
import ProvideReturn from './ProvideReturn.vue'
import RemindMe from './RemindMe.vue'
import { ReturnStore } from '../../return/returnStore'
import ReviewStep from './ReviewStep.vue'
import SendStep from './SendStep.vue'

const route = useRoute()
const router = useRouter()
const session = useSession()
const store = shallowRef<ReturnStore | null>(null)
const failure = ref('')
const reminding = ref(false)
const all = ['scope', 'fill', 'review', 'approve', 'send', 'after'] as const
/** What goes to no authority, such as accounts, is done once it is approved. */
const steps = computed(() => (store.value?.view.value.authority ? all : all.slice(0, 4)))
const step = computed(() => (route.params.step as (typeof all)[number]) || 'fill')

async function open(id: number) {
  await store.value?.close()
  store.value = null
  failure.value = ''
  try {
    const opened = await ReturnStore.open(id, session.person!)
    // Somebody may have gone on to another meanwhile.
    if (id !== Number(route.params.id)) return void opened.close()
    store.value = opened
    openReturn.value = store.value
    document.title = `${store.value.view.value.clientName} ${periodOf(store.value.view.value)} - Aerarium`
  } catch (error) {
    failure.value =
      error instanceof Problem || error instanceof Unreachable
        ? error.message
        : 'The return cannot be shown; reload the page.'
  }
}
watch(() => Number(route.params.id), open, { immediate: true })

const filing = computed(() => store.value?.view.value.deadlines.find((d) => d.act === 'filing'))
const answered = computed(() => {
  const scope = store.value?.progress.value[0]
  return scope ? `${scope.answered} of ${scope.required}` : ''
})
const filled = computed(() => {
  const forms = store.value?.progress.value.slice(1) ?? []
  const sum = (pick: (f: (typeof forms)[number]) => number) => forms.reduce((total, f) => total + pick(f), 0)
  return `${sum((f) => f.answered)} of ${sum((f) => f.required)}`
})

/** The line to show after a jump. */
function goToLine() {
  const { line, row } = route.query
  if (store.value && typeof line === 'string') store.value.goTo({ line, row: typeof row === 'string' ? row : null })
}
watch([() => route.query.line, () => route.query.row, store], goToLine, { flush: 'post' })
/** A second jump to the same line, after the cursor went elsewhere, changes no address. */
const stopListening = router.afterEach((_to, _from, failure) => {
  if (isNavigationFailure(failure, NavigationFailureType.duplicated)) goToLine()
})

function nextFinding(by: 1 | -1) {
  const current = store.value
  const spot = current && findingSpot(current.findings.value, current.focus.value, by)
  if (spot) void router.push(current.placeOfLine(spot.line, spot.row))
}

function onKey(event: KeyboardEvent) {
  const current = store.value
  if (!current) return
  const key = event.key.toLowerCase()
  if (event.altKey && key === 'j') nextFinding(1)
  else if (event.altKey && key === 'k') nextFinding(-1)
  else if ((event.ctrlKey || event.metaKey) && key === 'z') {
    ;(document.activeElement as HTMLElement | null)?.blur()
    if (event.shiftKey) current.redo()
    else current.undo()
  } else return
  event.preventDefault()
}
onMounted(() => window.addEventListener('keydown', onKey))
onBeforeUnmount(() => {
  window.removeEventListener('keydown', onKey)
  stopListening()
  openReturn.value = null
  void store.value?.close()
})
</script>

<template>
  <div class="return-place">
    <TopBar>
      <nav v-if="store" class="crumbs" aria-label="Where you are">
        <router-link :to="`/clients/${store.view.value.clientId}`">{{ store.view.value.clientName }}</router-link>
        <span class="faint" aria-hidden="true">/</span>
        <strong>{{ store.view.value.title }} {{ periodOf(store.view.value) }}</strong>
        <span class="secondary">, {{ store.view.value.kind }}</span>
      </nav>
      <template #state>
        <span v-if="store" class="saved small" role="status" :data-waiting="store.queue.waiting.value">
          <span v-if="store.queue.offline.value" class="offline"
            >not connected; {{ store.queue.waiting.value }} kept here, sent when it is back</span
          >
          <template v-else-if="store.queue.savedAt.value">saved {{ timeOfDay(store.queue.savedAt.value) }}</template>
        </span>
        <span
          v-for="name in store?.others.value"
          :key="name"
          class="other small"
          :title="`${name} has this return open`"
        >
          {{ name }} is here
        </span>
      </template>
    </TopBar>

    <div v-if="failure" class="failure">
      <h1>Return</h1>
      <p>{{ failure }}</p>
      <router-link to="/desk">Back to the Desk</router-link>
    </div>
    <template v-else-if="store">
      <div class="steps">
        <nav aria-label="Steps of the return">
          <router-link
            v-for="name in steps"
            :key="name"
            :to="name === 'fill' ? `/returns/${store.id}/fill` : `/returns/${store.id}/${name}`"
            class="step"
            :class="{ at: step === name }"
            :aria-current="step === name ? 'step' : undefined"
          >
            {{ name }}
            <span v-if="name === 'scope'" class="small">{{ answered }}</span>
            <span v-if="name === 'fill'" class="small">{{ filled }}</span>
            <CountBadges v-if="name === 'review'" :errors="store.errors.value" :warnings="store.warnings.value" />
          </router-link>
        </nav>
        <span v-if="store.stage.value === 'approved'" class="sealed"
          >approved and frozen; any change withdraws the approval</span
        >
        <span v-else-if="store.stage.value === 'waiting'" class="sealed"
          >waiting for approval; any change takes it back</span
        >
        <span v-else-if="store.filed" class="sealed">{{ store.stage.value }}; kept as filed</span>
        <span v-else-if="store.locked" class="sealed">read only for you; preparers change it</span>
        <router-link
          v-if="store.view.value.beside"
          :to="`/returns/${store.view.value.beside.id}/fill`"
          class="remind-act"
          >{{ store.view.value.beside.authority }}: {{ store.view.value.beside.stage }}</router-link
        >
        <router-link
          v-if="store.view.value.inHousehold"
          :to="`/households/${store.view.value.clientId}/${store.view.value.year}`"
          class="remind-act"
          >Household</router-link
        >
        <button
          v-if="session.mayPrepare"
          class="link remind-act"
          :aria-expanded="reminding"
          @click="reminding = !reminding"
        >
          Remind
        </button>
        <span v-if="filing && !store.filed" class="due" :class="{ late: filing.daysLeft < 0 }">
          due {{ day(filing.day)
          }}<template v-if="filing.safeDay !== filing.day">, not a working day: by {{ day(filing.safeDay) }}</template
          >,
          <strong>{{ filing.daysLeft < 0 ? daysLeft(filing.daysLeft) : `in ${daysLeft(filing.daysLeft)}` }}</strong>
        </span>
      </div>
      <KeptBar v-if="isKept(store.id)" :id="store.id" class="kept-bar" />
      <ProvideReturn v-if="reminding" :key="`remind-${store.id}`" :store="store">
        <RemindMe class="reminders" @close="reminding = false" />
      </ProvideReturn>
      <div v-if="store.problem.value || store.undone.value" class="notice" role="alert">
        <span v-if="store.problem.value" class="banner bad">{{ store.problem.value }}</span>
        <span v-else class="banner"
          >{{ store.undone.value }} <button class="link" @click="store.undo()">Undo</button>
          <button class="link" @click="store.undone.value = ''">Dismiss</button></span
        >
      </div>
      <ProvideReturn :key="store.id" :store="store">
        <main class="work">
          <FillStep v-if="step === 'scope' || step === 'fill'" :scope="step === 'scope'" />
          <ReviewStep v-else-if="step === 'review'" />
          <ApproveStep v-else-if="step === 'approve'" />
          <SendStep v-else-if="step === 'send'" />
          <AfterStep v-else />
        </main>
        <OutcomeStrip />
      </ProvideReturn>
    </template>
  </div>
</template>

<style scoped>
.return-place {
  height: 100vh;
  display: grid;
  grid-template-rows: 48px auto auto auto auto minmax(0, 1fr) auto;
}
.return-place > .kept-bar {
  grid-row: 3;
}
.return-place > :deep(.reminders) {
  grid-row: 4;
}
.return-place > .notice {
  grid-row: 5;
}
.return-place > .work {
  grid-row: 6;
}
.return-place > :deep(.outcome) {
  grid-row: 7;
}
.crumbs {
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.crumbs a {
  color: var(--ink);
  font-weight: 400;
}
.crumbs .faint {
  margin: 0 6px;
}
.saved {
  color: var(--secondary);
  white-space: nowrap;
}
.offline {
  color: var(--brick);
  font-weight: 600;
}
.other {
  color: var(--bronze);
  white-space: nowrap;
}
.steps {
  display: flex;
  align-items: stretch;
  gap: 20px;
  height: 44px;
  padding: 0 18px;
  border-bottom: 1px solid var(--hairline);
}
.steps nav {
  display: flex;
  gap: 26px;
}
.step {
  display: inline-flex;
  align-items: center;
  gap: 7px;
  color: var(--secondary);
  font-weight: 400;
  border-bottom: 2px solid transparent;
  text-transform: capitalize;
}
.step .small {
  text-transform: none;
}
.step:hover {
  text-decoration: none;
  color: var(--ink);
}
.step.at {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--verdigris);
}
.sealed {
  align-self: center;
  color: var(--bronze);
  font-size: 12.5px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.remind-act {
  margin-left: auto;
  align-self: center;
}
.remind-act + .remind-act {
  margin-left: 0;
}
.remind-act + .due {
  margin-left: 0;
}
.due {
  margin-left: auto;
  align-self: center;
  white-space: nowrap;
}
.late {
  color: var(--brick);
}
.notice {
  padding: 8px 18px 0;
}
.notice .banner {
  display: inline-flex;
  gap: 14px;
}
.work {
  min-height: 0;
  display: grid;
}
.failure {
  padding: 30px;
}
@media print {
  .return-place {
    display: block;
    height: auto;
  }
}
</style>
