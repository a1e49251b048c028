<script setup lang="ts">
import { useClipboard } from '@vueuse/core';

/** Puts a text onto the clipboard, and says that it did. */
defineProps<{ text: string; label: string }>();
const { copy, copied } = useClipboard({ legacy: true });
</script>

<template>
  <button class="btn btn-link" type="button" :title="text" @click="copy(text)">
    {{ label }}<span v-if="copied" role="status">, copied</span>
  </button>
</template>
