<script setup lang="ts">
/** An act that begins with choosing files: looks like a link, is a file field for keyboard and screen reader. */
defineProps<{ label: string; busy: boolean }>()
const emit = defineEmits<{ chosen: [files: File[]]; focus: [] }>()
function choose(event: Event) {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  input.value = ''
  if (files.length) emit('chosen', files)
}
</script>

<template>
  <label class="link file" :class="{ busy }"
    ><slot /><input type="file" multiple :disabled="busy" :aria-label="label" @focus="emit('focus')" @change="choose"
  /></label>
</template>

<style scoped>
.file {
  position: relative;
  cursor: pointer;
}
.file:focus-within {
  outline: 2px solid var(--verdigris);
  outline-offset: 2px;
}
input {
  position: absolute;
  inset: 0;
  opacity: 0;
  width: 100%;
  cursor: pointer;
}
.busy {
  opacity: 0.5;
}
</style>
