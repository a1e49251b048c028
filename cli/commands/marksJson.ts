import type { Readability } from '#core/readability/measure';
import type { DrawnMark } from '#server/imaging/pass/renderJob';

/** What is printed of marks on a photo (contract, section 6): the first by itself, then all. */
export function marksJson(marks: readonly DrawnMark[]) {
  const [first] = marks.map(markJson);
  return { ...(first ?? NO_MARK), marks: marks.map(markJson) };
}

const NO_MARK = {
  ...{ copies: null, tone: null, anchor: null, opacity: null, reduced: null, rescued: null },
  readability: null,
};

function markJson({ placement, readability }: DrawnMark) {
  const { copies, tone, anchor, opacity, reduced, rescue } = placement;
  return {
    ...{ copies, tone, anchor, opacity, reduced, rescued: rescue !== null },
    readability: readability && readabilityJson(readability),
  };
}

function readabilityJson({ class: kind, share, contrast, weakest }: Readability) {
  return { class: kind, share, contrast, weakest };
}
