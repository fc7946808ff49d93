<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, call, fileBody, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import DocumentPreview from '../../shared/DocumentPreview.vue'
import { day, periodOf, plural } from '../../shared/format'

const LARGEST = 20 * 1024 * 1024
const props = defineProps<{ clientId: number; returns: Schemas['ClientReturnItem'][] }>()
const session = useSession()
const { busy, problem, act } = useAct()
const documents = ref<Schemas['DocumentView'][]>([])
const shown = ref<Schemas['DocumentView'] | null>(null)
const kind = ref('certificate')
const year = ref(Number(session.view?.today.slice(0, 4)) - 1)
const returnId = ref<number | null>(null)
const kinds = ['certificate', 'receipt', 'letter', 'assessment notice', 'accounts', 'identity document', 'other']
const path = { id: props.clientId }
const nameOf = computed(() => new Map(props.returns.map((r) => [r.id, `${periodOf(r)} ${r.kind}`])))

onMounted(() =>
  act(async () => {
    documents.value = await call(api.GET('/api/clients/{id}/documents', { params: { path } }))
  }),
)
const add = (event: Event) => {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  void act(async () => {
    const large = files.find((file) => file.size > LARGEST)
    if (large) throw new Error(`${large.name} has ${size(large.size)}; documents have at most 20 MB.`)
    for (const file of files) {
      const query = {
        Name: file.name,
        Kind: kind.value,
        Year: year.value,
        ...(returnId.value ? { ReturnId: returnId.value } : {}),
      }
      documents.value = await call(
        api.POST('/api/clients/{id}/documents', { params: { path, query }, ...fileBody(file) }),
      )
    }
    shown.value = documents.value.reduce((latest, d) => (d.id > latest.id ? d : latest), documents.value[0]!)
    input.value = ''
  })
}
const remove = (document: number) =>
  act(async () => {
    documents.value = await call(
      api.DELETE('/api/clients/{id}/documents/{document}', { params: { path: { ...path, document } } }),
    )
    if (shown.value?.id === document) shown.value = null
  })
const size = (bytes: number) => (bytes < 1_000_000 ? `${Math.ceil(bytes / 1000)} kB` : `${(bytes / 1e6).toFixed(1)} MB`)
</script>

<template>
  <section aria-label="Documents">
    <div class="rule-head">
      <h2>Documents</h2>
      <span class="small faint">PDF, PNG, JPEG, XLSX or text, up to 20 MB each</span>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <div v-if="session.mayPrepare" class="add small among">
      <label
        >What it is
        <select v-model="kind">
          <option v-for="item in kinds" :key="item">{{ item }}</option>
        </select></label
      >
      <label>Year <input v-model.number="year" type="number" min="1990" max="2100" /></label>
      <label v-if="returns.length"
        >Return
        <select v-model="returnId">
          <option :value="null">none in particular</option>
          <option v-for="item in returns" :key="item.id" :value="item.id">{{ periodOf(item) }} {{ item.kind }}</option>
        </select></label
      >
      <input type="file" multiple aria-label="Files to attach" :disabled="busy" @change="add" />
    </div>
    <p v-if="!documents.length" class="secondary">Nothing attached yet.</p>
    <div v-else class="both">
      <table class="plain">
        <thead>
          <tr>
            <th>Document</th>
            <th>What it is</th>
            <th>Year</th>
            <th>Return</th>
            <th class="amount">Pages</th>
            <th class="amount">Size</th>
            <th>Added</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="item in documents" :key="item.id" :class="{ at: shown?.id === item.id }">
            <td>
              <button class="link" @click="shown = item">{{ item.name }}</button>
            </td>
            <td>{{ item.kind }}</td>
            <td>{{ item.year }}</td>
            <td>{{ item.returnId ? nameOf.get(item.returnId) : '' }}</td>
            <td class="amount">{{ item.pages ?? '' }}</td>
            <td class="amount">{{ size(item.bytes) }}</td>
            <td class="small secondary">{{ day(item.addedAt) }}, {{ item.addedBy }}</td>
            <td>
              <button v-if="session.mayPrepare" class="link small" :disabled="busy" @click="remove(item.id)">
                remove
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p class="small secondary">{{ plural(documents.length, 'document') }}</p>
      <DocumentPreview v-if="shown" :client-id="clientId" :document="shown" />
    </div>
  </section>
</template>

<style scoped>
.add {
  display: flex;
  gap: 18px;
  align-items: baseline;
  padding: 10px 0;
}
.add input[type='number'] {
  width: 64px;
}
.at {
  background: var(--verdigris-wash);
}
</style>
