<script setup lang="ts">
import { computed, inject } from 'vue'
import { lineText } from '../shared/format'
import SeverityMark from '../shared/SeverityMark.vue'
import { placeKey, type Finding, type Line, type ReturnStore } from '../return/returnStore'
import LedgerValue from './LedgerValue.vue'

const props = defineProps<{ line: Line; row: string | null; lastYear?: string | null; beside?: Line }>()
const store = inject<ReturnStore>('return')!

const key = computed(() => placeKey(props.line.key, props.row))
const value = computed(() => store.values.get(key.value))
const parallel = computed(() => props.beside && store.values.get(placeKey(props.beside.key, props.row)))
/** An override is printed beneath its line only once there is one; it is made in the Margin. */
const present = computed(() =>
  [value.value, parallel.value].some((v) => (props.line.overrides ? v?.value != null : v?.open || v?.kept)),
)
const overridden = computed(
  () => props.line.override && store.valueOf(props.line.override.amount, props.row)?.value != null,
)
const remarks = computed(() =>
  store.openRemarks.value.some((r) => r.line === props.line.key && (r.row ?? null) === props.row),
)
const drafts = computed(() =>
  [props.line, ...(props.beside ? [props.beside] : [])].flatMap((line) => {
    const draft = store.drafts.get(placeKey(line.key, props.row))
    return draft?.message ? [{ ...draft, line: line.key, key: placeKey(line.key, props.row) }] : []
  }),
)
const focused = computed(
  () =>
    store.focus.value?.row === props.row &&
    (store.focus.value.line === props.line.key || store.focus.value.line === props.beside?.key),
)
const wide = computed(() => ['text', 'identifier', 'choice', 'row'].includes(props.line.kind))
/** Without a return for last year its column is left to the label. */
const alone = computed(() => !wide.value && !props.beside && !store.view.value.lastYear)
const finding = computed<Finding | undefined>(() =>
  store.findings.value.find(
    (f) =>
      !f.acceptance &&
      !(f.id.endsWith(':missing') && props.line.kind === 'answer') &&
      !f.id.endsWith(':unread') &&
      f.severity !== 'note' &&
      (f.lines[0] === props.line.key || (props.beside && f.lines[0] === props.beside.key)) &&
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
  attached: 'docs',
}
const origin = computed(() => {
  if (overridden.value) return 'overrid.'
  if (props.line.computed || !value.value?.origin) return ''
  return value.value.expression ? 'arith.' : (origins[value.value.origin] ?? value.value.origin)
})
const originTitle = computed(() =>
  overridden.value
    ? 'overridden, with a reason'
    : [value.value?.origin, value.value?.source, value.value?.expression].filter(Boolean).join(', '),
)
</script>

<template>
  <div
    v-if="present"
    class="line"
    :class="[line.rule, { focused, closed: !value?.open && !parallel?.open, wide, alone, parallel: beside }]"
    :data-line="key"
  >
    <span class="number faint small">{{ line.number }}</span>
    <span class="label" :title="[line.label, line.from ?? line.hint].filter(Boolean).join(', ')">
      <span :class="{ strong: line.rule !== 'none' }">{{ line.label }}</span>
      <span v-if="remarks" class="remarked small" title="An open remark; see Remarks in the Margin">remark</span>
      <span v-if="line.from && !beside" class="from faint small">{{ line.from }}</span>
      <span v-else-if="line.hint && !beside" class="from faint small">{{ line.hint }}</span>
      <span v-if="line.unit" class="from faint small">{{ line.unit }}</span>
      <SeverityMark v-if="finding" :severity="finding.severity" class="mark" />
    </span>
    <span v-if="!wide && !beside && !alone" class="last faint">{{ lineText(line, lastYear) }}</span>
    <span class="origin faint small" :title="originTitle">{{ origin }}</span>
    <LedgerValue :line="line" :row="row" />
    <LedgerValue v-if="beside" :line="beside" :row="row" data-column="beside" />
  </div>
  <div
    v-for="draft in drafts"
    :id="`message-${draft.key}`"
    :key="draft.key"
    class="message"
    :class="draft.state"
    role="alert"
  >
    {{ draft.message }}
    <template v-if="draft.state === 'conflict'">
      They have <strong>{{ draft.theirs ?? 'blank' }}</strong>, you typed <strong>{{ draft.typed || 'blank' }}</strong>.
      <button class="link" @click="store.keepTheirs(draft.line, row)">Keep theirs</button>
      <button class="link" @click="store.useMine(draft.line, row)">Use mine</button>
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
  contain: layout;
}
.line.wide {
  grid-template-columns: 42px minmax(0, 1fr) 52px 252px;
}
.line.alone {
  grid-template-columns: 42px minmax(0, 1fr) 52px 132px;
}
.line.parallel,
.line.parallel.wide {
  grid-template-columns: 42px minmax(0, 1fr) 40px 162px 162px;
  column-gap: 6px;
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
.remarked {
  margin-left: 8px;
  color: var(--bronze);
  border-bottom: 1px dotted var(--bronze);
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
.subtotal :deep(.computed) {
  border-top: 1px solid var(--ink);
  font-weight: 600;
}
.line.final {
  min-height: 38px;
}
.final :deep(.computed) {
  border-top: 1px solid var(--ink);
  border-bottom: 3px double var(--ink);
  color: var(--bronze);
  font-weight: 600;
}
.closed {
  color: var(--faint);
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
/* Beside a paper the page is narrow: labels before last year's figures. */
@container (max-width: 580px) {
  .line {
    grid-template-columns: 38px minmax(0, 1fr) 40px 132px;
  }
  .line.wide {
    grid-template-columns: 38px minmax(0, 1fr) 40px 180px;
  }
  .last {
    display: none;
  }
}
</style>
