<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../api/client'
import { useAct } from './act'
import { fileOf, saveKept } from './kept'

/** Above everything that lives in a file the client keeps: whether the file has the latest, saving, closing. */
const props = defineProps<{ id: number }>()
const router = useRouter()
const file = ref<Schemas['KeptView'] | null>(null)
const dropping = ref(false)
const { busy, problem, act } = useAct()
const EVERY_MS = 4_000
let timer: number | undefined

const look = async () => {
  file.value = (await call(api.GET('/api/kept'))).find((k) => k.id === fileOf(props.id)) ?? null
}
const quietly = () => void look().catch(() => undefined)
const save = () =>
  act(async () => {
    await saveKept(file.value!.id, file.value!.name)
    await look()
  })
const close = (drop: boolean) =>
  act(async () => {
    await call(api.DELETE('/api/kept/{kept}', { params: { path: { kept: file.value!.id }, query: { drop } } }))
    file.value = null
    await router.push('/clients')
  })
/** Leaving the page with changes that are in no file yet asks first. */
function onLeave(event: BeforeUnloadEvent) {
  if (file.value?.unsaved) event.preventDefault()
}
onMounted(() => {
  quietly()
  timer = window.setInterval(quietly, EVERY_MS)
  window.addEventListener('beforeunload', onLeave)
})
onBeforeUnmount(() => {
  window.clearInterval(timer)
  window.removeEventListener('beforeunload', onLeave)
})
</script>

<template>
  <aside class="kept small" aria-label="File kept by the client">
    <strong>Kept by the client</strong>
    <span>nothing of this is stored on the server; it is in memory until the file is closed.</span>
    <template v-if="file">
      <span role="status" :class="{ unsaved: file.unsaved }">{{
        file.unsaved ? 'Changes are not in the file yet.' : 'The file has everything.'
      }}</span>
      <button class="link" :disabled="busy" @click="save">Save the file</button>
      <button v-if="!file.unsaved" class="link" :disabled="busy" @click="close(false)">Close it</button>
      <button v-else-if="!dropping" class="link" @click="dropping = true">Close without saving</button>
      <button v-else class="link unsaved" :disabled="busy" @click="close(true)">Discard changes and close</button>
    </template>
    <span v-if="problem" class="unsaved" role="alert">{{ problem }}</span>
  </aside>
</template>

<style scoped>
.kept {
  display: flex;
  gap: 14px;
  align-items: baseline;
  padding: 6px 18px;
  background: color-mix(in srgb, var(--bronze) 14%, var(--paper));
  border-bottom: 1px solid var(--hairline);
}
.unsaved {
  color: var(--brick);
  font-weight: 600;
}
</style>
