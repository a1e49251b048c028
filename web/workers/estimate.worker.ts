import { expose, transfer } from 'comlink';
import type { InkView } from '#core/contract/readability';
import { EstimateDesk, type DeskQuestion } from './estimateDesk.ts';

/** Estimates readability of a whole batch away from the page's own thread. */
const desk = new EstimateDesk({
  async lightMaps(ids) {
    const answer = await asked('/api/light-maps', {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ ids }),
    });
    return new Uint8Array(await answer.arrayBuffer());
  },
  async ink({ id, version, words }) {
    const query = new URLSearchParams({ version: String(version), parts: '1' });
    if (words) query.set('words', JSON.stringify(words));
    const answer = await asked(`/api/marks/${id}/ink?${query}`);
    return (await answer.json()) as InkView;
  },
});

async function asked(address: string, wish?: RequestInit): Promise<Response> {
  const answer = await fetch(address, wish);
  if (!answer.ok) throw new Error(`The server answered ${answer.status} for ${address}.`);
  return answer;
}

const api = {
  take: desk.take.bind(desk),
  async answer(question: DeskQuestion) {
    const numbers = await desk.answer(question);
    return transfer(numbers, [numbers.buffer]);
  },
  calm(question: DeskQuestion) {
    const numbers = desk.calm(question);
    return transfer(numbers, [numbers.buffer]);
  },
};

export type EstimateDeskApi = typeof api;

expose(api);
