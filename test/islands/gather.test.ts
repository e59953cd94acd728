import { strToU8, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { filesOfDrop, unpacked } from '../../src/islands/tray/gather.ts';

const file = (name: string, text = name): File => new File([text], name);
const zip = (name: string, inside: Record<string, string>): File =>
  new File([zipSync(Object.fromEntries(Object.entries(inside).map(([n, t]) => [n, strToU8(t)]))) as BlobPart], name);
const names = (files: readonly File[]) => files.map((f) => f.name);

/** A dropped file or folder as a browser provides it; folders return two entries per read. */
function entry(name: string, content: File | FileSystemEntry[]): FileSystemEntry {
  if (content instanceof File)
    return { isFile: true, isDirectory: false, name, file: (ok: (f: File) => void) => ok(content) } as unknown as FileSystemEntry;
  const left = [...content];
  return {
    isFile: false,
    isDirectory: true,
    name,
    createReader: () => ({ readEntries: (ok: (e: unknown[]) => void) => ok(left.splice(0, 2)) }),
  } as unknown as FileSystemEntry;
}
const drop = (...entries: FileSystemEntry[]): DataTransfer =>
  ({ items: entries.map((e) => ({ webkitGetAsEntry: () => e })), files: [file('plain.stl')] }) as unknown as DataTransfer;

describe('what was dropped', () => {
  it('without folders is taken as it is, whatever its type', async () =>
    expect(names(await filesOfDrop(drop(entry('letter.txt', file('letter.txt')))))).toEqual(['plain.stl']));
  it('folders give the scans and zips in them, however deep and however many', async () => {
    const many = ['H01.stl', 'H02.ply', 'H03.obj', 'H04.stl.gz', 'notes.txt', 'all.zip'].map((n) => entry(n, file(n)));
    const found = await filesOfDrop(drop(entry('afternoon', [...many, entry('bench 2', [entry('H05.STL', file('H05.STL'))])])));
    expect(names(found).sort()).toEqual(['H01.stl', 'H02.ply', 'H03.obj', 'H04.stl.gz', 'H05.STL', 'all.zip']);
  });
});

describe('zips', () => {
  it('give their scans under their own names and leave out other files', async () => {
    const out = await unpacked([zip('a.zip', { 'x/H01.stl': 'one', 'x/readme.md': 'no', 'H02.ply': 'two' }), file('H03.obj')]);
    expect(names(out)).toEqual(['H01.stl', 'H02.ply', 'H03.obj']);
    expect(await out[1].text()).toBe('two');
  });
  it('that cannot be opened or hold no scan are sent unchanged: the server says what is wrong', async () => {
    expect(names(await unpacked([file('broken.zip', 'PK?'), zip('empty.zip', { 'a.txt': 'a' })]))).toEqual(['broken.zip', 'empty.zip']);
  });
});
