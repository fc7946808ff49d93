<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'

const props = defineProps<{
  client: Schemas['ClientRecord']
  relations: Schemas['RelationView'][]
  members: string[]
  year: number | undefined
}>()
const emit = defineEmits<{ changed: [] }>()
const session = useSession()
const { busy, problem, act } = useAct()
const kinds = computed(() =>
  props.client.kind === 'company'
    ? [
        { value: 'director', title: 'is a director' },
        { value: 'shareholder', title: 'is a shareholder' },
        { value: 'subsidiary', title: 'is a subsidiary' },
        { value: 'parent-company', title: 'is the parent company' },
        { value: 'holds-shares-of', title: 'is a company it holds shares of' },
        { value: 'associated', title: 'is an associated company' },
      ]
    : [
        { value: 'spouse', title: 'is the spouse' },
        { value: 'child', title: 'is a child' },
        { value: 'parent', title: 'is a parent' },
        { value: 'directs', title: 'is a company directed' },
        { value: 'holds-shares-of', title: 'is a company held' },
      ],
)
/** Whether spouse, parents or children are clients too. */
const household = computed(() => props.relations.some((r) => ['spouse', 'child', 'parent'].includes(r.label)))
const kind = ref(kinds.value[0]!.value)
const words = ref('')
const found = ref<Schemas['ClientListItem'][]>([])
watch(words, async (search) => {
  found.value =
    search.trim().length < 2
      ? []
      : (await call(api.GET('/api/clients', { params: { query: { search, limit: 6 } } }))).items
})
const path = () => ({ id: props.client.id! })
const add = (otherId: number) =>
  act(async () => {
    await call(
      api.POST('/api/clients/{id}/relations', {
        params: { path: path() },
        body: { kind: kind.value, otherId },
      }),
    )
    words.value = ''
    emit('changed')
  })
const remove = (relation: number) =>
  act(async () => {
    await call(api.DELETE('/api/clients/{id}/relations/{relation}', { params: { path: { ...path(), relation } } }))
    emit('changed')
  })
</script>

<template>
  <section aria-label="Relations">
    <div class="rule-head">
      <h2>Group and relations</h2>
      <span class="small secondary">
        {{ client.clientGroup }}
        <router-link v-if="household && year" :to="`/households/${client.id}/${year}`"
          >Household {{ year }}</router-link
        >
      </span>
    </div>
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <p v-if="members.length" class="small secondary">Also in the group: {{ members.join(', ') }}.</p>
    <table v-if="relations.length" class="plain">
      <tbody>
        <tr v-for="item in relations" :key="item.id">
          <td class="secondary label">{{ item.label }}</td>
          <td>
            <router-link v-if="item.otherId" :to="`/clients/${item.otherId}`">{{ item.other }}</router-link>
            <span v-else>{{ item.other }}</span>
          </td>
          <td class="amount">
            <button
              v-if="session.mayPrepare"
              class="link small"
              :disabled="busy"
              :aria-label="`Remove ${item.label} ${item.other}`"
              @click="remove(item.id)"
            >
              remove
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <div v-if="session.mayPrepare" class="add small among">
      <input v-model="words" type="search" placeholder="Another client ..." aria-label="Client to relate" />
      <select v-model="kind" aria-label="Relation">
        <option v-for="item in kinds" :key="item.value" :value="item.value">{{ item.title }}</option>
      </select>
      <ul v-if="found.length">
        <li v-for="item in found.filter((c) => c.id !== client.id)" :key="item.id">
          <button class="link" :disabled="busy" @click="add(item.id!)">{{ item.name }}</button>
          <span class="faint"> {{ item.identifier }}</span>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
.label {
  width: 150px;
}
.add {
  margin-top: 8px;
}
.add input {
  width: 200px;
}
.add select {
  margin-left: 12px;
}
ul {
  list-style: none;
  padding: 4px 0;
  margin: 0;
}
</style>
