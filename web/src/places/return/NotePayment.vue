<script setup lang="ts">
import { ref } from 'vue'
import { api, call, type Schemas } from '../../api/client'
import { useAct } from '../../shared/act'
import DateField from '../../shared/DateField.vue'

/** Notes money that was paid towards a return, or came back for it. */
const props = defineProps<{ returnId: number; day: string; reference: string; words: string }>()
const emit = defineEmits<{ noted: [view: Schemas['PaymentsView']] }>()
const { busy, problem, act } = useAct()
const typed = ref({ paidOn: '', amount: '', reference: '' })
const note = () =>
  act(async () => {
    const params = { path: { id: props.returnId } }
    emit('noted', await call(api.POST('/api/returns/{id}/payments', { params, body: typed.value })))
    typed.value = { paidOn: '', amount: '', reference: '' }
  })
</script>

<template>
  <form class="note" @submit.prevent="note">
    <p v-if="problem" class="banner bad" role="alert">{{ problem }}</p>
    <DateField v-model="typed.paidOn" :label="day" />
    <v-text-field v-model="typed.amount" label="Amount" hide-details />
    <v-text-field v-model="typed.reference" :label="reference" hide-details />
    <v-btn type="submit" variant="outlined" :disabled="busy">{{ words }}</v-btn>
  </form>
</template>

<style scoped>
.note {
  display: grid;
  grid-template-columns: 150px 150px 1fr auto;
  gap: 14px;
  align-items: center;
  margin-top: 14px;
}
.banner {
  grid-column: 1 / -1;
  margin: 0;
}
</style>
