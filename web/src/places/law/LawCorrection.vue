<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import DateField from '../../shared/DateField.vue'
import { capital, day, plural } from '../../shared/format'
import ChangeFields from './ChangeFields.vue'
import LawEffect from './LawEffect.vue'
import { changeOf } from './scenario'

/** The practice's correction of a figure: proposed with source and reason, its effect seen, turned on by another person, withdrawn the same way. */
const props = defineProps<{
  view: Schemas['LawView']
  figure: Schemas['LawFigureView']
  path: { country: string; name: string; year: number }
  years: number[]
}>()
const emit = defineEmits<{ changed: [view: Schemas['LawView']] }>()
const session = useSession()
const { busy, problem, act } = useAct()
const change = ref<Schemas['LawChangeTyped'] | null>(null)
const source = ref('')
const sourceDay = ref('')
const reason = ref('')
const further = ref<number[]>([])
const withdrawing = ref<string | null>(null)
const followed = ref('')

const inForce = computed(() => props.figure.correction)
const proposed = computed(() => props.figure.proposed)
const query = computed(() => ({ period: props.view.period }))
/** Whether somebody may decide what another began: an approver, and another person where the practice asks for four eyes. */
const mayDecide = (by: string) => session.mayApprove && (!props.view.fourEyes || by !== session.person?.name)

const propose = () =>
  act(async () => {
    const body = {
      ...change.value!,
      source: source.value,
      sourceDay: sourceDay.value || null,
      reason: reason.value,
      years: further.value,
    }
    emit(
      'changed',
      await call(
        api.POST('/api/law/{country}/{name}/{year}/corrections', {
          params: { path: props.path, query: query.value },
          body,
        }),
      ),
    )
    change.value = null
  })
const of = (id: number) => ({ params: { path: { ...props.path, correction: id }, query: query.value } })
const discard = (id: number) =>
  act(async () =>
    emit('changed', await call(api.POST('/api/law/{country}/{name}/{year}/corrections/{correction}/discard', of(id)))),
  )
function turned(result: Schemas['LawTurned']) {
  const reopened = result.reopened
    ? ` ${plural(result.reopened, 'return')} that waited for approval ${result.reopened === 1 ? 'is' : 'are'} open again.`
    : ''
  followed.value = `${plural(result.following, 'open return')} ${result.following === 1 ? 'follows' : 'follow'}.${reopened}`
  emit('changed', result.law)
}
const turnOn = (id: number) =>
  act(async () =>
    turned(await call(api.POST('/api/law/{country}/{name}/{year}/corrections/{correction}/turn-on', of(id)))),
  )
const withdraw = (id: number) =>
  act(async () =>
    turned(await call(api.POST('/api/law/{country}/{name}/{year}/corrections/{correction}/withdraw', of(id)))),
  )
const askWithdrawal = (id: number) =>
  act(async () => {
    emit(
      'changed',
      await call(
        api.POST('/api/law/{country}/{name}/{year}/corrections/{correction}/ask-withdrawal', {
          ...of(id),
          body: { reason: withdrawing.value },
        }),
      ),
    )
    withdrawing.value = null
  })
const keep = (id: number) =>
  act(async () =>
    emit('changed', await call(api.POST('/api/law/{country}/{name}/{year}/corrections/{correction}/keep', of(id)))),
  )
</script>

<template>
  <h3 v-if="inForce || proposed || (session.mayPrepare && figure.canVary)">Correction</h3>
  <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  <p v-if="followed" class="small" role="status">{{ followed }}</p>

  <section v-if="inForce" class="card" aria-label="Correction in force">
    <p>
      <strong>{{ capital(inForce.says) }}</strong> in place of {{ inForce.was }}, for {{ inForce.covers }}
    </p>
    <p class="small secondary">
      {{ inForce.source }}<template v-if="inForce.sourceDay"> of {{ day(inForce.sourceDay) }}</template
      >. {{ inForce.reason }}. Proposed by {{ inForce.by }}, turned on by {{ inForce.turnedOnBy }},
      {{ day(inForce.turnedOnAt!) }}.
    </p>
    <LawEffect
      :view="view"
      :path="path"
      :scenario="{ changes: [], without: null, among: null }"
      label="Show returns under the former law"
    />
    <template v-if="inForce.withdrawalBy">
      <p class="banner warn" role="status">
        {{ inForce.withdrawalBy }} asks to withdraw this correction: {{ inForce.withdrawalReason }}
      </p>
      <LawEffect
        :view="view"
        :path="path"
        :scenario="{ changes: [], without: [figure.key], among: null }"
        label="See the effect of withdrawing"
      />
      <p class="acts">
        <v-btn v-if="mayDecide(inForce.withdrawalBy)" :disabled="busy" @click="withdraw(inForce.id)">Withdraw</v-btn>
        <span v-else class="small secondary">Another approver withdraws it.</span>
        <button v-if="session.mayPrepare" class="link" :disabled="busy" @click="keep(inForce.id)">
          Keep the correction
        </button>
      </p>
    </template>
    <form v-else-if="withdrawing !== null" @submit.prevent="askWithdrawal(inForce.id)">
      <v-text-field v-model="withdrawing" label="Reason for withdrawing" />
      <p class="acts">
        <v-btn type="submit" :disabled="busy || !withdrawing.trim()">Ask to withdraw</v-btn>
        <button type="button" class="link" @click="withdrawing = null">Cancel</button>
      </p>
    </form>
    <p v-else-if="session.mayPrepare" class="small">
      <button class="link" @click="withdrawing = ''">Withdraw the correction</button>
    </p>
  </section>

  <section v-if="proposed" class="card proposed" aria-label="Proposed correction">
    <p>
      Proposed: <strong>{{ proposed.says }}</strong> in place of {{ proposed.was }}, for {{ proposed.covers }}
    </p>
    <p class="small secondary">
      {{ proposed.source }}<template v-if="proposed.sourceDay"> of {{ day(proposed.sourceDay) }}</template
      >. {{ proposed.reason }}. {{ proposed.by }}, {{ day(proposed.at) }}. No return follows before it is turned on.
    </p>
    <LawEffect :view="view" :path="path" :scenario="{ changes: [proposed.change], without: null, among: null }" />
    <p class="acts">
      <v-btn v-if="mayDecide(proposed.by)" :disabled="busy" @click="turnOn(proposed.id)">Turn on</v-btn>
      <span v-else class="small secondary">Another approver turns it on.</span>
      <button v-if="session.mayPrepare" class="link" :disabled="busy" @click="discard(proposed.id)">Discard</button>
    </p>
  </section>

  <form v-else-if="change" aria-label="Correct the figure" @submit.prevent="propose">
    <ChangeFields v-model="change" :figure="figure" label="Corrected value" />
    <v-text-field v-model="source" label="Source" hint="gazette, statute or table, with its reference" />
    <DateField v-model="sourceDay" label="Day of the source" />
    <v-text-field v-model="reason" label="Reason" hint="why the figure is to be corrected" />
    <fieldset v-if="years.length > 1" class="small">
      <legend class="secondary">Also correct</legend>
      <label v-for="year in years.filter((y) => y !== view.year)" :key="year"
        ><input v-model="further" type="checkbox" :value="year" /> {{ year }}</label
      >
    </fieldset>
    <p class="acts">
      <v-btn type="submit" :disabled="busy || !source.trim() || !reason.trim()">Propose</v-btn>
      <button type="button" class="link" @click="change = null">Cancel</button>
    </p>
  </form>
  <p v-else-if="session.mayPrepare && figure.canVary" class="small">
    <button class="link" @click="change = changeOf(figure)">Correct this figure</button>
  </p>
</template>

<style scoped>
h3 {
  font-size: 14px;
  margin-top: 18px;
  border-bottom: 1px solid var(--hairline);
}
.card {
  margin-top: 10px;
  padding-left: 10px;
  border-left: 2px solid var(--verdigris);
}
.proposed {
  border-left-color: var(--ochre);
}
.card p {
  margin: 4px 0;
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
