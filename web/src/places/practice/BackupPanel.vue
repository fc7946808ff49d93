<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { amount, moment } from '../../shared/format'

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
      <span :title="view.folder">backup folder</span>.
      <template v-if="view.encrypted">Each is encrypted with the passphrase the server was given.</template>
    </p>
    <p v-if="!view.encrypted" class="banner">
      Backups are not encrypted, and each holds the keys of the practice: whoever has the file can read every return and
      sign as the practice. Keep them where only you can read them, or give the server a passphrase
      (Backups:PassphraseFile).
    </p>
    <table v-if="view.files.length" class="plain">
      <thead>
        <tr>
          <th>Made</th>
          <th>File</th>
          <th>Protection</th>
          <th class="amount">Bytes</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="file in view.files" :key="file.name">
          <td>{{ moment(file.madeAt) }}</td>
          <td class="small">{{ file.name }}</td>
          <td>{{ file.encrypted ? 'encrypted' : 'keys in the clear' }}</td>
          <td class="amount">{{ amount(String(file.bytes)) }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
