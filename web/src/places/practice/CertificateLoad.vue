<script setup lang="ts">
import { ref } from 'vue'
import { api, call } from '../../api/client'
import { useAct } from '../../shared/act'

/** Loads the certificate e-returns are signed with, from a PKCS#12 file. */
const emit = defineEmits<{ changed: [] }>()
const { busy, problem, act } = useAct()
const file = ref<File | null>(null)
const passphrase = ref('')
const load = () =>
  act(async () => {
    const bytes = new Uint8Array(await file.value!.arrayBuffer())
    const content = btoa(bytes.reduce((text, byte) => text + String.fromCharCode(byte), ''))
    await call(api.PUT('/api/practice/certificate', { body: { content, passphrase: passphrase.value } }))
    passphrase.value = ''
    emit('changed')
  })
</script>

<template>
  <form class="certificate" @submit.prevent="load">
    <label
      >Another certificate (.p12, .pfx)
      <input
        type="file"
        accept=".p12,.pfx"
        aria-label="Certificate file"
        @change="file = ($event.target as HTMLInputElement).files?.[0] ?? null"
    /></label>
    <label>Passphrase <input v-model="passphrase" type="password" autocomplete="off" /></label>
    <button class="link" type="submit" :disabled="busy || !file">Sign with it from now on</button>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  </form>
</template>

<style scoped>
.certificate {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 20px;
  align-items: center;
  padding-top: 8px;
}
.banner {
  flex-basis: 100%;
  margin: 0;
}
input[type='password'] {
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  color: var(--ink);
  font: inherit;
}
</style>
