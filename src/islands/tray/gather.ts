import { unzipSync } from 'fflate';

const SCAN = /\.(stl|ply|obj)(\.gz)?$/i;

/** Files of a drop, those in dropped folders included, however deep. */
export async function filesOfDrop(data: DataTransfer): Promise<File[]> {
  const entries = [...data.items].map((i) => i.webkitGetAsEntry?.() ?? null);
  // A drop without folders needs no walk, and some of them (made by scripts) have no entries at all.
  if (!entries.some((e) => e?.isDirectory)) return [...data.files];
  return (await Promise.all(entries.map((e) => (e ? walk(e) : [])))).flat();
}

async function walk(entry: FileSystemEntry): Promise<File[]> {
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    // Folders hold all sorts of things; only what was dropped by itself is sent whatever it is.
    return SCAN.test(file.name) || /\.zip$/i.test(file.name) ? [file] : [];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const out: File[] = [];
  for (;;) {
    // A reader gives a hundred at a time and then none.
    const some = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (some.length === 0) return out;
    out.push(...(await Promise.all(some.map(walk))).flat());
  }
}

/** Zips unpacked into the scans in them; one that cannot be opened goes on as it is, and the server says what is wrong with it. */
export async function unpacked(files: readonly File[]): Promise<File[]> {
  const out: File[] = [];
  for (const f of files) {
    if (!/\.zip$/i.test(f.name)) {
      out.push(f);
      continue;
    }
    try {
      const inside = unzipSync(new Uint8Array(await f.arrayBuffer()), { filter: (e) => SCAN.test(e.name) });
      const scans = Object.entries(inside).map(([name, bytes]) => new File([bytes as BlobPart], name.split('/').at(-1) as string));
      out.push(...(scans.length ? scans : [f]));
    } catch {
      out.push(f);
    }
  }
  return out;
}
