<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, call, fileBody, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import DateField from '../../shared/DateField.vue'
import { capital, day } from '../../shared/format'
import LawCorrection from './LawCorrection.vue'
import LawCurve from './LawCurve.vue'

/** One figure of the law: what it says, what uses it, and whether somebody held it against a printed source. */
const props = defineProps<{
  view: Schemas['LawView']
  figure: Schemas['LawFigureView']
  path: { country: string; name: string; year: number }
  years: number[]
  /** Titles of the returns by id. */
  titles: Map<string, string>
  /** Address of the law as articles. */
  articles: string
  /** A return on whose pages the lines are shown, where the practice has one. */
  shownOn: Schemas['LawShownOn'] | null
}>()
const emit = defineEmits<{ changed: [view: Schemas['LawView']]; try: [] }>()
const session = useSession()
const { busy, problem, act } = useAct()
const against = ref('')
const sourceDay = ref('')
const further = ref<number[]>([])
const params = computed(() => ({ path: props.path, query: { period: props.view.period } }))
const others = computed(() => [...props.titles].filter(([id]) => id !== props.view.definition))
const other = ref<{ title: string; curve: Schemas['LawPoint'][] } | null>(null)
/** The main schedule of another return, that with the highest edge, in the same year or the latest it has. */
const layOver = (event: Event) =>
  act(async () => {
    const id = (event.target as HTMLSelectElement).value
    other.value = null
    const type = (await call(api.GET('/api/return-types'))).find((t) => t.id === id)
    if (!type) return
    const [country = '', name = ''] = id.split('/')
    const year = type.years.includes(props.view.year) ? props.view.year : Math.max(...type.years)
    const law = await call(
      api.GET('/api/law/{country}/{name}/{year}', {
        params: { path: { country, name, year }, query: { period: type.periods[0] } },
      }),
    )
    const schedules = law.groups.flatMap((g) => g.figures).filter((f) => f.curve.length)
    const main = schedules.sort((a, b) => b.curve.at(-1)!.at - a.curve.at(-1)!.at)[0]
    if (!main) throw new Error(`${type.title} has no schedule of rates.`)
    other.value = { title: `${type.title} ${year}, ${main.label}`, curve: main.curve }
  })
const mark = computed(() => props.figure.verification)

const verify = () =>
  act(async () => {
    const body = {
      figure: props.figure.key,
      against: against.value,
      sourceDay: sourceDay.value || null,
      years: further.value,
    }
    emit('changed', await call(api.POST('/api/law/{country}/{name}/{year}/verify', { params: params.value, body })))
    against.value = ''
  })
const attach = (event: Event) =>
  act(async () => {
    const file = (event.target as HTMLInputElement).files![0]!
    const query = { ...params.value.query, figure: props.figure.key, file: file.name }
    emit(
      'changed',
      await call(
        api.PUT('/api/law/{country}/{name}/{year}/page', { params: { path: props.path, query }, ...fileBody(file) }),
      ),
    )
  })
const page = computed(
  () =>
    `/api/law/${props.view.definition}/${props.view.year}/page?period=${props.view.period}&figure=${props.figure.key}`,
)
const body = computed(() => ({ figure: props.figure.key }))
const confirm = () =>
  act(async () =>
    emit(
      'changed',
      await call(api.POST('/api/law/{country}/{name}/{year}/confirm', { params: params.value, body: body.value })),
    ),
  )
const withdraw = () =>
  act(async () =>
    emit(
      'changed',
      await call(api.POST('/api/law/{country}/{name}/{year}/withdraw', { params: params.value, body: body.value })),
    ),
  )
</script>

<template>
  <h2>{{ capital(figure.label) }}</h2>
  <p class="small secondary">
    {{ figure.source }}, <span :class="{ unsure: figure.confidence !== 'certain' }">{{ figure.confidence }}</span>
  </p>
  <p v-if="figure.note" class="small unsure">{{ figure.note }}</p>
  <p v-if="!figure.rows.length" class="value">
    {{ figure.value }}
    <span v-if="figure.changed && figure.before" class="small secondary">{{ view.beside }}: {{ figure.before }}</span>
  </p>
  <table v-else class="plain small" aria-label="Rows of the table">
    <tbody>
      <tr v-for="(row, index) in figure.rows" :key="row.range">
        <td class="range">{{ row.range }}</td>
        <td
          class="says"
          :class="{ changed: figure.rowsBefore.length && figure.rowsBefore[index]?.value !== row.value }"
        >
          {{ row.value }}
        </td>
      </tr>
    </tbody>
  </table>
  <LawCurve
    v-if="figure.curve.length"
    :curve="figure.curve"
    :before="figure.changed ? figure.curveBefore : []"
    :year="view.year"
    :beside="view.beside ?? null"
    :other="other"
  />
  <label v-if="figure.curve.length" class="small lay"
    >Lay over it
    <select :aria-label="`Lay another schedule over ${figure.label}`" @change="layOver">
      <option value="">nothing</option>
      <option v-for="[id, title] in others" :key="id" :value="id">{{ title }}</option>
    </select></label
  >

  <p v-if="session.mayPrepare && figure.canVary" class="small">
    <button class="link" @click="emit('try')">Try another value</button>
  </p>

  <LawCorrection :view="view" :figure="figure" :path="path" :years="years" @changed="emit('changed', $event)" />

  <h3>Used by</h3>
  <p v-if="shownOn?.id && figure.usedBy.length" class="small secondary">
    The lines lead to the pages of {{ shownOn.client }}’s return.
  </p>
  <ul class="small">
    <li v-for="use in figure.usedBy" :key="use.line">
      <router-link
        v-if="shownOn?.id"
        :to="{ path: `/returns/${shownOn.id}/fill/${use.page}`, query: { line: use.line } }"
        >{{ use.number }} {{ use.label }}</router-link
      >
      <template v-else>{{ use.number }} {{ use.label }}</template
      >, {{ use.form }}
      <a :href="`${articles}#line-${use.line}`" target="_blank" rel="noopener" :aria-label="`Article of ${use.label}`"
        >article</a
      >
    </li>
    <li v-for="words in figure.findings" :key="words" class="secondary">{{ words }}</li>
    <li v-if="!figure.usedBy.length && !figure.findings.length" class="secondary">the days of the return</li>
  </ul>

  <h3>Verification</h3>
  <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  <template v-if="mark">
    <p v-if="!mark.counts" class="banner warn" role="status">
      The figure was {{ mark.was }} when it was verified; it is to be verified anew.
    </p>
    <p class="small">
      {{ mark.by }}, {{ day(mark.at) }}, against {{ mark.against
      }}<template v-if="mark.sourceDay"> of {{ day(mark.sourceDay) }}</template
      >.
      <a v-if="mark.page" :href="page" download>{{ mark.page }}</a>
      <template v-if="mark.confirmedBy">Confirmed by {{ mark.confirmedBy }}.</template>
    </p>
    <label v-if="session.mayApprove && mark.counts" class="small attach"
      >{{ mark.page ? 'Another page' : 'Attach the page' }}
      <input type="file" aria-label="Page the figure was held against" @change="attach"
    /></label>
    <p class="acts">
      <v-btn
        v-if="mark.counts && !mark.confirmedBy && session.mayPrepare && mark.by !== session.person?.name"
        variant="outlined"
        :disabled="busy"
        @click="confirm"
        >Confirm</v-btn
      >
      <button v-if="session.mayApprove" class="link" :disabled="busy" @click="withdraw">
        Take the verification back
      </button>
    </p>
  </template>
  <form v-if="session.mayApprove && !mark?.counts" aria-label="Verify the figure" @submit.prevent="verify">
    <v-text-field v-model="against" label="Held against" hint="gazette, statute or table, with its reference" />
    <DateField v-model="sourceDay" label="Day of the source" />
    <fieldset v-if="years.length > 1" class="small">
      <legend class="secondary">The source also covers</legend>
      <label v-for="year in years.filter((y) => y !== view.year)" :key="year"
        ><input v-model="further" type="checkbox" :value="year" /> {{ year }}</label
      >
    </fieldset>
    <v-btn type="submit" :disabled="busy || !against.trim()">Verify</v-btn>
  </form>
  <p v-else-if="!mark" class="small secondary">Not verified yet; an approver verifies it.</p>
</template>

<style scoped>
h2 {
  font-size: 16px;
}
h3 {
  font-size: 14px;
  margin-top: 18px;
  border-bottom: 1px solid var(--hairline);
}
.range {
  white-space: nowrap;
  padding-right: 12px;
}
.says {
  white-space: normal;
  text-align: right;
}
.lay select {
  max-width: 220px;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  color: var(--ink);
  font: inherit;
}
.value {
  font-size: 20px;
}
.changed {
  font-weight: 600;
  color: var(--ochre);
}
.unsure {
  color: var(--brick);
}
ul {
  list-style: none;
  padding: 0;
  margin: 6px 0;
}
li {
  padding: 2px 0;
}
form {
  display: grid;
  gap: 12px;
  margin-top: 8px;
}
fieldset {
  border: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
}
.acts {
  display: flex;
  gap: 16px;
  align-items: center;
}
</style>
