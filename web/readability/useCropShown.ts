import { ref, type Ref } from 'vue';

/** Whether photos show the part that can be cropped free of the mark: while its figure is touched. */
const isShown = ref(false);

export function useCropShown(): Ref<boolean> {
  return isShown;
}
