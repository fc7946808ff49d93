<script setup lang="ts">
import { nextTick, onBeforeUnmount, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import { plural } from './format'

/** A document as it is: an image, the pages of a PDF, or a text; anything else can be fetched. */
const props = withDefaults(
  defineProps<{
    clientId: number
    document: Schemas['DocumentView']
    /** How wide it is drawn, in pixels. */
    width?: number
  }>(),
  { width: 620 },
)
/** The page shown, from 1. */
const page = defineModel<number>('page', { default: 1 })
type Pdf = Awaited<ReturnType<typeof import('./pdf').openPdf>>

const address = () => `/api/clients/${props.clientId}/documents/${props.document.id}`
const image = ref('')
const text = ref('')
const failure = ref('')
const pages = ref(0)
const canvas = ref<HTMLCanvasElement | null>(null)
let pdf: Pdf | null = null

function clear() {
  if (image.value) URL.revokeObjectURL(image.value)
  image.value = text.value = failure.value = ''
  pages.value = 0
  void pdf?.close()
  pdf = null
}
const draw = () => nextTick(() => (canvas.value ? pdf?.draw(page.value, canvas.value, props.width) : undefined))

watch(
  () => props.document.id,
  async (_, before) => {
    clear()
    if (before !== undefined) page.value = 1
    const type = props.document.mediaType
    if (type.startsWith('application/vnd')) return
    try {
      const response = await fetch(address())
      if (!response.ok) throw new Error()
      if (type === 'text/plain') text.value = (await response.text()).slice(0, 100_000)
      else if (type === 'application/pdf') {
        pdf = await (await import('./pdf')).openPdf(await response.arrayBuffer())
        pages.value = pdf.pages
        page.value = Math.min(page.value, pdf.pages)
        await draw()
      } else image.value = URL.createObjectURL(await response.blob())
    } catch {
      failure.value = 'This document cannot be shown; download it to read it.'
    }
  },
  { immediate: true },
)
watch([page, () => props.width], draw)
onBeforeUnmount(clear)
</script>

<template>
  <figure class="preview" :aria-label="document.name" :style="{ maxWidth: `${width + 20}px` }">
    <figcaption class="small">
      <strong>{{ document.name }}</strong>
      <span v-if="pages" class="secondary">page {{ page }} of {{ pages }}</span>
      <button v-if="page > 1" class="link" @click="page--">Previous page</button>
      <button v-if="page < pages" class="link" @click="page++">Next page</button>
      <span v-else-if="!pages" class="secondary">{{ plural(document.pages ?? 0, 'page') }}</span>
      <a :href="address()" :download="document.name">Download</a>
    </figcaption>
    <p v-if="failure" class="banner warn">{{ failure }}</p>
    <img v-if="image" :src="image" :alt="document.name" :style="{ width: `${width}px` }" />
    <canvas v-show="pages" ref="canvas" role="img" :aria-label="`Page ${page} of ${document.name}`"></canvas>
    <pre v-if="text">{{ text }}</pre>
  </figure>
</template>

<style scoped>
.preview {
  margin: 14px 0 0;
}
figcaption {
  display: flex;
  gap: 12px;
  margin-bottom: 6px;
}
img,
canvas {
  max-width: 100%;
  border: 1px solid var(--hairline);
  background: #fff;
}
pre {
  max-height: 420px;
  overflow: auto;
  padding: 10px;
  border: 1px solid var(--hairline);
  background: var(--page);
  white-space: pre-wrap;
}
</style>
