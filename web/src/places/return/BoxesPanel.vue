<script setup lang="ts">
import { computed, inject } from 'vue'
import type { Form, Line, ReturnStore } from '../../return/returnStore'

/** The papers of a page box by box: on which line each box is entered, and into which lines it goes from there. */
const props = defineProps<{ form: Form }>()
const store = inject<ReturnStore>('return')!
const boxes = computed(() =>
  props.form.sections
    .filter((section) => store.openSections.value.has(section.key))
    .flatMap((section) => section.lines)
    .filter((line) => line.from),
)
const into = (line: Line) => line.into.map((key) => store.lineOf(key)).filter((l): l is Line => Boolean(l))
</script>

<template>
  <section class="boxes" aria-label="Boxes of papers">
    <div class="rule-head">
      <h2>Boxes of papers</h2>
      <span class="small secondary">where each box is entered, and where it goes from there</span>
    </div>
    <table class="plain small">
      <thead>
        <tr>
          <th>Box</th>
          <th>Entered on</th>
          <th>Goes into</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="line in boxes" :key="line.key">
          <td>{{ line.from }}</td>
          <td>
            <router-link :to="store.placeOfLine(line.key)">{{ line.number }} {{ line.label }}</router-link>
          </td>
          <td>
            <template v-for="(end, index) in into(line)" :key="end.key"
              ><template v-if="index">, </template
              ><router-link :to="store.placeOfLine(end.key)">{{ end.number }} {{ end.label }}</router-link></template
            >
            <span v-if="!line.into.length" class="faint">no figure</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.boxes {
  margin: 48px 30px 0;
  padding: 14px 18px 18px;
  max-width: 860px;
  border: 1px solid var(--hairline);
  border-radius: 4px;
  background: var(--paper);
}
td {
  vertical-align: top;
}
td:first-child {
  white-space: nowrap;
  padding-right: 16px;
}
</style>
