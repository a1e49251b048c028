<template>
  <svg viewBox="0 0 32 32" width="28" height="28" aria-hidden="true">
    <circle cx="16" cy="16" r="15" fill="#14303d" />
    <circle cx="21.6" cy="11.8" r="5.4" fill="#e3a94c" />
    <path
      fill="#f6f3ec"
      d="M1.5 20C7 20 8.5 9 16 8.2C20.5 7.8 23.5 10.5 23.8 14C21.8 12 18.6 12.2 17.6 14.6C16.6 17.4 19 20.6 24 21C26.5 21.2 28.6 20.6 30.5 19.4A15 15 0 0 1 29.2 23C20 26.4 9 24.6 2.5 22.5Z"
    />
  </svg>
</template>
