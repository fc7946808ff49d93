<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import type { Question } from './deskList'

const props = defineProps<{
  chosen: number[]
  total: number
  question: Question
  holders: Schemas['DeskHolder'][]
}>()
const emit = defineEmits<{ clear: []; changed: [] }>()
const session = useSession()
const wholeList = ref(false)
const holder = ref<number | null>(null)
const tag = ref('')
const confirming = ref(false)
const batch = ref<Schemas['BatchView'] | null>(null)
const results = ref<Schemas['BatchResults'] | null>(null)
const { busy, problem, act } = useAct()
const words: Record<string, string> = {
  assign: 'Assigning',
  tag: 'Tagging',
  untag: 'Taking the tag off',
  recheck: 'Checking again',
  'roll-forward': 'Rolling forward',
  build: 'Building',
  send: 'Sending',
  export: 'Exporting',
  'follow-practice': 'Following the practice’s particulars',
  'follow-law': 'Following the corrected law',
}
const count = computed(() => (wholeList.value ? props.total : props.chosen.length))
const path = () => ({ params: { path: { batch: batch.value!.id } } })
/** Taking the whole list is chosen anew every time. */
watch(
  () => props.chosen.length,
  (count) => count === 0 && (wholeList.value = false),
)
let timer: number | undefined

async function follow() {
  window.clearTimeout(timer)
  if (!batch.value) return
  results.value = await call(api.GET('/api/batches/{batch}', path()))
  batch.value = results.value.batch
  if (batch.value.state === 'running') timer = window.setTimeout(follow, 400)
  else emit('changed')
}
const start = (name: string, argument: string | null = null) =>
  act(async () => {
    confirming.value = false
    const body = wholeList.value
      ? { act: name, argument, returns: null, list: props.question }
      : { act: name, argument, returns: props.chosen, list: null }
    batch.value = await call(api.POST('/api/batches', { body }))
    await follow()
  })
const stop = () => act(async () => (batch.value = await call(api.POST('/api/batches/{batch}/stop', path()))))
const goOn = () =>
  act(async () => {
    batch.value = await call(api.POST('/api/batches/{batch}/go-on', path()))
    await follow()
  })
function close() {
  batch.value = null
  results.value = null
  if (props.chosen.length) emit('clear')
}

/** A batch that was running or stopped when the page was left is shown again. */
onMounted(async () => {
  const mine = await call(api.GET('/api/batches'))
  batch.value = mine.find((b) => b.state !== 'done') ?? null
  await follow()
})
onBeforeUnmount(() => window.clearTimeout(timer))
</script>

<template>
  <aside v-if="batch || chosen.length" class="batch" aria-label="Acts on many returns">
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <template v-if="batch">
      <div class="row" role="status">
        <strong>{{ words[batch.act] }}</strong>
        <progress :max="batch.total" :value="batch.done + batch.refused" :aria-label="words[batch.act]"></progress>
        <span>
          {{ batch.done + batch.refused }} of {{ batch.total
          }}<template v-if="batch.refused">, {{ batch.refused }} refused</template>, {{ batch.state }}
        </span>
        <a
          v-if="batch.act === 'export' && batch.state === 'done' && batch.done"
          :href="`/api/batches/${batch.id}/parcels.zip`"
          download
          >Download {{ batch.done === 1 ? 'the Parcel' : `${batch.done} Parcels` }}</a
        >
        <button v-if="batch.state === 'running'" class="link" :disabled="busy" @click="stop">Stop</button>
        <button v-else-if="batch.state === 'stopped'" class="link" :disabled="busy" @click="goOn">Continue</button>
        <span class="grow"></span>
        <button v-if="batch.state !== 'running'" class="link" @click="close">Close</button>
      </div>
      <ul v-if="results?.refused.length" class="refused">
        <li v-for="item in results.refused" :key="item.position">
          <router-link :to="`/returns/${item.returnId}`">{{ item.clientName }} {{ item.year }}</router-link
          >: {{ item.result }}
        </li>
      </ul>
    </template>
    <div v-else-if="confirming" class="row">
      <span>This files {{ count }} {{ count === 1 ? 'return' : 'returns' }}. This cannot be undone.</span>
      <v-btn :disabled="busy" @click="start('send')">File them</v-btn>
      <button class="link" @click="confirming = false">Cancel</button>
    </div>
    <div v-else class="row">
      <strong>{{ count }} selected</strong>
      <label v-if="total > chosen.length"
        ><input v-model="wholeList" type="checkbox" /> all {{ total }} of the list</label
      >
      <select v-model="holder" aria-label="Assign to" @change="holder && start('assign', String(holder))">
        <option :value="null">Assign to ...</option>
        <option v-for="person in holders" :key="person.id" :value="person.id">{{ person.name }}</option>
      </select>
      <form @submit.prevent="start('tag', tag)">
        <input v-model="tag" aria-label="Tag" placeholder="Tag" maxlength="30" />
        <button class="link" :disabled="!tag.trim() || busy">Add tag</button>
        <button type="button" class="link" :disabled="!tag.trim() || busy" @click="start('untag', tag)">
          Remove tag
        </button>
      </form>
      <button class="link" :disabled="busy" @click="start('recheck')">Check again</button>
      <button class="link" :disabled="busy" @click="start('roll-forward')">Roll forward</button>
      <button class="link" :disabled="busy" @click="start('build')">Build</button>
      <button v-if="session.mayApprove" class="link" :disabled="busy" @click="confirming = true">Send</button>
      <button class="link" :disabled="busy" @click="start('export')">Export Parcels</button>
      <span class="grow"></span>
      <button class="link" @click="emit('clear')">Clear selection</button>
    </div>
  </aside>
</template>

<style scoped>
.batch {
  padding: 8px 18px;
  border-top: 1px solid var(--ink);
  background: var(--paper);
}
.row,
form {
  display: flex;
  align-items: center;
  gap: 16px;
}
form {
  gap: 8px;
}
.grow {
  flex: 1;
}
select,
form input {
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: var(--ink);
  font: inherit;
}
form input {
  width: 90px;
}
progress {
  width: 180px;
  accent-color: var(--verdigris);
}
.refused {
  margin: 6px 0 0;
  padding-left: 18px;
  max-height: 130px;
  overflow: auto;
}
.banner {
  margin: 0 0 6px;
}
.link:disabled {
  color: var(--faint);
  cursor: default;
}
</style>
