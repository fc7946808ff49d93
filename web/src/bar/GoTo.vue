<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../api/client'
import { openReturn } from '../return/openReturn'
import { periodOf } from '../shared/format'
import { returnTargets } from './returnTargets'
import { search, type Target } from './search'

const router = useRouter()
const input = ref<HTMLInputElement>()
const typed = ref('')
const shown = ref(false)
const at = ref(0)
const returns = ref<Schemas['DeskItem'][]>([])
const clients = ref<Schemas['ClientListItem'][]>([])

const lines = computed<Target[]>(() => (openReturn.value ? returnTargets(openReturn.value) : []))
const places = computed<Target[]>(() => [
  ...returns.value.map((r) => ({
    kind: 'return',
    label: `${r.client}, ${periodOf(r)}`,
    detail: `${r.title}, ${r.stageLabel}`,
    words: '',
    to: `/returns/${r.id}/${r.place}`,
  })),
  ...clients.value.map((c) => ({
    kind: 'client',
    label: c.name,
    detail: c.identifier,
    words: '',
    to: `/clients/${c.id}`,
  })),
])
const found = computed(() => [...search(lines.value, typed.value, 8), ...places.value].slice(0, 14))

/** Lines are found here; returns and clients by the server, among however many there are. */
let latest = 0
watch(typed, async (text) => {
  at.value = 0
  const turn = ++latest
  if (!text.trim()) {
    returns.value = []
    clients.value = []
    return
  }
  const [desk, list] = await Promise.all([
    call(
      api.GET('/api/desk', {
        params: { query: { list: 'all', order: 'client', search: text, typos: true, limit: 6 } },
      }),
    ),
    call(api.GET('/api/clients', { params: { query: { search: text, typos: true, limit: 4 } } })),
  ])
  if (turn !== latest) return
  returns.value = desk.items
  clients.value = list.items
})

async function open() {
  shown.value = true
  await nextTick()
  input.value?.focus()
  input.value?.select()
}

function choose(target: Target | undefined) {
  if (!target) return
  shown.value = false
  typed.value = ''
  void router.push(target.to)
}

function onKey(event: KeyboardEvent) {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault()
    void open()
  }
}

function onInputKey(event: KeyboardEvent) {
  if (event.key === 'ArrowDown') at.value = Math.min(at.value + 1, found.value.length - 1)
  else if (event.key === 'ArrowUp') at.value = Math.max(at.value - 1, 0)
  else if (event.key === 'Enter') choose(found.value[at.value])
  else if (event.key === 'Escape') {
    shown.value = false
    input.value?.blur()
  } else return
  event.preventDefault()
  event.stopPropagation()
}
onMounted(() => window.addEventListener('keydown', onKey))
onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
</script>

<template>
  <div class="go-to">
    <input
      ref="input"
      v-model="typed"
      type="text"
      role="combobox"
      aria-label="Go to client, return, form, line or statutory reference"
      aria-controls="go-to-list"
      :aria-expanded="shown && found.length > 0"
      placeholder="Go to client, form, line ..."
      @focus="open"
      @blur="shown = false"
      @keydown="onInputKey"
    />
    <kbd>Ctrl K</kbd>
    <ul v-show="shown && typed" id="go-to-list" role="listbox" aria-label="Places found">
      <li
        v-for="(target, index) in found"
        :key="target.to + target.label"
        role="option"
        :aria-selected="index === at"
        :class="{ at: index === at }"
        @mousedown.prevent="choose(target)"
      >
        <span>{{ target.label }}</span>
        <span class="faint small">{{ target.kind }}, {{ target.detail }}</span>
      </li>
      <li v-if="!found.length" class="faint" role="option" aria-selected="false">No matches.</li>
    </ul>
  </div>
</template>

<style scoped>
.go-to {
  position: relative;
  display: flex;
  align-items: center;
  gap: 6px;
  border-bottom: 1px solid var(--hairline);
  width: 250px;
}
.go-to:focus-within {
  border-color: var(--verdigris);
}
input {
  flex: 1;
  min-width: 0;
  border: 0;
  outline: 0;
  background: none;
  color: var(--ink);
  font: inherit;
  padding: 5px 2px;
}
input::placeholder {
  color: var(--faint);
  opacity: 1;
}
ul {
  position: absolute;
  top: 34px;
  right: 0;
  width: 420px;
  max-height: 420px;
  overflow: auto;
  z-index: 40;
  list-style: none;
  margin: 0;
  padding: 4px 0;
  background: var(--page);
  border: 1px solid var(--hairline);
  border-radius: 4px;
  box-shadow: 0 6px 24px rgb(0 0 0 / 12%);
}
li {
  display: grid;
  padding: 5px 14px;
  cursor: pointer;
}
li.at {
  background: var(--verdigris-wash);
}
</style>
