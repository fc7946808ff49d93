<script setup lang="ts">
import { computed } from 'vue'
import { useSession } from '../session'
import { useAct } from './act'
import { moment, plural } from './format'

/** Tells of wrong attempts to sign in with one's address, until one has seen them. */
const session = useSession()
const { busy, act } = useAct()
const refused = computed(() => session.view?.refused ?? null)
</script>

<template>
  <p v-if="refused" class="banner warn refused" role="status">
    <span>
      {{ plural(refused.count, 'wrong attempt') }} to sign in with your address since you last signed in, the last on
      {{ moment(refused.lastAt) }} from {{ refused.lastFrom }}. If that was not you, change the password under
      <router-link to="/account">Your account</router-link>.
    </span>
    <button class="link" :disabled="busy" @click="act(session.seenRefused)">Dismiss</button>
  </p>
</template>

<style scoped>
.refused {
  display: flex;
  gap: 18px;
  align-items: baseline;
  justify-content: space-between;
}
</style>
