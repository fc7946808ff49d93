<script setup lang="ts">
import { inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { amount, difference, lineText } from '../../shared/format'
import type { ReturnStore } from '../../return/returnStore'

/** What an amended return changes against the filed one. */
const store = inject<ReturnStore>('return')!
const report = ref<Schemas['AmendmentReport'] | null>(null)
onMounted(async () => {
  report.value = (await call(api.GET('/api/returns/{id}/amendment', { params: { path: { id: store.id } } }))) ?? null
})
const told = (line: Schemas['AmendedLine'], value: string | null | undefined) =>
  lineText(store.lineOf(line.line), value) || 'blank'
</script>

<template>
  <section v-if="report" aria-label="What the amendment changes">
    <div class="rule-head">
      <h2>What this amendment changes</h2>
      <router-link class="small" :to="`/returns/${report.filedReturn}/fill`"
        >filed as {{ report.acknowledgement }}</router-link
      >
    </div>
    <p v-if="!report.lines.length" class="secondary">Nothing yet; it says what was filed.</p>
    <table v-else class="plain">
      <thead>
        <tr>
          <th>Line</th>
          <th class="amount">Filed</th>
          <th class="amount">Now</th>
          <th class="amount">Difference</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in report.lines" :key="`${line.line} ${line.row}`" :class="{ computed: line.computed }">
          <td>
            <router-link :to="store.placeOfLine(line.line, line.row)">{{ line.label }}</router-link>
            <span class="small secondary"> {{ line.rowLabel ?? line.form }}</span>
          </td>
          <td class="amount secondary">{{ told(line, line.filed) }}</td>
          <td class="amount">{{ told(line, line.now) }}</td>
          <td class="amount">
            {{ line.kind === 'money' ? amount(difference(line.now ?? '0', line.filed ?? '0')) : '' }}
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 22px;
}
td .small {
  margin-left: 6px;
}
.computed a {
  color: var(--ink);
  font-weight: 400;
}
</style>
