<script setup lang="ts">
import { computed, inject } from 'vue'
import { api, call, fileBody } from '../api/client'
import { useAct } from '../shared/act'
import FileLink from '../shared/FileLink.vue'
import { placeKey, type Line, type ReturnStore } from '../return/returnStore'

/** How many documents of a kind are attached to the return, and the act that attaches one. */
const props = defineProps<{ line: Line }>()
const store = inject<ReturnStore>('return')!
const { busy, problem, act } = useAct()
const key = computed(() => placeKey(props.line.key, null))
const focus = () => (store.focus.value = { line: props.line.key, row: null })

const attach = (files: File[]) =>
  act(async () => {
    for (const file of files) {
      const { clientId: id, year } = store.view.value
      const query = { Name: file.name, Kind: props.line.label, Year: year, ReturnId: store.id }
      await call(api.POST('/api/clients/{id}/documents', { params: { path: { id }, query }, ...fileBody(file) }))
    }
    await store.reload()
  })
</script>

<template>
  <span class="attachments" :data-place="key">
    <span v-if="problem" class="problem small" role="alert">{{ problem }}</span>
    <FileLink v-if="!store.locked" :label="`Attach: ${line.label}`" :busy="busy" @focus="focus" @chosen="attach"
      >Attach</FileLink
    >
    <span class="count">{{ store.values.get(key)?.value ?? 'none' }}</span>
  </span>
</template>

<style scoped>
.attachments {
  display: inline-flex;
  gap: 14px;
  align-items: baseline;
  padding-right: 8px;
}
.count {
  min-width: 34px;
  text-align: right;
}
.problem {
  color: var(--brick);
}
</style>
