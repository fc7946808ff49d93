<script setup lang="ts">
import { computed, inject, onMounted } from 'vue'
import type { ReturnStore } from '../return/returnStore'
import { day } from '../shared/format'

/** What the practice did about a figure of the law: corrected it, or held it against a printed source. */
const props = defineProps<{ figure?: string | null }>()
const store = inject<ReturnStore>('return')!
const mark = computed(() => (props.figure ? store.lawMarks.value?.get(props.figure) : undefined))
onMounted(() => props.figure && void store.askLawMarks())
</script>

<template>
  <span v-if="figure && store.lawMarks.value?.size" class="mark"
    >,
    <template v-if="mark?.by"
      >verified {{ day(mark.at!) }}, {{ mark.by }}<template v-if="mark.confirmed">, confirmed</template></template
    ><template v-else-if="mark?.corrected">corrected by the practice</template
    ><template v-else>not verified</template></span
  >
</template>

<style scoped>
.mark {
  color: var(--secondary);
}
</style>
