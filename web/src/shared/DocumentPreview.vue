<script setup lang="ts">
import { nextTick, onBeforeUnmount, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import { plural } from './format'

/** A document as it is: an image, the pages of a PDF, or a text; anything else can be fetched. */
const props = defineProps<{ clientId: number; document: Schemas['DocumentView'] }>()
type Pdf = Awaited<ReturnType<typeof import('./pdf').openPdf>>

const WIDTH = 620
const address = () => `/api/clients/${props.clientId}/documents/${props.document.id}`
const image = ref('')
const text = ref('')
const failure = ref('')
const page = ref(1)
const pages = ref(0)
const canvas = ref<HTMLCanvasElement | null>(null)
let pdf: Pdf | null = null

function clear() {
  if (image.value) URL.revokeObjectURL(image.value)
  image.value = text.value = failure.value = ''
  pages.value = 0
  page.value = 1
  void pdf?.close()
  pdf = null
}
const draw = () => nextTick(() => (canvas.value ? pdf?.draw(page.value, canvas.value, WIDTH) : undefined))

watch(
  () => props.document.id,
  async () => {
    clear()
    const type = props.document.mediaType
    if (type.startsWith('application/vnd')) return
    try {
      const response = await fetch(address())
      if (!response.ok) throw new Error()
      if (type === 'text/plain') text.value = (await response.text()).slice(0, 100_000)
      else if (type === 'application/pdf') {
        pdf = await (await import('./pdf')).openPdf(await response.arrayBuffer())
        pages.value = pdf.pages
        await draw()
      } else image.value = URL.createObjectURL(await response.blob())
    } catch {
      failure.value = 'This document cannot be shown; download it to read it.'
    }
  },
  { immediate: true },
)
watch(page, draw)
onBeforeUnmount(clear)
</script>

<template>
  <figure class="preview" :aria-label="document.name">
    <figcaption class="small">
      <strong>{{ document.name }}</strong>
      <span v-if="pages" class="secondary">page {{ page }} of {{ pages }}</span>
      <button v-if="page > 1" class="link" @click="page--">back</button>
      <button v-if="page < pages" class="link" @click="page++">on</button>
      <span v-else-if="!pages" class="secondary">{{ plural(document.pages ?? 0, 'page') }}</span>
      <a :href="address()" :download="document.name">Download</a>
    </figcaption>
    <p v-if="failure" class="banner warn">{{ failure }}</p>
    <img v-if="image" :src="image" :alt="document.name" />
    <canvas v-show="pages" ref="canvas" role="img" :aria-label="`Page ${page} of ${document.name}`"></canvas>
    <pre v-if="text">{{ text }}</pre>
  </figure>
</template>

<style scoped>
.preview {
  margin: 14px 0 0;
  max-width: 640px;
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
