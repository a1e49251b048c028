<script setup lang="ts">
/** The whole data as one file, and how it comes back. */
</script>

<template>
  <section class="card-plain part" aria-label="Backup">
    <h2>Backup</h2>
    <p class="quiet m-0">
      Marks, presets, deliveries, batches, copied photos and exports in one file. Photos that are
      read where they lie are not in it.
    </p>
    <div>
      <a class="btn btn-outline-secondary" href="/api/backup" download>Download a backup</a>
    </div>
    <p class="quiet m-0">
      <code>light-crest restore FILE.zip</code> puts one back, and keeps what is there.
    </p>
  </section>
</template>

<style scoped>
.part {
  display: grid;
  gap: 10px;
}

code {
  color: var(--lc-ink);
  user-select: all;
}
</style>
