import { watch, type Ref } from 'vue';
import type { PhotoView } from '#core/contract/http';
import { usePhotoWords } from '../batch/photoWords.ts';
import { useMarkShapes } from '../mark/markShapes.ts';
import { useDraft } from '../preset/draft.ts';

/**
 * Marks that hold words of the photo have a shape of their own on each: those of a view are asked for.
 *
 * @param come when shapes have come
 */
export function useWantedShapes(photos: Ref<readonly PhotoView[]>, come: () => void) {
  const draft = useDraft();
  const shapes = useMarkShapes();
  const words = usePhotoWords();

  watch(() => shapes.count, come);

  /** Whatever the bench and the photos have now. */
  return (): void => {
    const others = draft.others.map(({ mark }) => mark);
    const own = [...draft.adjustments.keys()].map((id) => draft.subjectOf(id).mark);
    for (const mark of new Set([draft.baseMark, ...others, ...own])) {
      if (mark?.tokens.length) shapes.want(mark, photos.value.map(words.of));
    }
  };
}
