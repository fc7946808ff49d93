<script setup lang="ts">
import type { Schemas } from '../../api/client'

/** A mail as it leaves or as it came: who, to whom, subject, text, files. */
defineProps<{ mail: Schemas['MailInWords']; title: string }>()
</script>

<template>
  <div class="mail" :aria-label="title" role="group">
    <p class="small secondary">{{ title }}</p>
    <dl>
      <dt>From</dt>
      <dd>{{ mail.from }}</dd>
      <dt>To</dt>
      <dd data-to>{{ mail.to }}</dd>
      <dt>Subject</dt>
      <dd>{{ mail.subject }}</dd>
      <dt>Attached</dt>
      <dd>{{ mail.attachments.join(', ') || 'nothing' }}</dd>
    </dl>
    <pre>{{ mail.text.trim() }}</pre>
  </div>
</template>

<style scoped>
.mail {
  border: 1px solid var(--hairline);
  background: var(--paper);
  padding: 8px 14px;
  margin-top: 10px;
}
p {
  margin: 0 0 4px;
}
dl {
  display: grid;
  grid-template-columns: 80px 1fr;
  gap: 2px 10px;
  margin: 0;
}
dt {
  color: var(--secondary);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
pre {
  font: inherit;
  white-space: pre-wrap;
  margin: 8px 0 0;
  padding-top: 8px;
  border-top: 1px solid var(--hairline);
}
</style>
