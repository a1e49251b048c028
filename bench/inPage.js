// What is measured within the page itself, where no message to it counts. Put into it by pageBench.ts.
const frames = { isOn: false, ms: [] };

globalThis.bench = {
  /** From a click until what `isThere` asks for has been drawn, ms. */
  clicked: (link, isThere) =>
    new Promise((done) => {
      const startMs = performance.now();
      document.querySelector(link).click();
      const look = () => {
        if (!isThere()) return void requestAnimationFrame(look);
        requestAnimationFrame(() => done(performance.now() - startMs));
      };
      requestAnimationFrame(look);
    }),

  /** Whether at least `count` of these pictures are in sight, and all that are have been loaded. */
  areDrawn: (pictures, count) => {
    const seen = [...document.querySelectorAll(pictures)].filter(
      (picture) => picture.getBoundingClientRect().top < innerHeight,
    );
    return (
      seen.length >= count && seen.every((picture) => picture.complete && picture.naturalWidth)
    );
  },

  watchFrames: () => {
    frames.isOn = true;
    let lastMs = performance.now();
    const next = (nowMs) => {
      frames.ms.push(nowMs - lastMs);
      lastMs = nowMs;
      if (frames.isOn) requestAnimationFrame(next);
    };
    requestAnimationFrame(next);
  },

  /** How long the frames took since, ms, the longest last. */
  framesMs: () => {
    frames.isOn = false;
    return frames.ms
      .splice(0)
      .slice(2)
      .sort((a, b) => a - b);
  },
};
