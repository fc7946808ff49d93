<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { capital } from '../../shared/format'
import ChangeFields from './ChangeFields.vue'
import LawEffect from './LawEffect.vue'
import { replaced, saysTheSame } from './scenario'

/** Other values of the law tried on the practice's returns, kept by name; nothing is changed by asking. */
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
const session = useSession()
const { problem, act } = useAct()
const keeping = ref('')
const scenarios = ref<Schemas['KeptScenario'][]>([])
const lists = ref<string[]>([])
/** Name of a list kept on the Desk; empty for every return. */
const among = ref('')

const figures = computed(() => new Map(props.view.groups.flatMap((g) => g.figures).map((f) => [f.key, f])))
const differing = computed(() => props.modelValue.filter((c) => !saysTheSame(c, figures.value.get(c.figure!))))
const put = (index: number, change: Schemas['LawChangeTyped'] | null) =>
  emit('update:modelValue', replaced(props.modelValue, index, change))

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
onMounted(() =>
  act(async () => {
    scenarios.value = await call(api.GET('/api/law-scenarios'))
    lists.value = (await call(api.GET('/api/desk/summary'))).keptLists.map((list) => list.name)
  }),
)
</script>

<template>
  <h2>What if</h2>
  <p class="small secondary">
    Other values for figures of {{ view.title }} {{ view.year }}, and what they would do to your returns. Nothing is
    changed by asking.
  </p>
  <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  <p v-if="!modelValue.length" class="small">Choose a figure in the list, then <strong>Try another value</strong>.</p>
  <LawEffect
    v-if="!modelValue.length && view.edition"
    :view="view"
    :path="path"
    :scenario="{ changes: [], without: null, among: null }"
    label="Show returns under a former law"
  />
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
    <ChangeFields
      :model-value="change"
      :figure="figures.get(change.figure!)"
      :label="`${figures.get(change.figure!)?.label}, value to try`"
      @update:model-value="put(index, $event)"
    />
  </section>
  <label v-if="modelValue.length && lists.length" class="small among"
    >Among
    <select v-model="among" aria-label="Among which returns">
      <option value="">all returns</option>
      <option v-for="list in lists" :key="list" :value="list">{{ list }}</option>
    </select></label
  >
  <LawEffect
    v-if="modelValue.length"
    :view="view"
    :path="path"
    :scenario="{ changes: differing, without: null, among: among || null }"
    :disabled="!differing.length"
  >
    <span v-if="!differing.length" class="small secondary">These are the values of the law.</span>
  </LawEffect>
  <form v-if="differing.length && session.mayPrepare" class="keep" @submit.prevent="keep">
    <input v-model="keeping" maxlength="40" placeholder="Save as ..." aria-label="Save the scenario as" />
    <button v-if="keeping.trim()" class="link">Save</button>
  </form>
  <template v-if="scenarios.length">
    <h3>Saved scenarios</h3>
    <p v-for="kept in scenarios" :key="kept.name" class="row small">
      <button class="link" @click="emit('open', kept)">{{ kept.name }}</button>
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
.among {
  display: block;
  margin-top: 12px;
}
.among select {
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  color: var(--ink);
  font: inherit;
}
.keep {
  display: flex;
  align-items: center;
  gap: 14px;
  margin-top: 14px;
}
.keep input {
  width: 200px;
}
</style>
