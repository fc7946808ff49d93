<script setup lang="ts">
import { provide } from 'vue'
import type { ReturnStore } from '../../return/returnStore'

const props = defineProps<{ store: ReturnStore }>()
provide('return', props.store)
</script>

<template>
  <slot />
</template>
