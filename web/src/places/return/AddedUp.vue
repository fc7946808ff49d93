<script setup lang="ts">
import { computed, inject } from 'vue'
import { amount } from '../../shared/format'
import type { ReturnStore } from '../../return/returnStore'

/** What the rows of a page come to where they go: the statements beside the accounts, so that each account shows its effect at once. */
const props = defineProps<{ form: string }>()
const store = inject<ReturnStore>('return')!
const form = computed(() => store.layout.forms.find((f) => f.key === props.form)!)
const valueOf = (key: string) => store.valueOf(key, null)?.value ?? '0'
/** Totals, and whatever is not zero. */
const sections = computed(() =>
  form.value.sections
    .filter((section) => !section.table)
    .map((section) => ({
      title: section.title,
      lines: section.lines
        .filter((line) => line.rule !== 'none' || Number(valueOf(line.key)) !== 0)
        .map((line) => ({ ...line, value: valueOf(line.key) })),
    }))
    .filter((section) => section.lines.length),
)
const findings = computed(() =>
  store.findings.value.filter((f) => f.lines.some((key) => store.formOf(key)?.key === props.form)),
)
</script>

<template>
  <section :aria-label="form.title">
    <p v-for="finding in findings" :key="finding.id" class="differs small">{{ finding.message }}</p>
    <template v-for="section in sections" :key="section.title">
      <h3>{{ section.title }}</h3>
      <p v-for="line in section.lines" :key="line.key" class="line" :class="{ total: line.rule !== 'none' }">
        <router-link :to="store.placeOfLine(line.key)">{{ line.label }}</router-link>
        <span class="amount">{{ amount(line.value) || '0' }}</span>
      </p>
    </template>
  </section>
</template>

<style scoped>
.differs {
  color: var(--brick);
  margin: 10px 0;
}
h3 {
  margin: 14px 0 2px;
}
.line {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 10px;
  margin: 0;
  padding: 3px 0;
  border-bottom: 1px solid var(--hairline);
}
.line a {
  color: inherit;
  font-weight: inherit;
}
.total {
  font-weight: 600;
}
</style>
