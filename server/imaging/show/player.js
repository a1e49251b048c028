/**
 * Plays a show: one photo after the other, with the next one ready. At most three photos are held: the one
 * that is seen, the one that goes, and the next.
 */
const show = JSON.parse(document.getElementById('show').textContent);
const stage = document.getElementById('stage');
const said = document.getElementById('said');
const playButton = document.getElementById('play');
const FADE_MS = 900;
const SWIPE_PX = 40;
/** What is shown, in its order: the card, where there is one, then the photos. */
const slides = show.title === null ? show.photos : [null, ...show.photos];
const isStill = matchMedia('(prefers-reduced-motion: reduce)');

let at = -1;
let isPlaying = true;
let timer = 0;
let shown = null;
/** The next photo, being fetched. */
let ahead = null;
/** Counts the steps, so that a photo that comes late does not take the place of a later one. */
let step = 0;

function card() {
  const element = document.createElement('section');
  element.className = 'slide card';
  if (show.titleMark) {
    const mark = document.createElement('img');
    mark.src = show.titleMark;
    mark.alt = '';
    element.append(mark);
  }
  if (show.title) {
    const title = document.createElement('h1');
    title.textContent = show.title;
    element.append(title);
  }
  return { element, ready: Promise.resolve() };
}

function photo(index) {
  const { file, name, caption } = slides[index];
  const element = document.createElement('figure');
  element.className = 'slide';
  const picture = document.createElement('img');
  picture.alt = caption || name;
  picture.src = file;
  element.append(picture);
  if (caption) {
    const line = document.createElement('figcaption');
    line.textContent = caption;
    element.append(line);
  }
  const ready = picture.decode().catch(() => {
    picture.remove();
    const gone = document.createElement('p');
    gone.textContent = `${name} is not there.`;
    element.append(gone);
  });
  return { element, ready };
}

const made = (index) => (slides[index] === null ? card() : photo(index));

function wrapped(index) {
  if (show.loop) return (index + slides.length) % slides.length;
  return Math.min(slides.length - 1, Math.max(0, index));
}

async function go(index, byHand) {
  const next = wrapped(index);
  if (next === at) return rest();
  const mine = ++step;
  clearTimeout(timer);
  const slide = ahead?.index === next ? ahead.slide : made(next);
  ahead = null;
  await slide.ready;
  if (mine !== step) return;
  at = next;
  swap(slide.element);
  tell(byHand);
  const following = wrapped(at + 1);
  if (following !== at) ahead = { index: following, slide: made(following) };
  if (isPlaying) timer = setTimeout(() => void go(at + 1, false), show.seconds * 1000);
  if (following === at) rest();
}

/** The last one stays where nothing follows. */
function rest() {
  clearTimeout(timer);
  setPlaying(false);
}

function swap(element) {
  const before = shown;
  shown = element;
  for (const old of stage.querySelectorAll('.going')) old.remove();
  stage.append(element);
  const fades = show.change === 'fade' && !isStill.matches;
  if (!fades) {
    before?.remove();
    element.classList.add('seen');
    return;
  }
  before?.classList.add('going');
  // Two frames, so that it is there unseen before it begins to come.
  requestAnimationFrame(() => requestAnimationFrame(() => element.classList.add('seen')));
  setTimeout(() => before?.remove(), FADE_MS);
}

function tell(byHand) {
  const count = show.photos.length;
  const number = at + 1 - (slides.length - count);
  const slide = slides[at];
  const words =
    slide === null ? show.title || 'Title' : `Photo ${number} of ${count}: ${slide.name}`;
  stage.setAttribute('aria-label', words);
  document.body.dataset.at = String(at);
  // Whoever listens is told what they turned to, and not each photo that comes by itself.
  if (byHand) said.textContent = words;
}

function setPlaying(now) {
  isPlaying = now;
  playButton.textContent = now ? 'Pause' : 'Play';
  clearTimeout(timer);
  if (now) timer = setTimeout(() => void go(at + 1, false), show.seconds * 1000);
}

function toggle() {
  // At the end, it begins again.
  if (!isPlaying && !show.loop && at === slides.length - 1) {
    isPlaying = true;
    playButton.textContent = 'Pause';
    void go(0, true);
    return;
  }
  setPlaying(!isPlaying);
}

function fill() {
  const turned = document.fullscreenElement
    ? document.exitFullscreen()
    : document.documentElement.requestFullscreen?.();
  // A browser may refuse; the show plays on in its window.
  turned?.catch(() => undefined);
}

const acts = {
  before: () => void go(at - 1, true),
  play: toggle,
  after: () => void go(at + 1, true),
  fill,
};
for (const [id, act] of Object.entries(acts))
  document.getElementById(id).addEventListener('click', act);

const keys = {
  ArrowLeft: acts.before,
  ArrowRight: acts.after,
  Home: () => void go(0, true),
  End: () => void go(slides.length - 1, true),
  f: fill,
};
addEventListener('keydown', (event) => {
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  const isOnButton = event.target instanceof HTMLButtonElement;
  const act = event.key === ' ' && !isOnButton ? toggle : keys[event.key];
  if (!act) return;
  event.preventDefault();
  act();
});

let from = null;
stage.addEventListener('pointerdown', ({ clientX }) => (from = clientX));
addEventListener('pointerup', ({ clientX }) => {
  const moved = from === null ? 0 : clientX - from;
  from = null;
  if (Math.abs(moved) >= SWIPE_PX) void go(moved < 0 ? at + 1 : at - 1, true);
});

document.addEventListener('visibilitychange', () => {
  if (!isPlaying) return;
  clearTimeout(timer);
  if (!document.hidden) timer = setTimeout(() => void go(at + 1, false), show.seconds * 1000);
});

/** Buttons are there when somebody moves, and gone when only watched. */
const AWAKE_MS = 2500;
let sleep = 0;
function wake() {
  document.body.classList.add('awake');
  clearTimeout(sleep);
  sleep = setTimeout(() => document.body.classList.remove('awake'), AWAKE_MS);
}
for (const sign of ['pointermove', 'pointerdown', 'keydown', 'focusin'])
  addEventListener(sign, wake);

wake();
void go(0, false);
