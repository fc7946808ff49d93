<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { saveBlob } from '../../shared/download'
import { amount, plural } from '../../shared/format'
import { histogram, largest, summed } from './scenario'

/** What other words of the law would do to the practice's returns; nothing is changed by asking. */
const props = defineProps<{
  view: Schemas['LawView']
  path: { country: string; name: string; year: number }
  scenario: Schemas['LawScenario']
  /** What is asked, on the button. */
  label?: string
  disabled?: boolean
}>()
const LARGEST = 10
const { busy, problem, act } = useAct()
const moved = ref<Schemas['MovedReturn'][]>([])
const checked = ref(0)
const total = ref<number | null>(null)
const done = ref(false)
let stopping: AbortController | null = null

const sum = computed(() => summed(moved.value))
const bars = computed(() => histogram(moved.value))
const most = computed(() => Math.max(1, ...bars.value.map((b) => b.count)))
const params = computed(() => ({ path: props.path, query: { period: props.view.period } }))

function forget() {
  stopping?.abort()
  moved.value = []
  total.value = null
  done.value = false
}
// What was computed is of the law that was asked about.
watch(() => JSON.stringify([props.scenario, props.path, props.view.period, props.view.edition]), forget)
onBeforeUnmount(() => stopping?.abort())

/** Asks part by part, so that the effect shows as it comes and can be stopped. */
const see = () =>
  act(async () => {
    forget()
    checked.value = 0
    const stop = new AbortController()
    stopping = stop
    let after: number | undefined
    try {
      do {
        const part: Schemas['LawEffect'] = await call(
          api.POST('/api/law/{country}/{name}/{year}/effect', {
            params: { path: props.path, query: { ...params.value.query, after } },
            body: props.scenario,
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
const exported = (kind: 'csv' | 'xlsx') =>
  act(async () =>
    saveBlob(
      (await call(
        api.POST(`/api/law/{country}/{name}/{year}/effect.${kind}`, {
          params: params.value,
          body: props.scenario,
          parseAs: 'blob',
        }) as never,
      )) as Blob,
      `effect.${kind}`,
    ),
  )
const standing = (item: Schemas['MovedReturn']) =>
  item.filed
    ? 'filed; consider amending'
    : item.approved
      ? 'approved; keeps its law'
      : item.stage === 'waiting'
        ? 'waiting for approval'
        : item.stage
</script>

<template>
  <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  <div class="acts">
    <v-btn variant="outlined" :disabled="busy || disabled" @click="see">{{ label ?? 'See the effect' }}</v-btn>
    <button v-if="busy && total !== null" type="button" class="link" @click="forget">Stop</button>
    <slot />
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
          return.</template
        ><template v-if="sum.approved">
          {{ ` ${sum.approved}` }} {{ sum.approved === 1 ? 'is' : 'are' }} approved and not filed.</template
        ></template
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
            <span class="secondary stage">{{ standing(item) }}</span>
          </td>
          <td class="amount">
            {{ amount(item.difference) || '0' }}
            <span class="secondary stage">{{ amount(item.before) }} to {{ amount(item.after) }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="done && moved.length" class="small exports">
      <button type="button" class="link" @click="exported('xlsx')">Export XLSX</button>
      <button type="button" class="link" @click="exported('csv')">Export CSV</button>
    </p>
  </template>
</template>

<style scoped>
.acts,
.exports {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 14px;
  margin-top: 14px;
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
