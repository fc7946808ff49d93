<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { day } from '../../shared/format'
import { useSession } from '../../session'

const props = defineProps<{ weeks: Schemas['DeskWeek'][] }>()
const session = useSession()
const WEEKS = 12
const DAY = 86_400_000

/** Returns by the week they fall due, filed and not filed. */
const weeks = computed(() => {
  const today = Date.parse(`${session.view?.today ?? '2026-01-01'}T00:00:00Z`)
  const monday = today - ((new Date(today).getUTCDay() + 6) % 7) * DAY
  const list = Array.from({ length: WEEKS }, (_, index) => {
    const start = new Date(monday + (index - 6) * 7 * DAY).toISOString()
    const week = props.weeks.find((w) => start.startsWith(w.monday))
    return {
      label: day(start).replace(/ \d{4}$/, ''),
      due: week?.due ?? 0,
      filed: week?.filed ?? 0,
      now: index === 6,
    }
  })
  const most = Math.max(1, ...list.map((week) => week.due))
  return list.map((week) => ({ ...week, height: (week.due / most) * 62, filedHeight: (week.filed / most) * 62 }))
})
</script>

<template>
  <figure class="season" aria-label="Returns by the week they fall due, filed and not filed">
    <div v-for="week in weeks" :key="week.label" class="week" :class="{ now: week.now }">
      <span class="count">{{ week.due || '' }}</span>
      <span class="bar" :class="{ none: !week.due }" :style="{ height: `${week.height}px` }"
        ><i :style="{ height: `${week.filedHeight}px` }"></i
      ></span>
      <span class="small faint">{{ week.label }}{{ week.now ? ' now' : '' }}</span>
    </div>
  </figure>
</template>

<style scoped>
.season {
  display: grid;
  grid-template-columns: repeat(12, 1fr);
  gap: 10px;
  align-items: end;
  margin: 0;
  height: 104px;
}
.week {
  display: grid;
  justify-items: stretch;
  text-align: center;
  white-space: nowrap;
}
.count {
  font-size: 12px;
  color: var(--secondary);
}
.bar {
  display: flex;
  align-items: flex-end;
  border: 1px solid var(--verdigris);
  border-bottom-width: 1px;
  min-height: 1px;
}

.bar.none {
  border-width: 0 0 1px;
}
.bar i {
  flex: 1;
  background: var(--verdigris);
}
.now .bar {
  border-color: var(--bronze);
}
.now .bar i {
  background: var(--bronze);
}
.now .small {
  color: var(--ink);
  font-weight: 600;
}
</style>
