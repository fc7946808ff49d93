<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import BrandMark from '../../shared/BrandMark.vue'
import { vFocus } from '../../shared/focus'

const session = useSession()
const route = useRoute()
const router = useRouter()
const offer = ref<Schemas['InvitationOffer'] | null>(null)
const password = ref('')
const { busy, problem, act } = useAct()
const params = { path: { token: String(route.params.token) } }

onMounted(() => act(async () => (offer.value = await call(api.GET('/api/invitations/{token}', { params })))))
const accept = () =>
  act(async () => {
    await call(api.POST('/api/invitations/{token}/accept', { params, body: { password: password.value } }))
    await session.load()
    await router.push('/desk')
  })
</script>

<template>
  <main class="invitation">
    <BrandMark />
    <form v-if="offer" @submit.prevent="accept">
      <p>
        <strong>{{ offer.practice }}</strong> invites {{ offer.name }} as {{ offer.roles.join(', ') }}. You sign in with
        {{ offer.email }}.
      </p>
      <v-text-field
        v-model="password"
        v-focus
        label="Choose a password, at least 12 characters"
        type="password"
        autocomplete="new-password"
      />
      <v-btn type="submit" :disabled="busy" block>Join the practice</v-btn>
    </form>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <router-link v-if="!offer" to="/sign-in">Sign in</router-link>
  </main>
</template>

<style scoped>
.invitation {
  min-height: 100vh;
  display: grid;
  align-content: center;
  justify-content: center;
  grid-template-columns: 380px;
  gap: 16px;
}
form {
  display: grid;
  gap: 12px;
}
p {
  margin: 0;
}
</style>
