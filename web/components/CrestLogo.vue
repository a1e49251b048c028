<template>
  <svg viewBox="0 0 32 32" width="28" height="28" aria-hidden="true">
    <circle cx="16" cy="16" r="15" fill="#14303d" />
    <circle cx="21.2" cy="12.6" r="5.2" fill="#e3a94c" />
    <path
      fill="#f6f3ec"
      d="M2 19.5c4.6.4 6.6-9.8 13.6-11.2 4.2-.8 7.6 1.8 8 5.4-1.8-1.9-5-2-6.4.2-1.6 2.7.5 5.600 4.600 6 3.400.3 6.100-.4 8.900-1.600A15 15 0 0 1 2.200 22.100z"
    />
  </svg>
</template>
