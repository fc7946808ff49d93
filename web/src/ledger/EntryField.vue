<script setup lang="ts">
import { computed, inject, ref } from 'vue'
import { meantCode } from '../shared/codes'
import CalendarButton from '../shared/CalendarButton.vue'
import { day, editable, isNumber, lineText } from '../shared/format'
import { placeKey, type Line, type ReturnStore } from '../return/returnStore'
import CodeList from './CodeList.vue'

const props = defineProps<{ line: Line; row: string | null }>()
const store = inject<ReturnStore>('return')!

const key = computed(() => placeKey(props.line.key, props.row))
const value = computed(() => store.values.get(key.value))
const draft = computed(() => store.drafts.get(key.value))
const numeric = computed(() => isNumber(props.line))
const editing = ref<string | null>(null)
/** Many codes are found by typing; few are chosen from a list. */
const MANY_CODES = 12
const listed = computed(() => props.line.kind === 'choice' && (props.line.choices?.length ?? 0) > MANY_CODES)
const field = ref<HTMLInputElement>()
const codes = ref<InstanceType<typeof CodeList>>()
let before = ''
let seen = 0

const shown = computed(() => {
  if (editing.value !== null) return editing.value
  if (draft.value) return draft.value.typed
  const text = value.value?.value ?? ''
  if (numeric.value) return lineText(props.line, text)
  return listed.value ? lineText(props.line, text) : props.line.kind === 'date' ? day(text) : text
})
const selected = computed(() => draft.value?.typed ?? value.value?.value ?? '')
const choices = computed(() => store.choicesOf(props.line))
const described = computed(() => (draft.value?.message ? `message-${key.value}` : undefined))

/** Starts an edit. The text is put in place at once, not at the next rendering, so that nothing typed meanwhile is mixed with it. */
function begin(event: FocusEvent) {
  store.focus.value = { line: props.line.key, row: props.row }
  seen = store.revision.value
  const text = value.value?.expression ?? value.value?.value ?? ''
  if (draft.value) before = draft.value.typed
  else if (numeric.value && !props.line.isYear) before = value.value?.expression ?? editable(text)
  else before = listed.value ? lineText(props.line, text) : props.line.kind === 'date' ? day(text) : text
  editing.value = before
  const input = event.target as HTMLInputElement
  input.value = before
  input.select()
}

function commit() {
  if (editing.value === null) return
  const typed = editing.value
  editing.value = null
  if (typed === before) return
  store.set(props.line.key, props.row, listed.value ? meantCode(props.line.choices!, typed) : typed, seen)
}

/** Takes the code the list points at, or a day of the calendar. */
function take(text: string) {
  editing.value = null
  if (text !== selected.value) store.set(props.line.key, props.row, text, store.revision.value)
}

/** The next field in the same column; after the last of one column comes the first of the other. */
function neighbour(field: HTMLElement, by: number): HTMLElement | undefined {
  const all = [...document.querySelectorAll<HTMLElement>('[data-field]')]
  const inBeside = (f: HTMLElement) => f.closest('[data-column="beside"]') !== null
  const ordered = [...all.filter((f) => !inBeside(f)), ...all.filter(inBeside)]
  return ordered[ordered.indexOf(field) + by]
}

function onKey(event: KeyboardEvent) {
  if (event.key === 'Escape' && editing.value !== null) {
    editing.value = before
    event.stopPropagation()
  } else if (listed.value && editing.value !== null && (event.key === 'ArrowDown' || event.key === 'ArrowUp')) {
    codes.value?.move(event.key === 'ArrowDown' ? 1 : -1)
    event.preventDefault()
  } else if (event.key === 'Enter') {
    event.preventDefault()
    const pointed = listed.value && editing.value !== null && editing.value !== '' ? codes.value?.pointed() : null
    if (pointed) take(pointed)
    const next = neighbour(event.target as HTMLElement, event.shiftKey ? -1 : 1)
    if (next) next.focus()
    else commit()
  }
}

function select(event: Event) {
  store.set(props.line.key, props.row, (event.target as HTMLSelectElement).value, store.revision.value)
}

function answer(text: 'yes' | 'no') {
  store.focus.value = { line: props.line.key, row: props.row }
  if (selected.value !== text) store.set(props.line.key, props.row, text, store.revision.value)
}

function onAnswerKey(event: KeyboardEvent) {
  const letter = event.key.toLowerCase()
  if (letter === 'y' || letter === 'n') {
    if (event.altKey || event.ctrlKey || event.metaKey) return
    answer(letter === 'y' ? 'yes' : 'no')
    event.preventDefault()
  } else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    neighbour(event.currentTarget as HTMLElement, event.key === 'ArrowDown' ? 1 : -1)?.focus()
    event.preventDefault()
  } else if (event.key === 'Enter') onKey(event)
}
</script>

<template>
  <div
    v-if="line.kind === 'answer'"
    class="answer"
    role="radiogroup"
    tabindex="0"
    data-field
    :data-place="key"
    :aria-label="line.label"
    @focus="store.focus.value = { line: line.key, row }"
    @keydown="onAnswerKey"
  >
    <button
      v-for="text in ['yes', 'no'] as const"
      :key="text"
      type="button"
      role="radio"
      tabindex="-1"
      :aria-checked="selected === text"
      :class="{ chosen: selected === text }"
      :disabled="store.locked"
      @click="answer(text)"
    >
      {{ text }}
    </button>
  </div>
  <select
    v-else-if="(line.kind === 'choice' && !listed) || line.kind === 'row'"
    class="field"
    data-field
    :data-place="key"
    :aria-label="line.label"
    :value="selected"
    :disabled="store.locked"
    @focus="store.focus.value = { line: line.key, row }"
    @change="select"
    @keydown.enter="onKey"
  >
    <option value="">{{ line.kind === 'row' ? 'choose' : '' }}</option>
    <option v-for="choice in choices" :key="choice.code" :value="choice.code">{{ choice.label }}</option>
  </select>
  <textarea
    v-else-if="line.longestText > 1000"
    class="field long"
    :class="{ refused: draft?.state === 'refused', conflict: draft?.state === 'conflict' }"
    data-field
    :data-place="key"
    rows="4"
    :aria-label="line.label"
    :maxlength="line.longestText"
    :value="shown"
    :readonly="store.locked"
    @focus="begin"
    @input="editing = ($event.target as HTMLTextAreaElement).value"
    @blur="commit"
  ></textarea>
  <span v-else class="with" :class="{ dated: line.kind === 'date' }">
    <input
      ref="field"
      class="field"
      :class="{ numeric, refused: draft?.state === 'refused', conflict: draft?.state === 'conflict' }"
      data-field
      :data-place="key"
      type="text"
      autocomplete="off"
      spellcheck="false"
      :aria-label="line.label"
      :aria-invalid="draft?.state === 'refused' || undefined"
      :aria-describedby="described"
      :value="shown"
      :readonly="store.locked"
      @focus="begin"
      @input="editing = ($event.target as HTMLInputElement).value"
      @blur="commit"
      @keydown="onKey"
    />
    <CalendarButton v-if="line.kind === 'date' && !store.locked" :day="value?.value ?? ''" @picked="take" />
    <CodeList
      v-if="listed && editing !== null && field"
      :id="`codes-${key}`"
      ref="codes"
      :field="field"
      :codes="line.choices!"
      :typed="editing === before ? '' : editing"
      :current="''"
      @choose="take"
    />
  </span>
</template>

<style scoped>
.field {
  width: 100%;
  height: 27px;
  border: 1px solid transparent;
  border-bottom-color: var(--entry);
  background: transparent;
  color: var(--ink);
  font: inherit;
  padding: 0 7px;
  outline: 0;
  text-align: right;
  border-radius: 0;
}
.with {
  display: block;
}
.dated {
  display: grid;
  grid-template-columns: 1fr auto;
  align-items: center;
}
.field:focus-visible {
  outline: 0;
}
.answer:focus-visible {
  outline-offset: -1px;
}
.field:hover:not(:focus):not(:disabled) {
  background: var(--verdigris-wash);
}
.field:focus {
  border: 1.5px solid var(--verdigris);
  border-radius: 3px;
  background: var(--page);
}
.field.long {
  height: auto;
  text-align: left;
  resize: vertical;
}
select.field {
  appearance: none;
  text-align-last: right;
  cursor: pointer;
}
select.field option {
  background: var(--page);
  color: var(--ink);
  text-align: left;
}
.field.refused {
  border-bottom-color: var(--brick);
  color: var(--brick);
}
.field.conflict {
  border-bottom-color: var(--ochre);
}
.answer {
  display: inline-flex;
  justify-content: flex-end;
  gap: 2px;
  border-radius: 3px;
}
.answer button {
  min-width: 42px;
  height: 24px;
  border: 0;
  border-bottom: 1px solid var(--entry);
  background: none;
  font: inherit;
  color: var(--secondary);
  cursor: pointer;
  border-radius: 3px 3px 0 0;
}
.answer button.chosen {
  background: var(--verdigris-wash);
  color: var(--verdigris);
  font-weight: 600;
  border-bottom: 2px solid var(--verdigris);
}
</style>
