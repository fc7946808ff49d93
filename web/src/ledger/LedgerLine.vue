<script setup lang="ts">
import { computed, inject } from 'vue'
import { amount, day } from '../shared/format'
import SeverityMark from '../shared/SeverityMark.vue'
import { placeKey, type Finding, type Line, type ReturnStore } from '../places/return/returnStore'
import EntryField from './EntryField.vue'

const props = defineProps<{ line: Line; row: string | null; lastYear?: string | null }>()
const store = inject<ReturnStore>('return')!

const key = computed(() => placeKey(props.line.key, props.row))
const value = computed(() => store.values.get(key.value))
const draft = computed(() => store.drafts.get(key.value))
const focused = computed(() => store.focus.value?.line === props.line.key && store.focus.value.row === props.row)
const wide = computed(() => ['text', 'identifier', 'choice', 'row'].includes(props.line.kind))
const shown = computed(() => {
  const text = value.value?.value
  return props.line.kind === 'money' || props.line.kind === 'count' ? amount(text) : (text ?? '')
})
const finding = computed<Finding | undefined>(() =>
  store.findings.value.find(
    (f) =>
      !f.acceptance &&
      !(f.id.endsWith(':missing') && props.line.kind === 'answer') &&
      f.severity !== 'note' &&
      f.lines[0] === props.line.key &&
      (f.row ?? null) === props.row,
  ),
)
const origins: Record<string, string> = {
  typed: '',
  statement: 'stmt.',
  authority: 'auth.',
  client: 'client',
  practice: 'practice',
  'last-year': 'last yr',
  tied: 'tied',
  imported: 'import',
}
const origin = computed(() => {
  if (props.line.computed || !value.value?.origin) return ''
  return value.value.expression ? 'arith.' : (origins[value.value.origin] ?? value.value.origin)
})
const originTitle = computed(() =>
  [value.value?.origin, value.value?.source, value.value?.expression].filter(Boolean).join(', '),
)
const before = computed(() => {
  if (props.lastYear == null) return ''
  if (props.line.kind === 'money' || props.line.kind === 'count') return amount(props.lastYear)
  if (props.line.kind === 'date') return day(props.lastYear)
  return props.line.choices?.find((c) => c.code === props.lastYear)?.label ?? props.lastYear
})
</script>

<template>
  <div
    v-if="value?.open || value?.kept"
    class="line"
    :class="[line.rule, { focused, closed: !value?.open, wide }]"
    :data-line="key"
  >
    <span class="number faint small">{{ line.number }}</span>
    <span class="label">
      <span :class="{ strong: line.rule !== 'none' }">{{ line.label }}</span>
      <span v-if="line.from" class="from faint small">{{ line.from }}</span>
      <span v-else-if="line.hint" class="from faint small">{{ line.hint }}</span>
      <span v-if="line.unit" class="from faint small">{{ line.unit }}</span>
      <SeverityMark v-if="finding" :severity="finding.severity" class="mark" />
    </span>
    <span v-if="!wide" class="last faint">{{ before }}</span>
    <span class="origin faint small" :title="originTitle">{{ origin }}</span>
    <span class="value">
      <span v-if="!value?.open" class="kept" :title="`Kept: ${value?.kept}`"
        >does not apply, {{ value?.kept }} kept</span
      >
      <button
        v-else-if="line.computed"
        type="button"
        class="computed"
        :data-place="key"
        :aria-label="`${line.label}: ${shown || 'blank'}; explain`"
        @focus="store.focus.value = { line: line.key, row }"
        @click="store.focus.value = { line: line.key, row }"
      >
        {{ shown }}
      </button>
      <EntryField v-else :line="line" :row="row" />
    </span>
  </div>
  <div v-if="draft?.message" :id="`message-${key}`" class="message" :class="draft.state" role="alert">
    {{ draft.message }}
    <template v-if="draft.state === 'conflict'">
      They have <strong>{{ draft.theirs ?? 'blank' }}</strong>, you typed <strong>{{ draft.typed || 'blank' }}</strong>.
      <button class="link" @click="store.keepTheirs(line.key, row)">Keep theirs</button>
      <button class="link" @click="store.useMine(line.key, row)">Use mine</button>
    </template>
  </div>
</template>

<style scoped>
.line {
  display: grid;
  grid-template-columns: 42px minmax(0, 1fr) 104px 52px 132px;
  align-items: center;
  min-height: 32px;
  border-bottom: 1px solid var(--hairline);
}
.line.wide {
  grid-template-columns: 42px minmax(0, 1fr) 52px 252px;
}
.line.focused {
  background: var(--verdigris-wash);
}
.line.focused .faint {
  color: var(--secondary);
}
.label {
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.strong {
  font-weight: 600;
}
.from {
  margin-left: 8px;
}
.mark {
  margin-left: 8px;
}
.last {
  text-align: right;
  padding-right: 10px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.origin {
  text-align: center;
}
.value {
  display: flex;
  justify-content: flex-end;
  min-width: 0;
}
.computed {
  width: 100%;
  min-height: 25px;
  padding: 0 8px;
  border: 0;
  background-color: transparent;
  font: inherit;
  color: var(--ink);
  text-align: right;
  cursor: pointer;
}
.computed:focus-visible {
  outline-offset: -2px;
}
.subtotal .computed {
  border-top: 1px solid var(--ink);
  font-weight: 600;
}
.line.final {
  min-height: 38px;
}
.final .computed {
  border-top: 1px solid var(--ink);
  border-bottom: 3px double var(--ink);
  color: var(--bronze);
  font-weight: 600;
}
.closed {
  color: var(--faint);
}
.kept {
  font-size: 12px;
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.message {
  padding: 4px 8px 6px 42px;
  font-size: 13px;
  color: var(--brick);
}
.message.conflict {
  color: var(--ochre);
}
.message .link {
  margin-left: 8px;
}
</style>
