<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import TopBar from '../../bar/TopBar.vue'

/** Where the authority sends the person back to, with a code or with a refusal. */
const query = useRoute().query
const router = useRouter()
const text = (name: string) => (typeof query[name] === 'string' ? query[name] : null)
const given = ref<Schemas['ConsentGiven'] | null>(null)
const { problem, busy, act } = useAct()
onMounted(() =>
  act(async () => {
    // A code works once; it need not stay in the address.
    void router.replace('/practice/consent')
    given.value = await call(
      api.POST('/api/practice/consent/finish', {
        body: { state: text('state'), code: text('code'), error: text('error') },
      }),
    )
  }),
)
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll returned">
      <h1>Consent at the authority</h1>
      <p v-if="busy" class="secondary" role="status">Exchanging the consent ...</p>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <p v-if="given" role="status">
        The practice is connected with {{ given.authority }}. A secret kept for it before was forgotten.
      </p>
      <router-link to="/practice">Back to Practice</router-link>
    </main>
  </div>
</template>

<style scoped>
.returned {
  padding: 18px 30px 40px;
}
</style>
