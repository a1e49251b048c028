import { describe, expect, it } from 'vitest';
import { presetRuleSchema } from '../contract/preset.ts';
import { showSchema } from '../contract/show.ts';
import { showPage, type ShowContent } from './showPage.ts';

const CONTENT: ShowContent = {
  ...{ rule: showSchema.parse({}), name: 'Shore', mark: null, corner: null },
  photos: [{ file: 'photos/1.jpg', name: 'a', caption: '' }],
};
const corner = (part: object) =>
  /style="([^"]*)"/.exec(
    showPage({ ...CONTENT, mark: 'mark.png', corner: presetRuleSchema.parse(part) }),
  )?.[1];

describe('the page of a show', () => {
  it('asks nothing of any other computer', () => {
    const page = showPage({ ...CONTENT, mark: 'mark.png' });
    expect(page).not.toMatch(/https?:|\/\//);
    expect(page).toContain('"photos":[{"file":"photos/1.jpg"');
  });

  it('holds names and words that look like markup as they are', () => {
    const evil = '</script><img src=x onerror="alert(1)">';
    const photos = [{ file: 'photos/1.jpg', name: evil, caption: evil }];
    const page = showPage({ ...CONTENT, name: evil, photos });
    expect(page).not.toContain('<img src=x');
    const data = /application\/json">([^<]*)<\/script>/.exec(page)?.[1] ?? '';
    expect((JSON.parse(data) as { photos: unknown }).photos).toEqual(photos);
  });

  it('has the mark still on the screen only where it is wanted there', () => {
    expect(showPage({ ...CONTENT, mark: 'mark.png' })).not.toContain('id="mark"');
    expect(corner({})).toContain('width:14vmax');
  });

  it.each([
    [{ anchor: 'bottom-right' }, ['right:3vmin', 'bottom:3vmin']],
    [{ anchor: 'top-left', inset: { unit: 'pixels', x: 20, y: 30 } }, ['left:20px', 'top:30px']],
    [{ anchor: 'bottom' }, ['left:50%', 'bottom:3vmin', 'transform:translate(-50%,0%)']],
    [{ anchor: 'centre' }, ['left:50%', 'top:50%', 'transform:translate(-50%,-50%)']],
    [{ size: { basis: 'width', value: 90 } }, ['width:60vw']],
    [{ size: { basis: 'pixels', value: 300 } }, ['width:300px']],
    [{ opacity: { rule: 'quiet', most: 0.7 } }, ['opacity:0.7']],
  ])('puts it where %j says', (part, styles) => {
    const said = corner(part)?.split(';') ?? [];
    expect(said).toEqual(expect.arrayContaining(styles));
  });
});
