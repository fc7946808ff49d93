<script setup lang="ts">
import { useRouter } from 'vue-router'
import { useSession } from '../session'
import GoTo from './GoTo.vue'

const session = useSession()
const router = useRouter()

async function signOut() {
  await session.signOut()
  await router.push('/sign-in')
}
</script>

<template>
  <header class="top-bar">
    <router-link to="/desk" class="mark" aria-label="Aerarium, to the Desk">
      <img src="/mark.svg" alt="" width="22" height="22" />
      <span>Aerarium</span>
    </router-link>
    <slot>
      <nav aria-label="Places">
        <router-link to="/desk">Desk</router-link>
        <router-link to="/clients">Clients</router-link>
        <router-link to="/law">Law</router-link>
        <router-link to="/practice">Practice</router-link>
        <router-link to="/acts">Acts</router-link>
      </nav>
    </slot>
    <span class="grow"></span>
    <GoTo />
    <slot name="state" />
    <v-menu location="bottom end">
      <template #activator="{ props }">
        <button class="person" v-bind="props" :aria-label="`Signed in as ${session.person?.name}`">
          {{ session.initials }}
        </button>
      </template>
      <div class="person-menu">
        <strong>{{ session.person?.name }}</strong>
        <span class="secondary">{{ session.person?.roles.join(', ') }}, {{ session.view?.practice }}</span>
        <router-link to="/account">Your account</router-link>
        <button class="link" @click="signOut">Sign out</button>
      </div>
    </v-menu>
  </header>
</template>

<style scoped>
.top-bar {
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 0 18px;
  border-bottom: 1px solid var(--hairline);
  background: var(--paper);
  min-width: 0;
}
.mark {
  display: flex;
  align-items: center;
  gap: 8px;
  color: var(--ink);
  font: 600 20px var(--serif);
}
.mark:hover {
  text-decoration: none;
}
nav {
  display: flex;
  gap: 4px;
  align-self: stretch;
}
nav a {
  display: flex;
  align-items: center;
  padding: 0 10px;
  color: var(--secondary);
  font-weight: 400;
  border-bottom: 2px solid transparent;
}
nav a.router-link-active {
  color: var(--ink);
  font-weight: 600;
  border-color: var(--verdigris);
}
.grow {
  flex: 1;
}
.person {
  width: 28px;
  height: 28px;
  border-radius: 50%;
  border: 0;
  background: var(--verdigris-wash);
  color: var(--verdigris);
  font: 600 11px var(--sans);
  cursor: pointer;
}
.person-menu {
  display: grid;
  gap: 4px;
  padding: 12px 16px;
  margin-top: 6px;
  background: var(--page);
  border: 1px solid var(--hairline);
  border-radius: 4px;
  color: var(--ink);
}
</style>
