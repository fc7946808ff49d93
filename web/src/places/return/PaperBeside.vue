<script setup lang="ts">
import { computed, inject, onMounted, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import DocumentPreview from '../../shared/DocumentPreview.vue'
import type { ReturnStore } from '../../return/returnStore'

/** A document of the client beside the page it is copied onto; which one, its page and its size are kept for the return. */
const store = inject<ReturnStore>('return')!
const emit = defineEmits<{ close: [] }>()
const { problem, act } = useAct()
const documents = ref<Schemas['DocumentView'][]>([])
const loaded = ref(false)

const SMALLEST = 320
const LARGEST = 1600
const STEP = 120
const kept = `aerarium-paper-${store.id}`
interface Place {
  document: number | null
  page: number
  width: number
}
const place = ref<Place>({ document: null, page: 1, width: 560 })
try {
  place.value = { ...place.value, ...(JSON.parse(localStorage.getItem(kept) ?? '{}') as Partial<Place>) }
} catch {
  localStorage.removeItem(kept)
}
watch(place, (now) => localStorage.setItem(kept, JSON.stringify(now)), { deep: true })

const clientId = computed(() => store.view.value.clientId)
onMounted(() =>
  act(async () => {
    const all = await call(api.GET('/api/clients/{id}/documents', { params: { path: { id: clientId.value } } }))
    documents.value = [...all].sort((a, b) => Number(b.returnId === store.id) - Number(a.returnId === store.id))
    if (!documents.value.some((d) => d.id === place.value.document))
      place.value = { ...place.value, document: documents.value[0]?.id ?? null, page: 1 }
    loaded.value = true
  }),
)
const shown = computed(() => documents.value.find((d) => d.id === place.value.document))
const choose = (event: Event) =>
  (place.value = { ...place.value, document: Number((event.target as HTMLSelectElement).value), page: 1 })
const zoom = (by: number) =>
  (place.value = { ...place.value, width: Math.min(LARGEST, Math.max(SMALLEST, place.value.width + by)) })
</script>

<template>
  <aside class="paper scroll pane" aria-label="Paper">
    <div class="head small">
      <select v-if="documents.length" :value="place.document" aria-label="Document" @change="choose">
        <option v-for="item in documents" :key="item.id" :value="item.id">{{ item.name }}, {{ item.kind }}</option>
      </select>
      <span v-if="shown" class="zoom">
        <button type="button" class="link" aria-label="Smaller" @click="zoom(-STEP)">−</button>
        <button type="button" class="link" aria-label="Larger" @click="zoom(STEP)">+</button>
      </span>
      <button type="button" class="link close" @click="emit('close')">Close</button>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-else-if="loaded && !documents.length" class="secondary">
      No documents yet. <router-link :to="`/clients/${clientId}`">Attach them on the client’s page</router-link>
    </p>
    <DocumentPreview
      v-if="shown"
      :key="shown.id"
      v-model:page="place.page"
      :client-id="clientId"
      :document="shown"
      :width="place.width"
    />
  </aside>
</template>

<style scoped>
.paper {
  border-left: 1px solid var(--hairline);
  background: var(--paper);
  padding: 14px 16px 30px;
}
.head {
  display: flex;
  gap: 14px;
  align-items: baseline;
}
select {
  min-width: 0;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: var(--paper);
  color: var(--ink);
  font: inherit;
}
.zoom {
  display: inline-flex;
  gap: 10px;
}
.close {
  margin-left: auto;
}
</style>
