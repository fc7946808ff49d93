<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { findCodes, type Code } from '../shared/codes'

/** The codes that fit what is being typed, under the field it is typed into. The field keeps the cursor and hands its keys on. */
const props = defineProps<{ id: string; field: HTMLElement; codes: readonly Code[]; typed: string; current: string }>()
const emit = defineEmits<{ choose: [code: string] }>()

const MOST = 60
/** Until something is typed, all codes are shown, the present one marked. */
const untouched = computed(() => props.typed === props.current || props.typed === '')
const found = computed(() => (untouched.value ? [...props.codes] : findCodes(props.codes, props.typed)).slice(0, MOST))
const at = ref(-1)
const list = ref<HTMLElement>()
const optionOf = (index: number) => `${props.id}-${index}`
const ROW = 26
/** Brings the code pointed at into sight. */
const show = () =>
  void nextTick(() => {
    if (!list.value) return
    const [top, seen] = [at.value * ROW, list.value.clientHeight]
    if (top < list.value.scrollTop || top + ROW > list.value.scrollTop + seen) list.value.scrollTop = top - seen / 2
  })
watch(
  [found, untouched],
  () => {
    at.value = untouched.value ? found.value.findIndex((c) => c.code === props.current) : found.value.length ? 0 : -1
    show()
  },
  { immediate: true },
)

const place = ref({ left: '0', top: '0', minWidth: '0' })
function follow() {
  const box = props.field.getBoundingClientRect()
  const below = window.innerHeight - box.bottom > 220 || box.top < 220
  place.value = {
    left: `${Math.min(box.left, window.innerWidth - 380)}px`,
    top: below ? `${box.bottom + 2}px` : `${Math.max(4, box.top - 6 - Math.min(210, found.value.length * ROW + 4))}px`,
    minWidth: `${box.width}px`,
  }
}
onMounted(() => {
  follow()
  window.addEventListener('scroll', follow, true)
})
onBeforeUnmount(() => window.removeEventListener('scroll', follow, true))

defineExpose({
  /** Goes up or down the list. */
  move(by: number) {
    if (found.value.length) at.value = (at.value + by + found.value.length) % found.value.length
    show()
  },
  /** The code the list points at, or null. */
  pointed: () => found.value[at.value]?.code ?? null,
  /** Id of the option the list points at, for the field's description. */
  option: computed(() => (at.value < 0 ? undefined : optionOf(at.value))),
})
</script>

<template>
  <Teleport :to="field.closest('.v-application') ?? 'body'">
    <ul v-if="found.length" :id="id" ref="list" class="codes" role="listbox" aria-label="Codes" :style="place">
      <li
        v-for="(one, index) in found"
        :id="optionOf(index)"
        :key="one.code"
        role="option"
        :aria-selected="index === at"
        :class="{ at: index === at }"
        @mousedown.prevent="emit('choose', one.code)"
      >
        {{ one.label }}
      </li>
    </ul>
    <p v-else :id="id" class="codes none small secondary" :style="place">No matching codes.</p>
  </Teleport>
</template>

<style scoped>
.codes {
  position: fixed;
  z-index: 2400;
  max-height: 210px;
  max-width: min(560px, 92vw);
  overflow: auto;
  margin: 0;
  padding: 2px 0;
  list-style: none;
  background: var(--page);
  color: var(--ink);
  border: 1px solid var(--faint);
  border-radius: 3px;
  box-shadow: 0 4px 14px rgb(0 0 0 / 14%);
}
.codes li {
  height: 26px;
  line-height: 26px;
  padding: 0 10px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  cursor: pointer;
}
.codes li.at {
  background: var(--verdigris-wash);
}
.none {
  padding: 6px 10px;
}
</style>
