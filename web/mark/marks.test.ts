import { flushPromises, mount } from '@vue/test-utils';
import { createPinia, setActivePinia } from 'pinia';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import type { MarkView } from '#core/contract/http';
import { useLibrary } from '../app/library.ts';
import BoxQuestion from './BoxQuestion.vue';
import MarkCard from './MarkCard.vue';

const plain: MarkView = {
  ...{ id: 4, name: 'Crest', version: 1, kind: 'svg', notes: [], retired: false, usedBy: [] },
  ...{
    ink: { x: 0, y: 0, width: 480, height: 320 },
    origin: 'file',
    scanId: null,
    box: null,
    isPending: false,
  },
  ...{ bleed: { x: 0, y: 0 }, tokens: [] },
};
const boxed: MarkView = {
  ...plain,
  kind: 'png',
  box: { colour: '#ffffff', version: 1, taken: null },
};

/** Answers of the server, by method and path. */
function answering(answers: Record<string, unknown>) {
  const asked: string[] = [];
  vi.stubGlobal('fetch', async (path: string, { method = 'GET', body }: RequestInit) => {
    asked.push(`${method} ${path} ${typeof body === 'string' ? body : ''}`.trim());
    return new Response(JSON.stringify(answers[`${method} ${path}`] ?? null));
  });
  return asked;
}

beforeEach(() => {
  setActivePinia(createPinia());
  useLibrary().marks = [plain];
});

function card(mark: MarkView) {
  return mount(MarkCard, {
    props: { mark },
    global: {
      stubs: {
        RouterLink: { props: ['to'], template: '<a :href="to"><slot /></a>' },
        DownloadDialog: true,
        ToneDropper: true,
      },
    },
  });
}

describe('a mark of the library', () => {
  it('tells that outlines stay sharp, and to what size pixels do', () => {
    expect(card(plain).text()).toContain('Outlines, sharp at any size. Not used by a preset yet.');
    const small = card({ ...boxed, usedBy: ['Low right', 'Proofs'] }).text();
    expect(small).toContain('480 × 320 px. Used by Low right; Proofs.');
    expect(small).toContain('Small: sharp at 16 % on photos up to 3,000 px.');
  });

  it.each([
    ['pen', null, '/marks/pen?mark=4', 'Sign again'],
    ['paper', 9, '/marks/from-paper/9?mark=4', 'Lift again'],
  ] as const)('made by %s can be taken up again', (origin, scanId, to, label) => {
    const link = card({ ...plain, origin, scanId }).findAll('a')[1];
    expect([link.attributes('href'), link.text()]).toEqual([to, label]);
  });

  it('whose scan is gone cannot', () => {
    const links = card({ ...plain, origin: 'paper' }).findAll('a');
    expect(links.map((link) => link.text())).toEqual(['Design']);
  });

  it('that a preset uses cannot be deleted, only retired', () => {
    const words = card({ ...plain, usedBy: ['Low right'] })
      .findAll('.actions button')
      .map((button) => button.text());
    expect(words).toContain('Retire');
    expect(words).not.toContain('Delete');
  });

  it('takes another file as its artwork, and keeps its place', async () => {
    const asked = answering({ 'POST /api/marks/4/artwork?name=new.png': { ...plain, version: 2 } });
    const input = card(plain).get('input[type="file"]');
    const file = new File(['x'], 'new.png');
    Object.defineProperty(input.element, 'files', { value: [file] });
    await input.trigger('change');
    await flushPromises();
    expect(asked).toEqual(['POST /api/marks/4/artwork?name=new.png']);
    expect(useLibrary().marks.map(({ id, version }) => [id, version])).toEqual([[4, 2]]);
  });
});

describe('a box round it', () => {
  it('is asked about in words, and decided', async () => {
    const after = { ...boxed, box: { ...boxed.box, taken: 'outside' }, version: 2 };
    const asked = answering({ 'POST /api/marks/4/box': after });
    const question = mount(BoxQuestion, { props: { mark: boxed } });
    expect(question.text()).toContain('It stands in a white box. Take the box away?');
    await question.findAll('button')[0].trigger('click');
    await flushPromises();
    expect(asked).toEqual(['POST /api/marks/4/box {"take":"outside"}']);
    expect(useLibrary().marks[0].box?.taken).toBe('outside');
  });

  it('can be decided again', async () => {
    const taken = {
      ...boxed,
      box: { colour: '#203040', version: 1, taken: 'everywhere' as const },
    };
    const question = mount(BoxQuestion, { props: { mark: taken } });
    expect(question.text()).toContain('taken away everywhere');
    await question.get('button').trigger('click');
    expect(question.text()).toContain('It stands in a #203040 box');
  });
});
