/** What is put aside while files are made. Where the browser has a disk of its own for pages, it is put there,
 * and memory holds nothing of it. */
export interface Box {
  append(data: Float32Array<ArrayBuffer> | Uint8Array<ArrayBuffer>): void;
  /** What was put in, in pieces. */
  pieces(): AsyncGenerator<Float32Array<ArrayBuffer>>;
  /** All of it; nothing is put in afterwards. */
  file(): Promise<Blob>;
}

// What workers have of such files; the library of types for pages does not know it.
interface Access {
  read(into: Float32Array<ArrayBuffer>, options: { at: number }): number;
  write(data: Float32Array<ArrayBuffer> | Uint8Array<ArrayBuffer>, options: { at: number }): number;
  close(): void;
}
type OfWorker = FileSystemFileHandle & { createSyncAccessHandle(): Promise<Access> };

/** The folder of the page's disk that is used; what is in it is of no use to a later page. */
const FOLDER = "sound";

/** How many bytes are read at a time. */
const READ = 2 ** 22;

/** The folder, emptied if that is wanted; null: the browser has none. */
export async function folder(fresh: boolean): Promise<FileSystemDirectoryHandle | null> {
  try {
    const root = await navigator.storage.getDirectory();
    if (fresh) await root.removeEntry(FOLDER, { recursive: true }).catch(() => undefined);
    return await root.getDirectoryHandle(FOLDER, { create: true });
  } catch {
    return null; // memory does, then
  }
}

export class Shelf {
  private count = 0;

  private constructor(private readonly own: FileSystemDirectoryHandle | null) {}

  static async open(): Promise<Shelf> {
    return new Shelf(await folder(true));
  }

  async box(): Promise<Box> {
    if (!this.own) return new Kept();
    try {
      const handle = (await this.own.getFileHandle(`${++this.count}`, { create: true })) as OfWorker;
      return new Filed(handle, await handle.createSyncAccessHandle());
    } catch {
      return new Kept();
    }
  }
}

class Filed implements Box {
  private size = 0;

  constructor(
    private readonly handle: FileSystemFileHandle,
    private readonly access: Access,
  ) {}

  append(data: Float32Array<ArrayBuffer> | Uint8Array<ArrayBuffer>): void {
    this.size += this.access.write(data, { at: this.size });
  }

  async *pieces(): AsyncGenerator<Float32Array<ArrayBuffer>> {
    for (let at = 0; at < this.size; at += READ) {
      const piece = new Float32Array(Math.min(READ, this.size - at) / 4);
      this.access.read(piece, { at });
      yield piece;
    }
  }

  async file(): Promise<Blob> {
    this.access.close();
    return this.handle.getFile();
  }
}

class Kept implements Box {
  private readonly parts: Blob[] = [];

  append(data: Float32Array<ArrayBuffer> | Uint8Array<ArrayBuffer>): void {
    this.parts.push(new Blob([data]));
  }

  async *pieces(): AsyncGenerator<Float32Array<ArrayBuffer>> {
    for (const part of this.parts) yield new Float32Array(await part.arrayBuffer());
  }

  async file(): Promise<Blob> {
    return new Blob(this.parts);
  }
}
