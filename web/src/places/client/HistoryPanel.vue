<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { moment } from '../../shared/format'

const props = defineProps<{ clientId: number }>()
const acts = ref<Schemas['ActView'][]>([])
const { problem, act } = useAct()
onMounted(() =>
  act(async () => {
    acts.value = await call(api.GET('/api/clients/{id}/acts', { params: { path: { id: props.clientId } } }))
  }),
)
</script>

<template>
  <section aria-label="History">
    <div class="rule-head">
      <h2>History</h2>
      <span class="small faint">every act on this client and its returns, latest first</span>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <table class="plain small">
      <thead>
        <tr>
          <th>When</th>
          <th>Who</th>
          <th>Act</th>
          <th>On</th>
          <th>Before</th>
          <th>After</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="item in acts" :key="item.id">
          <td class="when">{{ moment(item.at) }}</td>
          <td>{{ item.personName }}</td>
          <td>{{ item.act }}</td>
          <td>
            <router-link v-if="item.return" :to="`/returns/${item.returnId}/fill`">{{ item.return }}</router-link>
            {{ item.line }}
          </td>
          <td class="text">{{ item.before }}</td>
          <td class="text">{{ item.after }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped>
.when {
  white-space: nowrap;
}
.text {
  max-width: 260px;
  overflow-wrap: anywhere;
}
</style>
