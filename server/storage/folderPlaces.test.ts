import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { diskPlaces, homePlaces } from './folderPlaces.ts';

it('finds disks among what is mounted, with spaces in their names', async () => {
  const lines = [
    '22 1 8:1 / / rw,relatime - ext4 /dev/sda1 rw',
    '40 22 0:35 / /proc rw,nosuid - proc proc rw',
    '77 22 8:17 / /media/CARD\\040ONE rw,relatime - vfat /dev/sdb1 rw',
    '78 22 8:33 / /mnt/archive rw - ext4 /dev/sdc1 rw',
    '79 22 8:33 / /run/user/1000 rw - tmpfs tmpfs rw',
    '',
  ];
  const found = await diskPlaces(() => Promise.resolve(lines.join('\n')));
  expect(found).toEqual([
    { kind: 'disk', name: 'CARD ONE', path: '/media/CARD ONE' },
    { kind: 'disk', name: 'archive', path: '/mnt/archive' },
  ]);
});

it('knows no disks where the system does not tell', async () => {
  expect(await diskPlaces(() => Promise.reject(new Error('not there')))).toEqual([]);
});

it('names the home and the folders of it that are there', async () => {
  const home = mkdtempSync(join(tmpdir(), 'light-crest-home-'));
  mkdirSync(join(home, 'Pictures'));
  expect((await homePlaces(home)).map(({ name }) => name)).toEqual(['Home', 'Pictures']);
  rmSync(home, { recursive: true });
});
