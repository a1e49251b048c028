<script setup lang="ts">
import type { DrawnDesign } from '#core/design/draw';

/**
 * A design as SVG, piece by piece: while a layer is moved only its place changes, and nothing of
 * what it is made of is read again. The pieces are ours, made by the core of checked parts.
 */
defineProps<{ drawn: DrawnDesign }>();
</script>

<template>
  <!-- eslint-disable vue/no-v-html, vue/no-v-text-v-html-on-component -->
  <g>
    <g v-html="drawn.under" />
    <g
      v-for="layer in drawn.layers"
      :key="layer.id"
      :transform="`translate(${layer.x} ${layer.y})`"
      v-html="layer.svg"
    />
    <g v-html="drawn.over" />
  </g>
  <!-- eslint-enable vue/no-v-html, vue/no-v-text-v-html-on-component -->
</template>
