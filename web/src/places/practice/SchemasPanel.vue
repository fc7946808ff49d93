<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, call, fileBody, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import { moment, plural } from '../../shared/format'

/** Editions of the authorities' schemas: what a newer one would change, tried on the returns under way, and turned on by somebody. */
const session = useSession()
const { busy, problem, act } = useAct()
const editions = ref<Schemas['SchemaEditionView'][]>([])
const trial = ref<{ of: string; result: Schemas['SchemaTrial'] } | null>(null)
const path = ref('')
const paths = computed(() => [...new Set(editions.value.map((e) => e.path))])
onMounted(() => act(async () => (editions.value = await call(api.GET('/api/practice/schemas')))))

const chosen = (edition: Schemas['SchemaEditionView']) => ({ path: edition.path, sha256: edition.sha256 })
const attempt = (edition: Schemas['SchemaEditionView']) =>
  act(async () => {
    const result = await call(api.POST('/api/practice/schemas/try', { body: chosen(edition) }))
    trial.value = { of: edition.path + edition.sha256, result }
  })
const turnOn = (edition: Schemas['SchemaEditionView']) =>
  act(async () => {
    editions.value = await call(api.POST('/api/practice/schemas/turn-on', { body: chosen(edition) }))
    trial.value = null
  })
function load(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  void act(async () => {
    const options = { params: { query: { path: path.value } }, ...fileBody(file) }
    editions.value = await call(api.POST('/api/practice/schemas/load', options))
  }).finally(() => (input.value = ''))
}
</script>

<template>
  <section aria-label="Schemas">
    <div class="rule-head">
      <h2>The authorities' schemas</h2>
      <span class="small secondary">a newer edition is used once somebody has turned it on</span>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="!editions.length" class="secondary">None yet; a schema comes with the first return that is built.</p>
    <table v-else class="plain">
      <tbody>
        <template v-for="edition in editions" :key="edition.path + edition.sha256">
          <tr>
            <td>{{ edition.path }}</td>
            <td class="small secondary">
              {{ edition.sha256.slice(0, 12) }}, {{ edition.cameFrom }}, {{ moment(edition.cameAt) }}
            </td>
            <td class="amount">
              <span v-if="edition.inUse" class="small" :title="`Turned on by ${edition.turnedOnBy}`">in use</span>
              <template v-else-if="session.mayManage">
                <button class="link" :disabled="busy" @click="attempt(edition)">What would change</button>
                <button class="link" :disabled="busy" @click="turnOn(edition)">Turn on</button>
              </template>
            </td>
          </tr>
          <tr v-if="trial?.of === edition.path + edition.sha256">
            <td colspan="3">
              <p v-if="!trial.result.changes.length">Nothing that a return could hold is different.</p>
              <ul v-else>
                <li v-for="change in trial.result.changes" :key="change.path + change.words">
                  <strong>{{ change.kind }}</strong> {{ change.path }}: {{ change.words }}
                </li>
              </ul>
              <p>
                Tried on {{ plural(trial.result.tried, 'return') }} under way:
                {{
                  trial.result.refused.length ? `${trial.result.refused.length} would be refused` : 'all would pass'
                }}.
              </p>
              <ul>
                <li v-for="item in trial.result.refused" :key="item.returnId">
                  <router-link :to="`/returns/${item.returnId}`">{{ item.client }}, {{ item.title }}</router-link
                  >: {{ item.first }}
                </li>
              </ul>
            </td>
          </tr>
        </template>
      </tbody>
    </table>
    <p v-if="session.mayManage && paths.length" class="load">
      <label
        >Load an edition of
        <select v-model="path" aria-label="Schema">
          <option v-for="known in paths" :key="known" :value="known">{{ known }}</option>
        </select></label
      >
      <input type="file" accept=".xsd,.json" aria-label="Schema file" :disabled="busy || !path" @change="load" />
    </p>
  </section>
</template>

<style scoped>
.amount .link {
  margin-left: 16px;
}
.load {
  display: flex;
  gap: 16px;
  align-items: center;
}
</style>
