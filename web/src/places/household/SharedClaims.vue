<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { useSession } from '../../session'
import { amount } from '../../shared/format'

/** What the members may claim here or there, with the way that is best for the household. */
defineProps<{
  view: Schemas['HouseholdView']
  shown: string | null
  saving: Schemas['SharedClaimView'][]
  busy: boolean
  taken: string
}>()
defineEmits<{ show: [key: string]; take: [keys: string[]] }>()
const session = useSession()
</script>

<template>
  <section aria-label="Shared claims">
    <div class="rule-head">
      <h2>Shared claims</h2>
      <span class="small secondary">computed over all lawful allocations</span>
    </div>
    <table class="plain claims">
      <thead>
        <tr>
          <th>Claim</th>
          <th class="amount">Amount</th>
          <th>Now</th>
          <th>Best</th>
          <th class="amount">Saves</th>
          <th></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="item in view.claims" :key="item.key" :class="{ shown: shown === item.key }">
          <td>
            <button class="link ink" :aria-pressed="shown === item.key" @click="$emit('show', item.key)">
              {{ item.title }}
            </button>
            <span v-if="item.needs && item.best" class="small secondary needs">{{ item.needs }}</span>
          </td>
          <td class="amount">{{ item.amount ? amount(item.amount) : '–' }}</td>
          <td>{{ item.now }}</td>
          <td>
            <strong v-if="item.best">{{ item.best }}</strong>
            <span v-else-if="item.closed" class="small secondary">{{ item.closed }}</span>
            <template v-else>as now</template>
          </td>
          <td class="amount">
            {{ item.best && item.saves !== '0' ? amount(item.saves) : '–' }}
            <span v-if="item.best && Number(item.spares) > 0" class="small secondary needs"
              >keeps {{ amount(item.spares) }} for later</span
            >
          </td>
          <td>
            <span v-if="item.best && item.closed" class="small secondary">{{ item.closed }}</span>
            <button
              v-else-if="item.best && session.mayPrepare"
              class="link"
              :disabled="busy"
              :aria-label="`Take ${item.title}`"
              @click="$emit('take', [item.key])"
            >
              Take
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="saving.length > 1 && session.mayPrepare">
      <button
        class="link"
        :disabled="busy"
        @click="
          $emit(
            'take',
            saving.map((c) => c.key),
          )
        "
      >
        Take {{ saving.length === 2 ? 'both' : `all ${saving.length}` }}, saving {{ amount(view.saves) }}
      </button>
      <span class="small secondary"> writes into the returns concerned; each line says so and can be undone</span>
    </p>
    <p v-if="taken" class="small secondary" role="status">{{ taken }}</p>
  </section>
</template>

<style scoped>
.claims {
  width: 100%;
}
.claims .needs {
  display: block;
}
.ink {
  color: var(--ink);
  font-weight: 400;
  text-align: left;
}
.shown .ink {
  font-weight: 600;
}
</style>
