<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { moment, plural } from '../../shared/format'
import RefusedNotice from '../../shared/RefusedNotice.vue'
import TopBar from '../../bar/TopBar.vue'

const session = useSession()
const view = ref<Schemas['AccountView'] | null>(null)
const offer = ref<Schemas['CodeOffer'] | null>(null)
const present = ref('')
const wanted = ref('')
const code = ref('')
const confirmed = ref('')
const recovery = ref<string[]>([])
const done = ref('')
const { busy, problem, act } = useAct()

const picture = computed(() => `data:image/svg+xml,${encodeURIComponent(offer.value?.picture ?? '')}`)

const load = async () => (view.value = await call(api.GET('/api/account')))
onMounted(() => act(load))

/** An act, then the account as it is now. */
const change = (said: string, work: () => Promise<unknown>) =>
  act(async () => {
    done.value = ''
    await work()
    await load()
    done.value = said
  })
const changePassword = () =>
  change('The password is changed; your other sessions are ended.', async () => {
    await call(api.POST('/api/account/password', { body: { password: present.value, newPassword: wanted.value } }))
    present.value = wanted.value = ''
  })
const askForOffer = () => act(async () => (offer.value = await call(api.POST('/api/account/codes/offer'))))
const turnOn = () =>
  change('One-time codes are on.', async () => {
    const answer = await call(
      api.POST('/api/account/codes/on', { body: { password: confirmed.value, code: code.value } }),
    )
    recovery.value = answer.codes
    offer.value = null
    code.value = confirmed.value = ''
  })
const renewRecovery = () =>
  change('New recovery codes were made; the old ones no longer work.', async () => {
    const answer = await call(api.POST('/api/account/codes/recovery', { body: { password: confirmed.value } }))
    recovery.value = answer.codes
    confirmed.value = ''
  })
const recoveryFile = computed(() => `data:text/plain;charset=utf-8,${encodeURIComponent(recovery.value.join('\r\n'))}`)
const turnOff = () =>
  change('One-time codes are off.', async () => {
    await call(api.POST('/api/account/codes/off', { body: { password: confirmed.value } }))
    confirmed.value = ''
    recovery.value = []
  })
const end = (id: number) =>
  change('The session is ended.', () =>
    call(api.DELETE('/api/account/sessions/{session}', { params: { path: { session: id } } })),
  )
</script>

<template>
  <div class="place">
    <TopBar />
    <main v-if="view" class="scroll account">
      <h1>{{ session.person?.name }}</h1>
      <RefusedNotice />
      <p class="secondary">{{ view.email }}, {{ session.person?.roles.join(', ') }}</p>
      <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
      <p class="secondary" role="status">{{ done }}</p>
      <section>
        <div class="rule-head"><h2>Sessions</h2></div>
        <table class="plain">
          <thead>
            <tr>
              <th>Began</th>
              <th>Last used</th>
              <th>Address</th>
              <th>Program</th>
              <th></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="item in view.sessions" :key="item.id">
              <td>{{ moment(item.startedAt) }}</td>
              <td>{{ moment(item.seenAt) }}</td>
              <td>{{ item.address }}</td>
              <td class="program small" :title="item.program">{{ item.program }}</td>
              <td class="amount">
                <span v-if="item.thisOne" class="secondary">this one</span>
                <button v-else class="link" :disabled="busy" @click="end(item.id)">End session</button>
              </td>
            </tr>
          </tbody>
        </table>
      </section>
      <section>
        <div class="rule-head">
          <h2>One-time codes</h2>
          <span class="small secondary">{{
            view.codesOn ? `on, ${plural(view.recoveryCodesLeft, 'recovery code')} left` : 'off'
          }}</span>
        </div>
        <div v-if="recovery.length" class="recovery" role="region" aria-label="Recovery codes">
          <p>
            Keep these recovery codes apart from the authenticator. Each lets you in once in place of a code; they are
            not shown again. <a :href="recoveryFile" download="aerarium-recovery-codes.txt">Save them as a file</a>
          </p>
          <ul>
            <li v-for="item in recovery" :key="item">{{ item }}</li>
          </ul>
        </div>
        <form v-if="view.codesOn" class="row" @submit.prevent="turnOff">
          <v-text-field
            v-model="confirmed"
            label="Your current password"
            type="password"
            autocomplete="current-password"
          />
          <v-btn variant="outlined" :disabled="busy || !confirmed" @click="renewRecovery">New recovery codes</v-btn>
          <v-btn type="submit" variant="outlined" :disabled="busy || !confirmed">Turn codes off</v-btn>
        </form>
        <form v-else-if="offer" class="offer" @submit.prevent="turnOn">
          <img class="picture" :src="picture" alt="The secret as a picture for an authenticator" />
          <div>
            <p>Let an authenticator read the picture, or type its secret:</p>
            <p class="secret">{{ offer.secret }}</p>
            <v-text-field v-model="code" label="The code it shows" inputmode="numeric" autocomplete="one-time-code" />
            <v-text-field
              v-model="confirmed"
              label="Your current password"
              type="password"
              autocomplete="current-password"
            />
            <v-btn type="submit" :disabled="busy || code.trim().length < 6 || !confirmed">Turn codes on</v-btn>
          </div>
        </form>
        <p v-else>
          A code that changes every thirty seconds is asked for beside the password.
          <button class="link" :disabled="busy" @click="askForOffer">Set them up</button>
        </p>
      </section>
      <section>
        <div class="rule-head"><h2>Password</h2></div>
        <form class="row" @submit.prevent="changePassword">
          <v-text-field v-model="present" label="Current password" type="password" autocomplete="current-password" />
          <v-text-field
            v-model="wanted"
            label="New password, at least 12 characters"
            type="password"
            autocomplete="new-password"
          />
          <v-btn type="submit" variant="outlined" :disabled="busy || !present || !wanted">Change the password</v-btn>
        </form>
      </section>
    </main>
  </div>
</template>

<style scoped>
.account {
  padding: 18px 30px 40px;
  background: var(--page);
}
.account > p {
  max-width: 860px;
  margin: 4px 0;
}
section {
  max-width: 860px;
  margin-top: 20px;
}
.program {
  max-width: 320px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.row {
  display: flex;
  gap: 18px;
  align-items: center;
  padding-top: 12px;
}
.row .v-text-field {
  max-width: 280px;
}
.offer {
  display: flex;
  gap: 24px;
  padding-top: 12px;
}
.picture {
  width: 170px;
  height: 170px;
}
.offer .v-btn {
  margin-top: 14px;
}
.recovery {
  padding-top: 12px;
}
.recovery p {
  margin: 0;
}
.recovery ul {
  display: grid;
  grid-template-columns: repeat(2, max-content);
  gap: 2px 36px;
  padding: 8px 0 0;
  margin: 0;
  list-style: none;
  font-weight: 600;
  letter-spacing: 0.04em;
}
.offer .v-text-field {
  margin-bottom: 10px;
}
.secret {
  font-weight: 600;
  letter-spacing: 0.06em;
  overflow-wrap: anywhere;
}
</style>
