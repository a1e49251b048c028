import { expose, transfer } from 'comlink';
import { LiftDesk } from './liftDesk.ts';

/** Lifts ink away from the page's own thread; pictures are handed over, not copied. */
const desk = new LiftDesk();

const api = {
  load: desk.load.bind(desk),
  suggested: desk.suggested.bind(desk),
  outlines: desk.outlines.bind(desk),
  pick: desk.pick.bind(desk),
  cropRoundInk: desk.cropRoundInk.bind(desk),
  async pictures(...words: Parameters<LiftDesk['pictures']>) {
    const pictures = await desk.pictures(...words);
    return transfer(pictures, [pictures.photo, pictures.sheet]);
  },
  async look(...words: Parameters<LiftDesk['look']>) {
    const look = await desk.look(...words);
    return transfer(look, look.ink ? [look.ink.bitmap] : []);
  },
};

export type LiftDeskApi = typeof api;

expose(api);
