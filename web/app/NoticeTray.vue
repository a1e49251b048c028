<script setup lang="ts">
import IconClose from '~icons/tabler/x';
import { useNotices } from './notices.ts';

const store = useNotices();
</script>

<template>
  <div class="tray" role="status" aria-live="polite">
    <div v-for="notice in store.notices" :key="notice.id" class="notice" :class="notice.kind">
      <span>{{ notice.text }}</span>
      <RouterLink v-if="notice.link?.to" :to="notice.link.to" @click="store.close(notice.id)">
        {{ notice.link.label }}
      </RouterLink>
      <button
        v-else-if="notice.link"
        class="act bg-transparent border-0"
        type="button"
        @click="(store.close(notice.id), notice.link.act?.())"
      >
        {{ notice.link.label }}
      </button>
      <button
        class="close align-self-center bg-transparent border-0 d-flex ms-auto"
        type="button"
        aria-label="Close"
        @click="store.close(notice.id)"
      >
        <IconClose />
      </button>
    </div>
  </div>
</template>

<style scoped>
.tray {
  display: grid;
  gap: 8px;
  justify-items: center;
  left: 50%;
  max-width: min(520px, calc(100vw - 36px));
  position: fixed;
  top: calc(var(--lc-header) + 6px);
  transform: translateX(-50%);
  width: max-content;
  z-index: 1080;
}

.notice {
  align-items: baseline;
  background: var(--lc-night);
  border-left: 4px solid var(--lc-clear);
  border-radius: var(--lc-radius);
  box-shadow: var(--lc-lift);
  color: #f6f3ec;
  display: flex;
  gap: 14px;
  padding: 10px 12px 10px 14px;
}

.notice.problem {
  border-left-color: #e0705a;
}

.notice a,
.act {
  color: #ecc687;
  white-space: nowrap;
}

.act {
  padding: 0 2px;
  text-decoration: underline;
}

.close {
  color: inherit;
  padding: 2px;
}
</style>
