<script setup lang="ts">
import { computed, onMounted, onBeforeUnmount, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, capital, plural } from '../../shared/format'
import { saveBlob } from '../../shared/download'
import { histogram, largest, replaced, saysTheSame, summed, withRange } from './scenario'

/** What other values of the law would do to the practice's returns; nothing is changed by asking. */
const props = defineProps<{
  view: Schemas['LawView']
  path: { country: string; name: string; year: number }
  modelValue: Schemas['LawChangeTyped'][]
  /** Titles of the returns by id. */
  titles: Map<string, string>
}>()
const emit = defineEmits<{
  'update:modelValue': [changes: Schemas['LawChangeTyped'][]]
  open: [kept: Schemas['KeptScenario']]
}>()
const LARGEST = 10
const session = useSession()
const { busy, problem, act } = useAct()
const moved = ref<Schemas['MovedReturn'][]>([])
const checked = ref(0)
const total = ref<number | null>(null)
const done = ref(false)
const keeping = ref('')
const scenarios = ref<Schemas['KeptScenario'][]>([])
let stopping: AbortController | null = null

const figures = computed(() => new Map(props.view.groups.flatMap((g) => g.figures).map((f) => [f.key, f])))
const differing = computed(() => props.modelValue.filter((c) => !saysTheSame(c, figures.value.get(c.figure!))))
const sum = computed(() => summed(moved.value))
const bars = computed(() => histogram(moved.value))
const most = computed(() => Math.max(1, ...bars.value.map((b) => b.count)))
const params = computed(() => ({ path: props.path, query: { period: props.view.period } }))
const body = computed(() => ({ changes: differing.value }))

function forgetEffect() {
  stopping?.abort()
  moved.value = []
  total.value = null
  done.value = false
}
function put(index: number, change: Schemas['LawChangeTyped'] | null) {
  forgetEffect()
  emit('update:modelValue', replaced(props.modelValue, index, change))
}
function range(index: number, at: number, typed: Partial<Schemas['LawRangeTyped']> | null) {
  const change = props.modelValue[index]!
  const there = change.ranges![at]!
  put(index, { ...change, ranges: replaced(change.ranges!, at, typed && { ...there, ...typed }) })
}
const typed = (event: Event) => (event.target as HTMLInputElement).value

/** Asks part by part, so that the effect shows as it comes and can be stopped. */
const see = () =>
  act(async () => {
    forgetEffect()
    checked.value = 0
    const stop = new AbortController()
    stopping = stop
    let after: number | undefined
    try {
      do {
        const part: Schemas['LawEffect'] = await call(
          api.POST('/api/law/{country}/{name}/{year}/effect', {
            params: { path: props.path, query: { ...params.value.query, after } },
            body: body.value,
            signal: stop.signal,
          }),
        )
        if (stop.signal.aborted) return
        total.value = part.total
        checked.value += part.checked
        moved.value = [...moved.value, ...part.moved]
        after = part.next ?? undefined
      } while (after !== undefined)
      done.value = true
    } catch (error) {
      if (!stop.signal.aborted) throw error
    }
  })
const exported = () =>
  act(async () =>
    saveBlob(
      (await call(
        api.POST('/api/law/{country}/{name}/{year}/effect.csv', {
          params: params.value,
          body: body.value,
          parseAs: 'blob',
        }) as never,
      )) as Blob,
      'effect.csv',
    ),
  )
const keep = () =>
  act(async () => {
    const { definition, year, period } = props.view
    scenarios.value = await call(
      api.PUT('/api/law-scenarios/{name}', {
        params: { path: { name: keeping.value.trim() } },
        body: { name: '', definition, year, period, changes: differing.value },
      }),
    )
    keeping.value = ''
  })
const forget = (name: string) =>
  act(async () => {
    scenarios.value = await call(api.DELETE('/api/law-scenarios/{name}', { params: { path: { name } } }))
  })
onMounted(() => act(async () => (scenarios.value = await call(api.GET('/api/law-scenarios')))))
onBeforeUnmount(() => stopping?.abort())
</script>

<template>
  <h2>What if</h2>
  <p class="small secondary">
    Other values for figures of {{ view.title }} {{ view.year }}, and what they would do to your returns. Nothing is
    changed by asking.
  </p>
  <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  <p v-if="!modelValue.length" class="small">Choose a figure in the list, then <strong>Try another value</strong>.</p>
  <section
    v-for="(change, index) in modelValue"
    :key="change.figure!"
    class="change"
    :aria-label="figures.get(change.figure!)?.label"
  >
    <div class="row">
      <strong>{{ capital(figures.get(change.figure!)?.label ?? change.figure!) }}</strong>
      <button class="link small" @click="put(index, null)">Remove</button>
    </div>
    <div v-if="!change.ranges" class="among row">
      <span class="small secondary">now {{ figures.get(change.figure!)?.value }}</span>
      <input
        :value="change.value"
        :aria-label="`${figures.get(change.figure!)?.label}, value to try`"
        class="amount"
        @change="put(index, { ...change, value: typed($event) })"
      />
    </div>
    <table v-else class="plain small among">
      <thead>
        <tr>
          <th>Up to</th>
          <th class="amount">Value</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(there, at) in change.ranges" :key="at">
          <td>
            <input
              v-if="at < change.ranges.length - 1"
              :value="there.upTo"
              :aria-label="`Upper edge of range ${at + 1}`"
              @change="range(index, at, { upTo: typed($event) })"
            />
            <span v-else class="secondary">above</span>
          </td>
          <td class="amount">
            <input
              :value="there.value"
              :aria-label="`Value of range ${at + 1}`"
              class="amount short"
              @change="range(index, at, { value: typed($event) })"
            />
          </td>
          <td>
            <button
              v-if="at < change.ranges.length - 1"
              class="link"
              :aria-label="`Remove range ${at + 1}`"
              @click="range(index, at, null)"
            >
              &times;
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <button v-if="change.ranges" class="link small" @click="put(index, withRange(change))">Add range</button>
  </section>
  <div v-if="modelValue.length" class="acts">
    <v-btn :disabled="busy || !differing.length" @click="see">See the effect</v-btn>
    <button v-if="busy && total !== null" class="link" @click="forgetEffect">Stop</button>
    <span v-if="!differing.length" class="small secondary">These are the values of the law.</span>
  </div>
  <template v-if="total !== null">
    <p role="status">
      <template v-if="!done">{{ checked }} of {{ plural(total, 'return') }} computed ...</template>
      <template v-else-if="!moved.length">None of {{ plural(total, 'return') }} changes.</template>
      <template v-else
        ><strong>{{ moved.length }}</strong> of {{ plural(total, 'return') }}
        {{ moved.length === 1 ? 'changes' : 'change' }}: {{ sum.more }} to pay more, {{ sum.less }} less; together
        <strong>{{ amount(sum.together) }}</strong> {{ view.currency
        }}<template v-if="sum.findings">; findings change in {{ sum.findings }}</template
        >.<template v-if="sum.filed">
          {{ ` ${sum.filed}` }} of them {{ sum.filed === 1 ? 'is' : 'are' }} filed and would only follow by an amended
          return.
        </template></template
      >
    </p>
    <figure v-if="bars.length" class="bars" aria-label="Returns by how much less or more is to pay">
      <span
        v-for="bar in bars"
        :key="bar.from"
        :title="`${amount(bar.from)} to ${amount(bar.to)}: ${plural(bar.count, 'return')}`"
      >
        <span class="small secondary">{{ bar.count || '' }}</span>
        <i :class="{ less: bar.less }" :style="{ height: `${(bar.count / most) * 56}px` }"></i>
      </span>
    </figure>
    <p v-if="bars.length" class="scale small secondary">
      <span>{{ amount(bars[0]!.from) }}</span><span>less | more to pay</span><span>{{ amount(bars.at(-1)!.to) }}</span>
    </p>
    <table v-if="moved.length" class="plain small" aria-label="Returns that change most">
      <tbody>
        <tr v-for="item in largest(moved, LARGEST)" :key="item.returnId">
          <td>
            <router-link :to="`/returns/${item.returnId}`">{{ item.client }}</router-link>
            <span class="secondary stage">{{
              item.filed ? 'filed; consider amending' : item.stage === 'waiting' ? 'waiting for approval' : item.stage
            }}</span>
          </td>
          <td class="amount">
            {{ amount(item.difference) || '0' }}
            <span class="secondary stage">{{ amount(item.before) }} to {{ amount(item.after) }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="done && moved.length" class="small"><button class="link" @click="exported">Export CSV</button></p>
  </template>
  <form v-if="differing.length && session.mayPrepare" class="among keep" @submit.prevent="keep">
    <input v-model="keeping" maxlength="40" placeholder="Save as ..." aria-label="Save the scenario as" />
    <button v-if="keeping.trim()" class="link">Save</button>
  </form>
  <template v-if="scenarios.length">
    <h3>Saved scenarios</h3>
    <p v-for="kept in scenarios" :key="kept.name" class="row small">
      <button class="link" @click="(forgetEffect(), emit('open', kept))">{{ kept.name }}</button>
      <span class="secondary">{{ titles.get(kept.definition) }} {{ kept.year }}</span>
      <button class="link" :aria-label="`Delete the scenario ${kept.name}`" @click="forget(kept.name)">&times;</button>
    </p>
  </template>
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
.change {
  margin-top: 12px;
  padding-left: 10px;
  border-left: 2px solid var(--ochre);
}
.row {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 10px;
}
.among input {
  width: 110px;
}
.among .short {
  width: 70px;
}
.acts,
.keep {
  display: flex;
  align-items: center;
  gap: 14px;
  margin-top: 14px;
}
.keep input {
  width: 200px;
}
.bars {
  display: grid;
  grid-template-columns: repeat(10, 1fr);
  gap: 3px;
  align-items: end;
  height: 80px;
  margin: 10px 0 0;
  border-bottom: 1px solid var(--ink);
}
.bars > span {
  display: grid;
  text-align: center;
}
.bars i {
  background: var(--brick);
}
.bars .less {
  background: var(--verdigris);
}
.scale {
  display: flex;
  justify-content: space-between;
  margin: 2px 0 10px;
}
.stage {
  display: block;
  margin-top: -2px;
}
</style>
