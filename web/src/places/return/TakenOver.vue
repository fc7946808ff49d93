<script setup lang="ts">
import { inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { lineText, plural } from '../../shared/format'
import type { ReturnStore } from '../../return/returnStore'

const store = inject<ReturnStore>('return')!
const report = ref<Schemas['TakeOverReport'] | null>(null)
onMounted(async () => {
  report.value = (await call(api.GET('/api/returns/{id}/taken-over', { params: { path: { id: store.id } } }))) ?? null
})
const told = (line: Schemas['TakenLine']) => lineText(store.lineOf(line.line), line.value)
</script>

<template>
  <details v-if="report?.taken.length" class="taken">
    <summary>
      Taken over from {{ report.from }}: {{ plural(report.taken.length, 'line') }}, of which
      {{ report.toLookAt.length }} to look at again; {{ report.left.length }} left for this year's figures
    </summary>
    <h3>To look at again</h3>
    <p class="secondary small">Answers, choices and dates of last year that may have changed.</p>
    <ul>
      <li v-for="line in report.toLookAt" :key="line.line + line.row">
        <router-link :to="store.placeOfLine(line.line, line.row)">{{ line.label }}</router-link> {{ told(line) }}
      </li>
    </ul>
    <h3>Left</h3>
    <p class="secondary small">Amounts of {{ report.from }}; enter this return's own. The Margin shows both.</p>
    <ul>
      <li v-for="line in report.left" :key="line.line + line.row">
        <router-link v-if="store.lineOf(line.line)" :to="store.placeOfLine(line.line, line.row)">{{
          line.label
        }}</router-link>
        <template v-else>{{ line.label }}, no longer in the law</template>
        {{ ' ' }}<span class="secondary">{{ told(line) }}</span>
      </li>
    </ul>
  </details>
</template>

<style scoped>
.taken {
  margin: 56px 30px 0;
  max-width: 700px;
  padding: 8px 14px;
  border-left: 3px solid var(--bronze);
  background: var(--paper);
}
summary {
  cursor: pointer;
}
h3 {
  margin-top: 10px;
}
ul {
  margin: 4px 0;
  padding-left: 18px;
  columns: 2;
}
p {
  margin: 2px 0;
}
</style>
