<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { day, daysLeft } from '../../shared/format'
import { useSession } from '../../session'
import TopBar from '../../bar/TopBar.vue'
import ApprovalRulesPanel from './ApprovalRulesPanel.vue'
import CertificateLoad from './CertificateLoad.vue'
import BackupPanel from './BackupPanel.vue'
import DefaultsPanel from './DefaultsPanel.vue'
import PeoplePanel from './PeoplePanel.vue'
import SchemasPanel from './SchemasPanel.vue'

const session = useSession()
const view = ref<Schemas['PracticeView'] | null>(null)
const countries = ref<Schemas['CountryView'][]>([])
const load = async () => (view.value = await call(api.GET('/api/practice')))
onMounted(async () => {
  await load()
  countries.value = await call(api.GET('/api/countries'))
})
</script>

<template>
  <div class="place">
    <TopBar />
    <main class="scroll practice">
      <template v-if="view">
        <h1>{{ view.name }}</h1>
        <section>
          <div class="rule-head"><h2>Authority and signing</h2></div>
          <table class="plain">
            <tbody>
              <tr>
                <td>Authority (simulated)</td>
                <td>
                  <a :href="view.authority" target="_blank" rel="noopener">{{ view.authority }}</a>
                </td>
              </tr>
              <tr>
                <td>Signing certificate</td>
                <td>{{ view.certificateSubject }}</td>
              </tr>
              <tr>
                <td>Valid until</td>
                <td :class="{ soon: view.certificateDaysLeft < 60 }">
                  {{ day(view.certificateUntil)
                  }}<template v-if="view.certificateDaysLeft < 60">, {{ daysLeft(view.certificateDaysLeft) }}</template>
                </td>
              </tr>
              <tr>
                <td>Thumbprint</td>
                <td class="small">{{ view.certificateThumbprint }}</td>
              </tr>
            </tbody>
          </table>
          <CertificateLoad v-if="session.mayAdminister" @changed="load" />
        </section>
        <ApprovalRulesPanel />
        <SchemasPanel />
        <DefaultsPanel v-for="country in countries" :key="country.code" :code="country.code" />
        <PeoplePanel v-if="session.mayAdminister" />
        <section v-else>
          <div class="rule-head"><h2>People</h2></div>
          <table class="plain">
            <thead>
              <tr>
                <th>Name</th>
                <th>E-mail address</th>
                <th>Roles</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="person in view.people" :key="person.id">
                <td>{{ person.name }}</td>
                <td>{{ person.email }}</td>
                <td>{{ person.roles.join(', ') }}</td>
              </tr>
            </tbody>
          </table>
        </section>
        <BackupPanel v-if="session.mayAdminister" />
      </template>
    </main>
  </div>
</template>

<style scoped>
section {
  max-width: 940px;
  margin-top: 20px;
}
.soon {
  color: var(--brick);
  font-weight: 600;
}
.practice {
  padding: 18px 30px 40px;
  background: var(--page);
}
</style>
