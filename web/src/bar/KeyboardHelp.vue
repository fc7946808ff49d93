<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref } from 'vue'

const shown = ref(false)
const keys: [string, string][] = [
  ['Enter, Shift+Enter', 'next and previous entry line'],
  ['Ctrl+K', 'go to a client, return, form, line or statutory reference'],
  ['Alt+J, Alt+K', 'next and previous finding'],
  ['Alt+M, Alt+P', 'show or hide the Margin, or a paper beside the page'],
  ['Alt+I', 'insert a row below'],
  ['Alt+Y', 'duplicate a row'],
  ['Ctrl+Z, Ctrl+Shift+Z', 'undo and redo across the return'],
  ['+ - * / % ( )', 'in an amount: computed on leaving the field, kept with the entry'],
  ['Tab, Enter', 'in a grid: next cell to type into, cell beneath; Enter takes a proposed amount'],
  ['F2, Delete', 'in a grid: edit, clear'],
  ['Alt+L, Alt+S, Enter', 'in a trial balance: map as proposed, split the account, next to map'],
  ['Ctrl+D, Ctrl+C, Ctrl+V', 'in a grid: fill down, copy, paste a block'],
  ['Shift+arrows, Ctrl+A, Ctrl+-', 'in a grid: select cells, select all, remove rows'],
  ['Esc', 'the value before the edit'],
  ['Y, N and arrows', 'in Scope: answer and move'],
  ['J, K, Enter', 'on the Desk: move and open'],
  ['X', 'on the Desk: choose for an act on many'],
]

function onKey(event: KeyboardEvent) {
  const typing = (event.target as HTMLElement).closest('input, textarea, select')
  if (event.key === '?' && !typing) {
    shown.value = !shown.value
    event.preventDefault()
  } else if (event.key === 'Escape') shown.value = false
}
onMounted(() => window.addEventListener('keydown', onKey))
onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
</script>

<template>
  <aside v-if="shown" class="help" role="dialog" aria-label="Keyboard">
    <h2>Keyboard</h2>
    <dl>
      <template v-for="[key, what] in keys" :key="key">
        <dt>{{ key }}</dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
    <button class="link" @click="shown = false">Close</button>
  </aside>
</template>

<style scoped>
.help {
  position: fixed;
  right: 18px;
  bottom: 76px;
  z-index: 50;
  background: var(--page);
  border: 1px solid var(--hairline);
  border-radius: 6px;
  padding: 16px 20px;
  box-shadow: 0 6px 24px rgb(0 0 0 / 12%);
  max-width: 520px;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 16px;
  margin: 10px 0;
}
dt {
  font-weight: 600;
}
dd {
  margin: 0;
  color: var(--secondary);
}
</style>
