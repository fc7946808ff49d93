<script setup lang="ts">
import { computed, inject, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import type { ReturnStore } from '../../return/returnStore'
import { useAct } from '../../shared/act'
import { amount, capital, plural } from '../../shared/format'

/** The figures of the law this return rests on that are not certain and that nobody verified, weighed by what they do to the balance. */
const store = inject<ReturnStore>('return')!
const { busy, problem, act } = useAct()
const note = ref<Schemas['LawNoteView'] | null>(null)
const moves = (figure: Schemas['UncertainFigure']) => Boolean(figure.moves) && figure.moves !== '0'
const moving = computed(() => note.value?.uncertain.filter(moves) ?? [])
const still = computed(() => note.value?.uncertain.filter((figure) => !moves(figure)) ?? [])
const place = (key: string) => ({
  path: '/law',
  query: {
    return: store.view.value.definition,
    year: store.view.value.year,
    ...(store.view.value.period ? { period: store.view.value.period } : {}),
    figure: key,
  },
})
onMounted(() =>
  act(async () => {
    note.value = await call(api.GET('/api/returns/{id}/law', { params: { path: { id: store.id } } }))
  }),
)
</script>

<template>
  <section aria-label="Uncertain figures of the law">
    <div class="rule-head">
      <h2>The law</h2>
      <span v-if="note" class="small secondary"
        >{{ note.verified }} of {{ plural(note.figures, 'figure') }} it rests on verified</span
      >
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-else-if="busy" class="secondary">Computing what uncertain figures do to the balance ...</p>
    <p v-else-if="note && !note.uncertain.length" class="secondary">
      Every figure this return rests on is certain or verified.
    </p>
    <template v-else-if="note">
      <table v-if="moving.length" class="plain">
        <thead>
          <tr>
            <th>Uncertain and not verified</th>
            <th class="amount">Says</th>
            <th class="amount">1% more of it</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="figure in moving" :key="figure.key">
            <td>
              <router-link :to="place(figure.key)">{{ capital(figure.label) }}</router-link>
              <span class="small secondary source"
                >{{ figure.source }}, <span class="unsure">{{ figure.confidence }}</span></span
              >
            </td>
            <td class="amount">{{ figure.value }}</td>
            <td class="amount">
              {{ amount(figure.moves!.replace('-', '')) }}
              {{ figure.moves!.startsWith('-') ? 'less' : 'more' }} to pay
            </td>
          </tr>
        </tbody>
      </table>
      <details v-if="still.length" class="small">
        <summary class="secondary">
          {{ plural(still.length, 'uncertain figure') }} with no effect on this return, or whose effect cannot be
          computed
        </summary>
        <p v-for="figure in still" :key="figure.key">
          <router-link :to="place(figure.key)">{{ capital(figure.label) }}</router-link>
          <span class="secondary">: {{ figure.value }}, {{ figure.confidence }}</span>
        </p>
      </details>
    </template>
  </section>
</template>

<style scoped>
details {
  margin-top: 8px;
}
details p {
  margin: 2px 0;
}
.source {
  display: block;
  margin-top: -2px;
}
.unsure {
  color: var(--brick);
}
</style>
