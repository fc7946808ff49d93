<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { moment } from '../../shared/format'

const view = ref<Schemas['BackupsView'] | null>(null)
const made = ref<Schemas['BackupContents'] | null>(null)
const { busy, problem, act } = useAct()

const load = async () => (view.value = await call(api.GET('/api/backups')))
onMounted(() => act(load))
const make = () =>
  act(async () => {
    made.value = await call(api.POST('/api/backups'))
    await load()
  })
</script>

<template>
  <section v-if="view" aria-label="Backups">
    <div class="rule-head">
      <h2>Backups</h2>
      <button class="link" :disabled="busy" @click="make">{{ busy ? 'Backing up ...' : 'Back up now' }}</button>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="made" role="status">
      Made, restored to a folder of its own and found whole: {{ made.returns }} returns of {{ made.clients }} clients,
      {{ made.acts }} acts in an unbroken chain.
    </p>
    <p class="secondary">
      {{ view.everyHours > 0 ? `By itself every ${view.everyHours} hours` : 'Not made by itself' }}, in the
      <span :title="view.folder">backup folder</span>. Each holds the keys too; guard the folder as you guard the data.
    </p>
    <table v-if="view.files.length" class="plain">
      <thead>
        <tr>
          <th>Made</th>
          <th>File</th>
          <th class="amount">Bytes</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="file in view.files" :key="file.name">
          <td>{{ moment(file.madeAt) }}</td>
          <td class="small">{{ file.name }}</td>
          <td class="amount">{{ file.bytes }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
