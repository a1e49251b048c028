import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { sharp } from '#server/imaging/sharp';
import { designSchema, type Design } from '#core/contract/design';
import { defaultFinish, type Finish } from '#core/contract/finish';
import type { MarkView } from '#core/contract/http';
import { markToSvg } from '#core/design/markToSvg';
import { CHROMIUM } from '../tests/helpers/chromium.ts';
import { context, font } from '../tests/helpers/faces.ts';
import { startServer } from '../tests/helpers/serverProcess.ts';
import { atMost, median, type Row } from './measure.ts';

/** Composed marks: what a finished one costs the server, and how a drag feels in the page. */

const WIDTH_PX = 1_200;
const DRAWING_LIMIT_MS = 150;
const ROUNDS = 15;
const WARM_ROUNDS = 40;
/** A frame of a screen that shows 60 a second, and a little for the clock's own grain. */
const FRAME_LIMIT_MS = 17.5;
const FRAMES = 150;
const LAYERS = 10;

export async function designBench(): Promise<Row[]> {
  return [await drawing(), ...(await dragging())];
}

const FINISHES: readonly Finish[] = (['outline', 'shadow', 'bevel'] as const).map(defaultFinish);

function lettering(id: string, text: string, family: string, place: object, finishes = FINISHES) {
  return {
    kind: 'lettering',
    id,
    name: id,
    place,
    finishes,
    lettering: { text, font: font(family) },
  };
}

/** Processor time of a mark with most finishes, from its model to pixels, nothing kept. */
async function drawing(): Promise<Row> {
  sharp.unblock({ operation: ['VipsForeignLoadSvg'] });
  const small = { y: 130, scaleX: 0.5, scaleY: 0.5 };
  const text = JSON.stringify(
    designSchema.parse({
      layers: [
        lettering('name', 'Ines Marlow', 'great-vibes', { scaleX: 2, scaleY: 2 }),
        lettering('rights', '© 2026 Quillon Bay Pictures', 'montserrat', small, []),
      ],
      finishes: [defaultFinish('glow')],
    }),
  );
  const times: number[] = [];
  // A server that has drawn before, as it mostly has.
  for (let round = -WARM_ROUNDS; round < ROUNDS; round++) {
    const design = designSchema.parse(JSON.parse(text));
    const before = process.cpuUsage();
    const drawn = markToSvg(design, 'light', context());
    if (!drawn.ok) throw new Error(drawn.reason);
    const { svg, natural } = drawn.value;
    const height = Math.round((WIDTH_PX * natural.height) / natural.width);
    const sized = svg.replace(
      /width="[\d.]+" height="[\d.]+">/,
      `width="${WIDTH_PX}" height="${height}">`,
    );
    await sharp(Buffer.from(sized)).raw().toBuffer();
    const { user, system } = process.cpuUsage(before);
    if (round >= 0) times.push((user + system) / 1_000);
  }
  return atMost(
    'design: a finished mark 1,200 px wide, processor time',
    median(times),
    DRAWING_LIMIT_MS,
    ' ms',
  );
}

async function dragging(): Promise<Row[]> {
  const folder = mkdtempSync(join(tmpdir(), 'light-crest-bench-'));
  const server = await startServer(folder, folder);
  const browser = await chromium.launch(CHROMIUM);
  try {
    const frame = async (design: Design): Promise<number> => {
      const made = await fetch(`${server.address}/api/designs`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ name: 'Ten layers', design }),
      });
      const { id } = (await made.json()) as MarkView;
      const page = await browser.newPage({ viewport: { width: 1_280, height: 800 } });
      await page.goto(`${server.address}/marks/${id}/design`);
      await page.locator('.stage[data-rest=true]').waitFor();
      const times = await page.evaluate<number[]>(DRAG_SCRIPT);
      await page.close();
      return median(times);
    };
    const limit = FRAME_LIMIT_MS;
    return [
      atMost('design: a frame of a drag, ten finished layers', await frame(ten([])), limit, ' ms'),
      atMost(
        'design: the same with a shadow round the whole mark',
        await frame(ten([defaultFinish('shadow')])),
        limit,
        ' ms',
      ),
    ];
  } finally {
    await browser.close();
    await server.kill();
    rmSync(folder, { recursive: true });
  }
}

function ten(finishes: readonly Finish[]): Design {
  const texts = ['Ines Marlow', 'Quillon Bay', '© {year} Pictures'];
  const families = ['great-vibes', 'montserrat', 'cormorant-garamond'];
  const layers = Array.from({ length: LAYERS }, (_, index) => {
    const place = { x: (index % 2) * 600 - 300, y: Math.floor(index / 2) * 110 - 250 };
    return lettering(`L${index}`, texts[index % 3], families[index % 3], place);
  });
  return designSchema.parse({ layers, finishes });
}

/**
 * In the page: pulls a layer about and notes how long each frame took, ms. A text, since what the
 * loader makes of a function does not run there; there is no real pointer that could be captured.
 */
const DRAG_SCRIPT = `(async () => {
  const hold = document.querySelector('.hold[aria-label="L4"]');
  const { x, y } = hold.getBoundingClientRect();
  hold.setPointerCapture = () => undefined;
  const send = (kind, byX, byY) => hold.dispatchEvent(new PointerEvent(kind, {
    bubbles: true, button: 0, pointerId: 1, clientX: x + 9 + byX, clientY: y + 9 + byY,
  }));
  send('pointerdown', 0, 0);
  const times = [];
  let last = performance.now();
  for (let frame = 0; frame < ${FRAMES}; frame++) {
    send('pointermove', 90 * Math.sin(frame / 10), 60 * Math.cos(frame / 13));
    await new Promise((done) => requestAnimationFrame(done));
    times.push(performance.now() - last);
    last = performance.now();
  }
  send('pointerup', 0, 0);
  return times;
})()`;
