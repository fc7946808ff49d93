<script setup lang="ts">
import { ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import BrandMark from '../../shared/BrandMark.vue'
import { vFocus } from '../../shared/focus'

const session = useSession()
const router = useRouter()
const route = useRoute()
const email = ref('')
const password = ref('')
const code = ref('')
const codeNeeded = ref(false)
const { busy, problem, act } = useAct()

const signIn = () =>
  act(async () => {
    if (!(await session.signIn(email.value, password.value, code.value || null))) {
      codeNeeded.value = true
      return
    }
    const to = String(route.query.to ?? '/desk')
    await router.push(to.startsWith('/') && !to.startsWith('//') ? to : '/desk')
  })
</script>

<template>
  <main class="sign-in">
    <form @submit.prevent="signIn">
      <BrandMark />
      <p class="secondary">{{ session.view?.practice ?? 'Returns of individuals and companies' }}</p>
      <v-text-field v-model="email" v-focus label="E-mail address" type="email" autocomplete="username" />
      <v-text-field v-model="password" label="Password" type="password" autocomplete="current-password" />
      <v-text-field
        v-if="codeNeeded"
        v-model="code"
        v-focus
        label="One-time code, or a recovery code"
        autocomplete="one-time-code"
      />
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <v-btn type="submit" :disabled="busy" block>Sign in</v-btn>
    </form>
    <section v-if="session.view?.demo?.length" class="demo" aria-label="Demonstration">
      <h2>Demonstration</h2>
      <p class="secondary small">Everybody here is made up. Choose who to be:</p>
      <button
        v-for="credential in session.view.demo"
        :key="credential.email"
        type="button"
        class="credential"
        @click="((email = credential.email), (password = credential.password), (codeNeeded = false))"
      >
        <strong>{{ credential.name }}</strong><span class="secondary">{{ credential.role }}</span>
        <span class="small secondary">{{ credential.email }}, {{ credential.password }}</span>
      </button>
    </section>
  </main>
</template>

<style scoped>
.sign-in {
  min-height: 100vh;
  display: grid;
  align-content: center;
  justify-content: center;
  grid-template-columns: 340px;
  gap: 34px;
}
form {
  display: grid;
  gap: 12px;
}
p {
  margin: 0;
}
.demo {
  border-top: 1px solid var(--hairline);
  padding-top: 16px;
  display: grid;
  gap: 4px;
}
.credential {
  display: grid;
  grid-template-columns: 1fr auto;
  border: 0;
  background: none;
  text-align: left;
  font: inherit;
  color: var(--ink);
  padding: 5px 8px;
  margin: 0 -8px;
  border-radius: 4px;
  cursor: pointer;
}
.credential:hover {
  background: var(--verdigris-wash);
}
.credential .small {
  grid-column: 1 / 3;
}
</style>
