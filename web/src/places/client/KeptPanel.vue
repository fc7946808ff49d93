<script setup lang="ts">
import { computed, onMounted, reactive, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { capital } from '../../shared/format'
import { base64 } from '../../shared/kept'

/** Clients who want nothing stored on the practice's server: their files are begun and opened here. */
const router = useRouter()
const open = ref<Schemas['KeptView'][]>([])
const file = ref<File | null>(null)
const country = ref('ke')
const countries = ref<Schemas['CountryView'][]>([])
const passphrase = ref('')
const typed = reactive({ identifier: '', name: '', passphrase: '', again: '' })
const problems = reactive<Record<string, string>>({})
const { busy, problem, act } = useAct()
onMounted(() =>
  act(async () => {
    open.value = await call(api.GET('/api/kept'))
    countries.value = await call(api.GET('/api/countries'))
  }),
)
const identifierLabel = computed(() =>
  capital(countries.value.find((c) => c.code === country.value)?.identifierLabel ?? 'identifier'),
)

const openFile = () =>
  act(async () => {
    const opened = await call(
      api.POST('/api/kept/open', { body: { file: await base64(file.value!), passphrase: passphrase.value } }),
    )
    await router.push(`/clients/${opened.id}`)
  })
const begin = () =>
  act(async () => {
    for (const key of Object.keys(problems)) delete problems[key]
    if (typed.passphrase !== typed.again) {
      problems.again = 'The two passphrases differ.'
      return
    }
    const { identifier, name } = typed
    const begun = await call(
      api.POST('/api/kept', {
        body: {
          client: { country: country.value, kind: 'individual', identifier, name },
          passphrase: typed.passphrase,
        },
      }),
    )
    for (const found of begun.problems) problems[found.field] = found.message
    if (begun.opened) await router.push(`/clients/${begun.opened.id}`)
  })
</script>

<template>
  <section class="kept" aria-label="Kept by the client">
    <p>
      A client may ask that nothing is stored here. Such a client lives in one encrypted file that you open and save;
      while it is open it is in the server’s memory only. Without the passphrase nobody can open it, not even we.
    </p>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <ul v-if="open.length" aria-label="Open files">
      <li v-for="item in open" :key="item.id">
        <router-link :to="`/clients/${item.id}`">{{ item.name }}</router-link>
        <span class="secondary small">{{ item.unsaved ? 'open, changes not in the file yet' : 'open' }}</span>
      </li>
    </ul>
    <div class="both">
      <form aria-label="Open a file" @submit.prevent="openFile">
        <h3>Open a file</h3>
        <input
          type="file"
          accept=".aer"
          aria-label="File kept by the client"
          @change="file = ($event.target as HTMLInputElement).files?.[0] ?? null"
        />
        <v-text-field v-model="passphrase" label="Passphrase" type="password" autocomplete="off" />
        <v-btn type="submit" :disabled="busy || !file || !passphrase">{{ busy ? 'Opening ...' : 'Open' }}</v-btn>
      </form>
      <form aria-label="Create a file" @submit.prevent="begin">
        <h3>Create a file</h3>
        <v-select v-model="country" label="Country" :items="countries" item-title="name" item-value="code" />
        <v-text-field v-model="typed.identifier" :label="identifierLabel" :error-messages="problems.identifier" />
        <v-text-field v-model="typed.name" label="Official name" :error-messages="problems.name" />
        <v-text-field
          v-model="typed.passphrase"
          label="Passphrase, at least 12 characters"
          type="password"
          autocomplete="new-password"
        />
        <v-text-field
          v-model="typed.again"
          label="The passphrase again"
          type="password"
          autocomplete="new-password"
          :error-messages="problems.again"
        />
        <v-btn type="submit" :disabled="busy || typed.passphrase.length < 12">{{
          busy ? 'Creating ...' : 'Create'
        }}</v-btn>
      </form>
    </div>
  </section>
</template>

<style scoped>
.kept {
  max-width: 860px;
  padding-bottom: 18px;
}
.both {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 40px;
  align-items: start;
}
form {
  display: grid;
  gap: 10px;
  justify-items: start;
}
form > :deep(.v-input) {
  width: 100%;
}
</style>
