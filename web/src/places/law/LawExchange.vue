<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, call, fileBody, type Schemas } from '../../api/client'
import { useSession } from '../../session'
import { useAct } from '../../shared/act'
import FileLink from '../../shared/FileLink.vue'
import { capital, plural } from '../../shared/format'

/** Verifications and corrections of the law shown here, out to another practice as a file, and in from one. */
const props = defineProps<{ view: Schemas['LawView']; path: { country: string; name: string; year: number } }>()
const emit = defineEmits<{ changed: [view: Schemas['LawView']] }>()
const session = useSession()
const { busy, problem, act } = useAct()
const name = ref('')
const text = ref('')
const offers = ref<Schemas['OfferedLaw'][]>([])
const chosen = ref<number[]>([])
const taken = ref('')

const query = computed(() => ({ period: props.view.period }))
const fresh = computed(() => offers.value.filter((offer) => offer.state === 'new'))
const address = computed(
  () => `/api/law/${props.view.definition}/${props.view.year}/exchange?period=${props.view.period}`,
)

const read = ([file]: File[]) =>
  act(async () => {
    offers.value = []
    taken.value = ''
    name.value = file!.name
    text.value = await file!.text()
    offers.value = await call(
      api.PUT('/api/law/{country}/{name}/{year}/exchange/preview', {
        params: { path: props.path, query: query.value },
        ...fileBody(file!),
      }),
    )
    chosen.value = fresh.value.map((offer) => offer.place)
  })
const take = () =>
  act(async () => {
    const law = await call(
      api.POST('/api/law/{country}/{name}/{year}/exchange/take', {
        params: { path: props.path, query: query.value },
        body: { file: text.value, take: chosen.value },
      }),
    )
    taken.value = `${plural(chosen.value.length, 'item')} taken. Verified figures bear your name; corrections are proposed and wait to be turned on.`
    offers.value = []
    emit('changed', law)
  })
const standing = (offer: Schemas['OfferedLaw']) =>
  offer.state === 'same' ? 'says the same here' : offer.state === 'conflict' ? `not taken: ${offer.words}` : ''
</script>

<template>
  <h2>Exchange</h2>
  <p class="small secondary">
    What your practice verified and corrected of {{ view.title }} {{ view.year }}, as a file for another practice; and
    what another practice did, taken item by item.
  </p>
  <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
  <p v-if="taken" class="banner" role="status">{{ taken }}</p>
  <p><a :href="address" download>Export as a file</a></p>
  <p v-if="session.mayApprove">
    <FileLink label="Import a file of another practice" :busy="busy" @chosen="read">Import a file</FileLink>
  </p>
  <form v-if="offers.length" :aria-label="`What ${name} offers`" @submit.prevent="take">
    <p class="small">{{ name }}: {{ fresh.length }} of {{ plural(offers.length, 'item') }} can be taken.</p>
    <div v-for="offer in offers" :key="offer.place" class="offer">
      <label>
        <input v-model="chosen" type="checkbox" :value="offer.place" :disabled="offer.state !== 'new'" />
        <strong>{{ capital(offer.label) }}</strong>
      </label>
      <p class="small">
        {{ offer.kind === 'correction' ? 'corrected:' : 'verified:' }} {{ offer.says
        }}<template v-if="offer.state !== 'same' && offer.here && offer.here !== offer.says"
          >; here {{ offer.here }}</template
        >
      </p>
      <p class="small secondary">{{ offer.source }}. {{ offer.by }}</p>
      <p v-if="standing(offer)" class="small" :class="{ unsure: offer.state === 'conflict' }">{{ standing(offer) }}</p>
    </div>
    <v-btn type="submit" :disabled="busy || !chosen.length">Take {{ plural(chosen.length, 'item') }}</v-btn>
  </form>
</template>

<style scoped>
h2 {
  font-size: 16px;
}
.offer {
  margin: 10px 0;
  padding-left: 10px;
  border-left: 2px solid var(--hairline);
}
.offer p {
  margin: 2px 0;
}
.unsure {
  color: var(--brick);
}
</style>
