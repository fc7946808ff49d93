<script setup lang="ts">
import { onMounted, reactive, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import { moment } from '../../shared/format'
import { vFocus } from '../../shared/focus'

type Person = Schemas['PersonView']

const roles = ['preparer', 'approver', 'manager', 'administrator', 'reader']
const view = ref<Schemas['PeopleView'] | null>(null)
const editing = ref<number | null>(null)
const draft = reactive({ roles: [] as string[], teams: '', active: true })
const invite = reactive({ name: '', email: '', roles: [] as string[] })
const inviting = ref(false)
const invited = ref('')
const { busy, problem, act } = useAct()

const load = async () => (view.value = await call(api.GET('/api/people')))
onMounted(() => act(load))

const nameOfTeam = (id: number) => view.value!.teams.find((team) => team.id === id)?.name ?? ''
const change = (work: () => Promise<unknown>) =>
  act(async () => {
    await work()
    await load()
  })

function edit(person: Person) {
  editing.value = person.id
  draft.roles = [...person.roles]
  draft.teams = person.teams.map(nameOfTeam).join(', ')
  draft.active = person.active
}
const path = () => ({ path: { person: editing.value! } })
async function save() {
  const body = { roles: draft.roles, teams: draft.teams.split(','), active: draft.active }
  if (await change(() => call(api.PUT('/api/people/{person}', { params: path(), body })))) editing.value = null
}
const endSessions = () => change(() => call(api.POST('/api/people/{person}/end-sessions', { params: path() })))
const letIn = () => change(() => call(api.POST('/api/people/{person}/let-in', { params: path() })))
const codesOff = () => change(() => call(api.POST('/api/people/{person}/codes-off', { params: path() })))
const send = () =>
  change(async () => {
    const answer = await call(api.POST('/api/people/invitations', { body: invite }))
    invited.value = location.origin + answer.path
    inviting.value = false
    Object.assign(invite, { name: '', email: '', roles: [] })
  })
</script>

<template>
  <section v-if="view" aria-label="People">
    <div class="rule-head">
      <h2>People</h2>
      <button class="link" @click="((inviting = !inviting), (invited = ''))">Invite somebody</button>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="invited" class="banner" role="status">
      Give this address to the person invited; it is shown once and is good for seven days:
      <strong class="address">{{ invited }}</strong>
    </p>
    <form v-if="inviting" class="panel" @submit.prevent="send">
      <v-text-field v-model="invite.name" v-focus label="Name" />
      <v-text-field v-model="invite.email" label="E-mail address" />
      <fieldset>
        <legend class="small secondary">Roles</legend>
        <label v-for="role in roles" :key="role"
          ><input v-model="invite.roles" type="checkbox" :value="role" /> {{ role }}</label
        >
      </fieldset>
      <v-btn type="submit" :disabled="busy">Make the invitation</v-btn>
    </form>
    <table class="plain">
      <thead>
        <tr>
          <th>Name</th>
          <th>E-mail address</th>
          <th>Roles</th>
          <th>Teams</th>
          <th>Codes</th>
          <th>Sessions</th>
          <th></th>
        </tr>
      </thead>
      <tbody v-for="person in view.people" :key="person.id">
        <tr :class="{ secondary: !person.active }">
          <td>
            {{ person.name }}<template v-if="!person.active">, deactivated</template>
            <span v-if="person.waitsUntil" class="small waits"
              >locked after too many wrong attempts, until {{ moment(person.waitsUntil) }}</span
            >
          </td>
          <td>{{ person.email }}</td>
          <td>{{ person.roles.join(', ') }}</td>
          <td>{{ person.teams.map(nameOfTeam).join(', ') }}</td>
          <td>{{ person.codesOn ? 'on' : 'off' }}</td>
          <td>{{ person.sessions.length || '' }}</td>
          <td class="amount">
            <button class="link" @click="editing === person.id ? (editing = null) : edit(person)">
              {{ editing === person.id ? 'Close' : 'Change' }}
            </button>
          </td>
        </tr>
        <tr v-if="editing === person.id">
          <td colspan="7">
            <form class="panel" @submit.prevent="save">
              <fieldset>
                <legend class="small secondary">Roles</legend>
                <label v-for="role in roles" :key="role"
                  ><input v-model="draft.roles" type="checkbox" :value="role" /> {{ role }}</label
                >
              </fieldset>
              <v-text-field
                v-model="draft.teams"
                label="Teams, separated by commas"
                hint="Clients given to a team are seen by its people, managers and administrators only"
                persistent-hint
              />
              <label><input v-model="draft.active" type="checkbox" /> may sign in</label>
              <div class="acts">
                <v-btn type="submit" :disabled="busy">Save</v-btn>
                <button v-if="person.sessions.length" type="button" class="link" @click="endSessions">
                  End {{ person.sessions.length }} session(s)
                </button>
                <button v-if="person.waitsUntil" type="button" class="link" @click="letIn">Unlock</button>
                <button v-if="person.codesOn" type="button" class="link" @click="codesOff">
                  Turn one-time codes off
                </button>
              </div>
              <p v-for="open in person.sessions" :key="open.id" class="small secondary">
                {{ moment(open.startedAt) }}, {{ open.address }}, {{ open.program }}
              </p>
            </form>
          </td>
        </tr>
      </tbody>
    </table>
    <template v-if="view.invitations.length">
      <h3>Invited, not joined yet</h3>
      <p v-for="item in view.invitations" :key="item.id">
        {{ item.name }}, {{ item.email }}, {{ item.roles.join(', ') }}
        <span class="secondary small">until {{ moment(item.expiresAt) }}</span>
      </p>
    </template>
  </section>
</template>

<style scoped>
.panel {
  display: grid;
  gap: 10px;
  max-width: 560px;
  padding: 12px 0 16px;
}
fieldset {
  border: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
}
legend {
  padding: 0;
}
.acts {
  display: flex;
  gap: 18px;
  align-items: center;
}
.panel > .v-btn {
  justify-self: start;
}
.panel p {
  margin: 0;
}
.waits {
  display: block;
  color: var(--brick);
}
h3 {
  margin-top: 16px;
}
.address {
  overflow-wrap: anywhere;
}
</style>
