<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { amount, moment } from '../../shared/format'
import BrandMark from '../../shared/BrandMark.vue'

/** What a client sees through the link: the approved return, read-only, and one answer. */
const path = { token: String(useRoute().params.token) }
const view = ref<Schemas['ClientCopyView'] | null>(null)
const name = ref('')
const remark = ref('')
const { busy, problem, act } = useAct()
onMounted(() => act(async () => (view.value = await call(api.GET('/api/acceptance/{token}', { params: { path } })))))
const answer = (accept: boolean) =>
  act(async () => {
    const body = { accept, name: name.value, remark: remark.value }
    view.value = await call(api.POST('/api/acceptance/{token}', { params: { path }, body }))
  })
</script>

<template>
  <main class="accept">
    <p class="brand">
      <BrandMark /> <span v-if="view">{{ view.practice }}</span>
    </p>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <template v-if="view">
      <h1>{{ view.client }}</h1>
      <p class="secondary">
        {{ view.title }}, {{ view.period }}, {{ view.kind }}; approved {{ moment(view.approvedAt) }}
      </p>
      <table class="plain">
        <tbody>
          <tr
            v-for="(figure, index) in view.figures"
            :key="figure.label"
            :class="{ last: index === view.figures.length - 1 }"
          >
            <td>{{ index === view.figures.length - 1 ? view.balanceWords : figure.label }}</td>
            <td class="amount">
              {{ amount(index === view.figures.length - 1 ? figure.amount.replace('-', '') : figure.amount) || '0' }}
              <template v-if="index === view.figures.length - 1">{{ view.currency }}</template>
            </td>
          </tr>
        </tbody>
      </table>
      <p>
        <a :href="`/api/acceptance/${path.token}/copy.pdf`" target="_blank" rel="noopener"
          >Read the whole return (PDF)</a
        >
      </p>
      <p v-if="view.answer" class="banner" role="status">
        You {{ view.answer }} this return, {{ moment(view.answeredAt) }}. Thank you; you can close this page.
      </p>
      <form v-else @submit.prevent="answer(true)">
        <v-text-field v-model="name" label="Your name" autocomplete="name" />
        <v-text-field v-model="remark" label="Remark; needed when something is not right" />
        <p class="acts">
          <v-btn type="submit" :disabled="busy || !name.trim()">Accept this return</v-btn>
          <v-btn variant="outlined" :disabled="busy || !name.trim()" @click="answer(false)">Something is wrong</v-btn>
        </p>
        <p class="small secondary">Your answer can be given once. The practice files the return only after that.</p>
      </form>
    </template>
  </main>
</template>

<style scoped>
.accept {
  width: 100%;
  max-width: 620px;
  margin: 0 auto;
  padding: 40px 24px;
}
.brand {
  display: flex;
  align-items: center;
  gap: 10px;
  font-weight: 600;
}
.last td {
  border-top: 1px solid var(--ink);
  border-bottom: 3px double var(--ink);
  font-weight: 600;
  color: var(--bronze);
}
form {
  margin-top: 20px;
}
.acts {
  display: flex;
  gap: 16px;
  margin-top: 12px;
}
</style>
