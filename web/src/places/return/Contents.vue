<script setup lang="ts">
import { computed, inject, ref } from 'vue'
import { useRouter } from 'vue-router'
import { returnTargets } from '../../bar/returnTargets'
import { search } from '../../bar/search'
import CountBadges from '../../shared/CountBadges.vue'
import type { Form, ReturnStore, Section } from '../../return/returnStore'

const props = defineProps<{ current: string }>()
const store = inject<ReturnStore>('return')!

const router = useRouter()
const forms = computed(() => store.layout.forms)
/** A paper, page or line is found by its name; what was found takes the place of the list until one goes there. */
const typed = ref('')
const targets = computed(() => returnTargets(store))
const found = computed(() => search(targets.value, typed.value, 12))
function goTo(to: string) {
  typed.value = ''
  void router.push(to)
}
const isOpen = (section: Section) => store.openSections.value.has(section.key)
const inScope = computed(() => store.pages)
const outside = computed(() =>
  forms.value
    .filter((form) => !form.beside)
    .flatMap((form) => {
      const closed = form.sections.filter((section) => !isOpen(section) && !section.table?.ofPage)
      if (!closed.length) return []
      return form.sections.some(isOpen) || store.besideOf(form)
        ? closed.map((section) => ({
            title: `${form.title}: ${section.title}`,
            why: section.when ?? '',
            by: section.openedBy,
            form,
          }))
        : [
            {
              title: form.title,
              why: form.when ?? form.sections[0]!.when ?? '',
              by: form.openedBy ?? form.sections[0]!.openedBy,
              form,
            },
          ]
    }),
)
/** Opens a page or section by hand: its question in Scope is answered yes. */
async function add(question: string, form: Form) {
  store.set(question, null, 'yes', store.revision.value)
  await router.push(store.placeOf(form.key))
}
/** A form and the one in its parallel column. */
function columns(form: Form): string[] {
  const beside = store.besideOf(form)
  return beside ? [form.key, beside.key] : [form.key]
}
function counts(form: Form) {
  const keys = columns(form)
  const own = store.findings.value.filter((f) => keys.includes(f.form) && !f.acceptance)
  return {
    errors: own.filter((f) => f.severity === 'error' && !f.id.endsWith(':missing')).length,
    warnings: own.filter((f) => f.severity === 'warning').length,
  }
}
function progress(form: Form): string {
  const keys = columns(form)
  const found = store.progress.value.filter((p) => keys.includes(p.form))
  const sum = (pick: (p: (typeof found)[number]) => number) => found.reduce((total, p) => total + pick(p), 0)
  return sum((p) => p.required) ? `${sum((p) => p.answered)} of ${sum((p) => p.required)}` : ''
}
function jump(section: Section) {
  document.querySelector(`[aria-label="${CSS.escape(section.title)}"].section`)?.scrollIntoView({ block: 'start' })
}
function turnTo(section: Section, page: string) {
  store.turnTo(section, page)
  jump(section)
}
const shownSections = (form: Form) =>
  form.sections.filter(
    (s) => isOpen(s) && !s.table?.ofPage && (s.table || s.lines.some((l) => store.values.get(`${l.key}|`)?.open)),
  )
</script>

<template>
  <nav class="contents scroll pane" aria-label="Contents">
    <h2 class="small secondary">Contents</h2>
    <input
      v-model="typed"
      type="search"
      class="find small"
      placeholder="Find a paper or line"
      aria-label="Find a paper or line"
      @keydown.enter="found[0] && goTo(found[0].to)"
      @keydown.esc="typed = ''"
    />
    <template v-if="typed.trim()">
      <button
        v-for="target in found"
        :key="target.kind + target.to + target.label"
        class="hit"
        @click="goTo(target.to)"
      >
        {{ target.label }} <span class="small faint">{{ target.detail }}</span>
      </button>
      <p v-if="!found.length" class="small secondary nothing">No matches.</p>
    </template>
    <template v-for="form in typed.trim() ? [] : inScope" :key="form.key">
      <router-link :to="store.placeOf(form.key)" class="form" :class="{ at: form.key === props.current }">
        <span>{{ form.title }}</span>
        <span class="right">
          <CountBadges v-bind="counts(form)" />
          <span class="small">{{ progress(form) }}</span>
        </span>
      </router-link>
      <template
        v-if="
          form.key === props.current && (shownSections(form).length > 1 || shownSections(form)[0]?.table?.parts.length)
        "
      >
        <template v-for="section in shownSections(form)" :key="section.key">
          <button class="section-link" @click="jump(section)">{{ section.title }}</button>
          <button
            v-for="page in section.table?.parts.length ? store.rowsOf(section.table.key) : []"
            :key="page"
            class="section-link page-link"
            :class="{ at: page === store.pageShown(section) }"
            @click="turnTo(section, page)"
          >
            {{ store.nameOfRow(section, page) }}
          </button>
        </template>
      </template>
    </template>
    <details v-if="outside.length && !typed.trim()" open>
      <summary class="small secondary">Not in scope</summary>
      <div v-for="item in outside" :key="item.title" class="out">
        <span class="head">
          {{ item.title }}
          <button
            v-if="item.by && !store.locked && store.valueOf(item.by, null)?.open"
            class="link small"
            :aria-label="`Add ${item.title}`"
            @click="add(item.by, item.form)"
          >
            Add
          </button>
        </span>
        <span class="small faint">{{ item.why }}</span>
      </div>
    </details>
  </nav>
</template>

<style scoped>
.contents {
  border-right: 1px solid var(--hairline);
  padding: 14px 0 30px;
}
.contents h2,
summary {
  font-family: var(--sans);
  font-size: 12px;
  font-weight: 500;
  padding: 0 16px 4px;
}
.find {
  display: block;
  width: calc(100% - 32px);
  margin: 2px 16px 8px;
  border: 0;
  border-bottom: 1px solid var(--hairline);
  background: none;
  color: var(--ink);
  font: inherit;
}
.hit {
  display: grid;
  width: 100%;
  border: 0;
  background: none;
  font: inherit;
  color: var(--ink);
  text-align: left;
  line-height: 1.3;
  padding: 4px 16px;
  cursor: pointer;
}
.hit:hover {
  background: var(--verdigris-wash);
}
.nothing {
  padding: 0 16px;
}
.form,
.section-link {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 8px;
  min-height: 29px;
  padding: 2px 16px;
  color: var(--ink);
  font-weight: 400;
  width: 100%;
}
.form:hover,
.section-link:hover {
  text-decoration: none;
  background: var(--verdigris-wash);
}
.form.at {
  background: var(--verdigris-wash);
  font-weight: 600;
  border-left: 3px solid var(--verdigris);
  padding-left: 13px;
}
.right {
  display: inline-flex;
  gap: 6px;
  align-items: center;
  color: var(--secondary);
  white-space: nowrap;
}
.section-link {
  border: 0;
  background: none;
  font: inherit;
  color: var(--secondary);
  padding-left: 28px;
  min-height: 26px;
  text-align: left;
  cursor: pointer;
}
.page-link {
  padding-left: 42px;
}
.page-link.at {
  color: var(--ink);
  font-weight: 600;
}
details {
  margin-top: 18px;
}
summary {
  cursor: pointer;
}
.head {
  display: flex;
  justify-content: space-between;
  gap: 8px;
}
.out {
  display: grid;
  padding: 4px 16px;
  color: var(--faint);
  line-height: 1.3;
}
</style>
