<script setup lang="ts">
import { computed, onMounted, reactive, ref, watch } from 'vue'
import { api, call, fileBody, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { amount, typedAs } from '../../shared/format'
import ImportReport from '../../shared/ImportReport.vue'

/** Payers' statements: entered or imported once, used by the return they belong to. */
const props = defineProps<{ client: Schemas['ClientRecord'] }>()
const session = useSession()
const { busy, problem, act } = useAct()
const kinds = ref<Schemas['StatementKindView'][]>([])
const statements = ref<Schemas['StatementView'][]>([])
const documents = ref<Schemas['DocumentView'][]>([])
const chosen = ref(0)
const kind = computed(() => kinds.value[chosen.value])
const editing = ref<Schemas['StatementView'] | 'new' | null>(null)
const boxes = reactive<Record<string, string>>({})
const identifier = ref('')
const documentId = ref<number | null>(null)
const problems = reactive<Record<string, string>>({})
const file = ref<File | null>(null)
const report = ref<Schemas['ImportReport'] | null>(null)
const path = { id: props.client.id! }

onMounted(() =>
  act(async () => {
    kinds.value = await call(
      api.GET('/api/statement-kinds/{country}', { params: { path: { country: props.client.country } } }),
    )
    await load()
    documents.value = await call(api.GET('/api/clients/{id}/documents', { params: { path } }))
  }),
)
async function load() {
  statements.value = await call(api.GET('/api/clients/{id}/statements', { params: { path } }))
}
function edit(item: Schemas['StatementView'] | 'new') {
  editing.value = item
  for (const key of [...Object.keys(boxes), ...Object.keys(problems)]) {
    delete boxes[key]
    delete problems[key]
  }
  identifier.value = item === 'new' ? props.client.identifier : item.identifier
  documentId.value = item === 'new' ? null : (item.documentId ?? null)
  if (item !== 'new') {
    chosen.value = kinds.value.findIndex((k) => k.kind === item.kind && k.year === item.year)
    for (const [name, value] of Object.entries(item.boxes))
      boxes[name] = isNumber(value) ? typedAs(value, kind.value?.numbers) : value
  }
}
watch(chosen, () => (report.value = null))
const save = () =>
  act(async () => {
    for (const key of Object.keys(problems)) delete problems[key]
    const item = editing.value
    const body = {
      kind: kind.value!.kind,
      year: kind.value!.year,
      identifier: identifier.value,
      boxes,
      documentId: documentId.value,
      revision: item === 'new' || !item ? 0 : item.revision,
    }
    const result =
      item === 'new' || !item
        ? await call(api.POST('/api/clients/{id}/statements', { params: { path }, body }))
        : await call(
            api.PUT('/api/clients/{id}/statements/{statement}', {
              params: { path: { ...path, statement: item.id } },
              body,
            }),
          )
    for (const found of result.problems) problems[found.field] = found.message
    if (result.problems.length) return
    statements.value = result.statements
    editing.value = null
  })
const remove = (statement: number) =>
  act(async () => {
    statements.value = await call(
      api.DELETE('/api/clients/{id}/statements/{statement}', { params: { path: { ...path, statement } } }),
    )
    editing.value = null
  })
const send = (keep: 'all' | 'good' | null) =>
  act(async () => {
    const query = {
      kind: kind.value!.kind,
      year: kind.value!.year,
      name: file.value!.name,
      ...(keep ? { keep } : {}),
    }
    report.value = await call(
      api.POST('/api/clients/{id}/statements/import', { params: { path, query }, ...fileBody(file.value!) }),
    )
    if (report.value.stored) await load()
  })
function choose(event: Event) {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
  report.value = null
  if (file.value) void send(null)
}
const isNumber = (value: string) => /^-?\d+(\.\d+)?$/.test(value)
const shown = (value: string) => (isNumber(value) ? amount(value) : value)
/** The boxes it has, in the order of the paper. */
const boxesOf = (item: Schemas['StatementView']) =>
  (kinds.value.find((k) => k.kind === item.kind && k.year === item.year)?.boxes ?? []).filter(
    (box) => item.boxes[box.name] !== undefined,
  )
</script>

<template>
  <section aria-label="Statements">
    <div class="rule-head">
      <h2>Statements</h2>
      <span class="small faint">entered or imported once; the return they belong to takes them from here</span>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <div v-if="session.mayPrepare && kind" class="add small among">
      <select v-model="chosen" aria-label="Kind of statement">
        <option v-for="(item, index) in kinds" :key="index" :value="index">{{ item.title }} {{ item.year }}</option>
      </select>
      <button class="link" @click="edit('new')">Enter one</button>
      <label
        >or import JSON, XML, CSV or XLSX
        <input type="file" accept=".json,.xml,.csv,.xlsx" aria-label="File with statements" @change="choose"
      /></label>
    </div>
    <ImportReport v-if="report" :report="report" what="statement" :busy="busy" @keep="send" />
    <form v-if="editing && kind" class="entry" aria-label="Statement" @submit.prevent="save">
      <h3>{{ kind.title }} {{ kind.year }}</h3>
      <div class="boxes">
        <v-text-field
          v-model="identifier"
          label="Identifier it bears"
          :error-messages="problems.identifier"
          :messages="identifier !== client.identifier ? `not ${client.name}'s` : ''"
        />
        <v-select
          v-model="documentId"
          label="Copied from"
          :items="[{ id: null, name: 'no document' }, ...documents]"
          item-title="name"
          item-value="id"
        />
        <template v-for="box in kind.boxes" :key="box.name">
          <v-select
            v-if="box.choices"
            v-model="boxes[box.name]"
            :label="box.label"
            :items="box.choices"
            item-title="label"
            item-value="code"
            clearable
            :error-messages="problems[box.name]"
          />
          <v-text-field
            v-else
            v-model="boxes[box.name]"
            :label="box.label"
            :hint="box.from ?? ''"
            :error-messages="problems[box.name]"
          />
        </template>
      </div>
      <div class="acts">
        <v-btn type="submit" :disabled="busy">Save statement</v-btn>
        <button type="button" class="link" @click="editing = null">Cancel</button>
        <button v-if="editing !== 'new'" type="button" class="link" :disabled="busy" @click="remove(editing.id)">
          Remove it
        </button>
      </div>
    </form>
    <p v-if="!statements.length" class="secondary">None yet.</p>
    <article v-for="item in statements" :key="item.id">
      <div class="head">
        <strong>{{ item.title }}</strong> <span>{{ item.year }}</span>
        <span class="small secondary">{{ item.source }}, {{ item.addedBy }}</span>
        <button v-if="session.mayPrepare" class="link small" @click="edit(item)">Change</button>
      </div>
      <p v-if="item.warning" class="banner warn">{{ item.warning }}</p>
      <dl class="small">
        <div v-for="box in boxesOf(item)" :key="box.name">
          <dt>{{ box.label }}</dt>
          <dd>{{ shown(item.boxes[box.name]!) }}</dd>
        </div>
      </dl>
    </article>
  </section>
</template>

<style scoped>
.add,
.acts {
  display: flex;
  gap: 18px;
  align-items: baseline;
  padding: 10px 0;
}
.entry {
  margin-top: 14px;
}
.boxes {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  align-items: start;
  gap: 8px 22px;
  padding-top: 10px;
}
article {
  padding: 10px 0;
  border-bottom: 1px solid var(--hairline);
}
.head {
  display: flex;
  gap: 12px;
  align-items: baseline;
}
dl {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 2px 26px;
  margin: 6px 0 0;
}
dl div {
  display: flex;
  justify-content: space-between;
  gap: 10px;
}
dt {
  color: var(--secondary);
}
dd {
  margin: 0;
  text-align: right;
}
</style>
