<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, call } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import BrandMark from '../../shared/BrandMark.vue'
import { vFocus } from '../../shared/focus'

/** The first page of a new practice: its name and the person who administers it. */
const router = useRouter()
const session = useSession()
const typed = ref({
  code: '',
  practiceName: '',
  name: '',
  email: '',
  password: '',
  roles: ['manager'],
  worksAlone: false,
})
const { busy, problem, act } = useAct()
const roles = [
  { value: 'preparer', title: 'prepare returns' },
  { value: 'approver', title: 'approve and file them' },
  { value: 'manager', title: 'manage deadlines and particulars' },
]
const make = () =>
  act(async () => {
    await call(api.POST('/api/set-up', { body: typed.value }))
    await session.load()
    await router.push('/practice')
  })
</script>

<template>
  <main class="set-up">
    <BrandMark />
    <p>
      A new practice. The server wrote a code into the file <code>set-up-code</code> of its data folder; only who can
      read it sets the practice up.
    </p>
    <form @submit.prevent="make">
      <v-text-field v-model="typed.code" v-focus label="Code from the file" autocomplete="off" />
      <v-text-field v-model="typed.practiceName" label="Name of the practice" />
      <v-text-field v-model="typed.name" label="Your name" autocomplete="name" />
      <v-text-field v-model="typed.email" label="Your e-mail address" type="email" autocomplete="username" />
      <v-text-field
        v-model="typed.password"
        label="Choose a password, at least 12 characters"
        type="password"
        autocomplete="new-password"
      />
      <label
        ><input v-model="typed.worksAlone" type="checkbox" /> I work alone: I prepare and approve returns myself
        <span class="secondary small"
          >(otherwise somebody else approves what one has prepared; the rule can be changed later, and the Parcel says
          who approved)</span
        ></label
      >
      <fieldset v-if="!typed.worksAlone">
        <legend class="secondary">You will be the administrator. You also work as</legend>
        <label v-for="role in roles" :key="role.value"
          ><input v-model="typed.roles" type="checkbox" :value="role.value" /> {{ role.title }}</label
        >
      </fieldset>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <v-btn type="submit" :disabled="busy" block>Set the practice up</v-btn>
    </form>
  </main>
</template>

<style scoped>
.set-up {
  min-height: 100vh;
  display: grid;
  align-content: center;
  justify-content: center;
  grid-template-columns: 420px;
  gap: 14px;
}
form {
  display: grid;
  gap: 12px;
}
code {
  white-space: nowrap;
}
fieldset {
  border: 0;
  padding: 0;
  display: grid;
  gap: 4px;
}
p {
  margin: 0;
}
legend {
  padding: 0;
}
</style>
