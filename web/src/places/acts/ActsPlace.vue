<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { moment } from '../../shared/format'
import TopBar from '../../shared/TopBar.vue'

const view = ref<Schemas['ActsView'] | null>(null)
onMounted(async () => (view.value = await call(api.GET('/api/acts'))))
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll acts">
      <h1>Ledger of acts</h1>
      <template v-if="view">
        <p v-if="view.firstBroken == null" class="secondary">The chain is unbroken from the first act to the last.</p>
        <p v-else class="banner bad" role="alert">
          The chain breaks at act {{ view.firstBroken }}: it, or one before it, was altered outside the application.
        </p>
        <table class="plain">
          <thead>
            <tr>
              <th>No.</th>
              <th>When</th>
              <th>Who</th>
              <th>Act</th>
              <th>Return</th>
              <th>Line</th>
              <th>Before</th>
              <th>After</th>
              <th>Origin</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="act in view.acts" :key="act.id">
              <td class="faint">{{ act.id }}</td>
              <td>{{ moment(act.at) }}</td>
              <td>{{ act.personName }}</td>
              <td>{{ act.kind }}</td>
              <td>
                <router-link v-if="act.returnId" :to="`/returns/${act.returnId}/fill`">{{ act.returnId }}</router-link>
              </td>
              <td class="cut">{{ act.line }}</td>
              <td class="cut">{{ act.before }}</td>
              <td class="cut">{{ act.after }}</td>
              <td class="secondary">{{ act.origin }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </main>
  </div>
</template>

<style scoped>
.acts {
  padding: 18px 30px 40px;
  background: var(--page);
}
.cut {
  max-width: 240px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
</style>
