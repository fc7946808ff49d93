<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import TopBar from '../../bar/TopBar.vue'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, plural } from '../../shared/format'
import { seasonMonths, STAGES } from './seasonMonths'

/** The practice's season in charts: returns by stage, days from opening to filing, tax found by alternatives. */
const session = useSession()
const { problem, act } = useAct()
const season = ref<Schemas['SeasonView'] | null>(null)
onMounted(() => act(async () => (season.value = await call(api.GET('/api/desk/season')))))

const months = computed(() =>
  season.value
    ? seasonMonths(season.value.stages, season.value.from, season.value.to, session.view?.today ?? season.value.to)
    : [],
)
const legend = computed(() => STAGES.filter((stage) => season.value?.stages.some((s) => s.stage === stage.name)))
const spans = computed(() => {
  const all = season.value?.spans ?? []
  const most = Math.max(1, ...all.map((s) => s.returns))
  return all.map((s) => ({
    label: s.to == null ? `${s.from} days and more` : `${s.from} to ${s.to} days`,
    count: s.returns,
    width: (s.returns / most) * 100,
  }))
})
const filed = computed(() => spans.value.reduce((sum, s) => sum + s.count, 0))
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll season">
      <p class="small"><router-link to="/desk">Desk</router-link></p>
      <h1>Season</h1>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <p v-else-if="!season" class="secondary">Reading the returns …</p>
      <template v-if="season">
        <section aria-labelledby="by-stage">
          <h2 id="by-stage">Returns by stage</h2>
          <p class="secondary small">By the month in which they fall due.</p>
          <p v-if="legend.length" class="legend small">
            <span v-for="stage in legend" :key="stage.name"><i :class="stage.name"></i>{{ stage.label }}</span>
          </p>
          <p v-if="!months.length" class="secondary">No return falls due in these months.</p>
          <div v-for="month in months" :key="month.label" class="bar-line">
            <span>{{ month.label }}</span>
            <span
              class="track"
              role="img"
              :aria-label="month.parts.map((p) => `${p.count} ${p.label.toLowerCase()}`).join(', ') || 'none'"
            >
              <i
                v-for="part in month.parts"
                :key="part.name"
                :class="part.name"
                :style="{ width: `${part.width}%` }"
                :title="`${part.count} ${part.label.toLowerCase()}`"
                >{{ part.width > 4 ? part.count : '' }}</i
              >
            </span>
            <span class="amount"
              >{{ month.total || '' }}<span v-if="month.late" class="late small"> {{ month.late }} late</span></span
            >
          </div>
        </section>
        <section aria-labelledby="to-filing">
          <h2 id="to-filing">From opening to filing</h2>
          <p class="secondary small">
            <template v-if="filed"
              >{{ plural(filed, 'return') }} accepted; half of them were filed within
              {{ plural(season.medianDays ?? 0, 'day') }} of being opened.</template
            >
            <template v-else>No return was accepted yet.</template>
          </p>
          <template v-if="filed">
            <div v-for="span in spans" :key="span.label" class="bar-line">
              <span>{{ span.label }}</span>
              <span class="track" aria-hidden="true"
                ><i class="accepted" :style="{ width: `${span.width}%` }"></i
              ></span>
              <span class="amount">{{ span.count || '' }}</span>
            </div>
          </template>
        </section>
        <section aria-labelledby="found">
          <h2 id="found">Tax found by alternatives</h2>
          <p class="secondary small">
            {{ plural(season.looked, 'return') }} with something to choose{{ season.all ? '' : ', the latest' }}: by how
            much the choices made cost less than the dearest that was open, and what a cheaper one would still save.
            Other taxes a choice moves are counted.
          </p>
          <table v-if="season.found.length" class="plain">
            <thead>
              <tr>
                <th>Return</th>
                <th class="amount">Choices that matter</th>
                <th class="amount">Found</th>
                <th class="amount">A cheaper choice is open in</th>
                <th class="amount">It would save</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="item in season.found" :key="item.title">
                <td>{{ item.title }}</td>
                <td class="amount">{{ item.compared }}</td>
                <td class="amount found">{{ amount(item.found) }} {{ item.currency }}</td>
                <td class="amount">{{ item.missed || '' }}</td>
                <td class="amount" :class="{ missed: item.missed }">
                  {{ item.missed ? `${amount(item.left)} ${item.currency}` : '' }}
                </td>
              </tr>
            </tbody>
          </table>
          <p v-else class="secondary">No choice in these returns moves the tax.</p>
        </section>
      </template>
    </main>
  </div>
</template>

<style scoped>
.season {
  padding: 18px 30px 60px;
}
section {
  max-width: 980px;
  margin-top: 18px;
}
.bar-line {
  display: grid;
  grid-template-columns: 130px minmax(0, 1fr) 104px;
  gap: 12px;
  align-items: center;
  min-height: 30px;
  border-bottom: 1px solid var(--hairline);
}
.track {
  display: flex;
  height: 20px;
}
.track i {
  display: block;
  font-style: normal;
  font-size: 12px;
  line-height: 20px;
  text-align: center;
  overflow: hidden;
  color: var(--page);
}
.amount {
  text-align: right;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 18px;
  margin: 8px 0;
}
.legend i {
  display: inline-block;
  width: 12px;
  height: 12px;
  margin-right: 6px;
  vertical-align: -1px;
}
i.accepted {
  background: var(--verdigris);
}
i.sent {
  background: var(--slate);
}
i.approved {
  background: var(--bronze);
}
i.waiting {
  background: var(--ochre);
}
i.open {
  background: var(--entry);
}
i.rejected {
  background: var(--brick);
}
.late {
  margin-left: 8px;
  color: var(--brick);
}
.found {
  color: var(--verdigris);
  font-weight: 600;
}
.missed {
  color: var(--ochre);
}
</style>
