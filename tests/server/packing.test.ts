import { readFile, writeFile } from 'node:fs/promises';
import { PNG } from 'pngjs';
import { cleanUp, freshBijou, storedFiles, unzipped } from './folder';
import { outlineOf, withIsle } from './isle';

afterAll(cleanUp);

const pieces = async (stream: ReadableStream<Uint8Array>) => {
  const all: Uint8Array[] = [];
  for await (const piece of stream as unknown as AsyncIterable<Uint8Array>) all.push(piece);
  return Buffer.concat(all);
};

describe('a pack', () => {
  test('is built where it is not, laid out, and the same to the bit each time', async () => {
    const { bijou, project, brief, make, outline } = await withIsle();
    expect(await outline()).toMatchObject({ toBuild: 3, newest: null });
    const pack = await make();
    expect(pack).toMatchObject({ state: 'done', files: 6, title: 'Skerry', error: null });
    expect(pack.list.map(({ path }) => path)).toEqual([
      ...['calls.json', 'gull_1.ogg', 'gull_2.ogg', 'icon.png', 'isle.json', 'shore.ogg'],
    ]);
    const first = await pieces(bijou.packing.zip(pack.id).stream);
    expect(Buffer.compare(first, await pieces(bijou.packing.zip(pack.id).stream))).toBe(0);
    // What would come out the same is that pack.
    expect((await outline()).newest).toEqual({ id: pack.id, isCurrent: true });
    expect((await bijou.packing.make(project, [brief])).id).toBe(pack.id);
    const files = await unzipped([first]);
    expect([...files.keys()]).toEqual(pack.list.map(({ path }) => path));
    expect(JSON.parse(files.get('isle.json')!.toString())).toEqual({ title: 'Skerry', edition: 3 });
    expect(JSON.parse(files.get('calls.json')!.toString())).toMatchObject({
      calls: [
        { id: 'gull', variants: [{ path: 'gull_1.ogg' }, { path: 'gull_2.ogg' }] },
        { id: 'surf' },
      ],
    });
    expect(PNG.sync.read(files.get('icon.png')!).width).toBe(32);
    expect(files.get('shore.ogg')!.subarray(0, 4).toString()).toBe('OggS');
  });

  test('as a zip has sizes and checksums in front of each file, no times and no folder around', async () => {
    const { bijou, make } = await withIsle();
    const pack = await make();
    const zip = await pieces(bijou.packing.zip(pack.id).stream);
    let at = 0;
    for (const { path, bytes } of pack.list) {
      // Local file header (APPNOTE 4.3.7): signature, flags, method, time, date, CRC, sizes, name.
      expect(zip.readUInt32LE(at)).toBe(0x04034b50);
      expect(zip.readUInt16LE(at + 6) & 0b1000).toBe(0);
      expect(zip.readUInt16LE(at + 8)).toBe(0);
      expect([zip.readUInt16LE(at + 10), zip.readUInt16LE(at + 12)]).toEqual([0, 0x21]);
      expect([zip.readUInt32LE(at + 18), zip.readUInt32LE(at + 22)]).toEqual([bytes, bytes]);
      const length = zip.readUInt16LE(at + 26);
      expect(zip.subarray(at + 30, at + 30 + length).toString()).toBe(path);
      at += 30 + length + zip.readUInt16LE(at + 28) + bytes;
    }
    expect(zip.readUInt32LE(at)).toBe(0x02014b50);
  });

  test('is opened file by file, also in parts', async () => {
    const { bijou, make } = await withIsle();
    const { id, list } = await make();
    const asked = { range: null, ifRange: null, ifNoneMatch: null };
    const whole = await bijou.packing.file(id, 'shore.ogg', asked);
    expect(whole).toMatchObject({ status: 200, mimeType: 'audio/ogg; codecs=vorbis' });
    const bytes = await pieces(whole.stream!);
    expect(bytes.length).toBe(list.find(({ path }) => path === 'shore.ogg')!.bytes);
    const part = await bijou.packing.file(id, 'shore.ogg', { ...asked, range: 'bytes=4-9' });
    expect(part).toMatchObject({ status: 206 });
    expect(await pieces(part.stream!)).toEqual(bytes.subarray(4, 10));
    expect(await bijou.packing.file(id, 'isle.json', asked)).toMatchObject({
      mimeType: 'application/json; charset=utf-8',
    });
    for (const path of ['nothing.ogg', '../bijou.db', '', 'SHORE.OGG']) {
      await expect(bijou.packing.file(id, path, asked)).rejects.toThrow(/no such file/);
    }
  });

  test('that would be wrong is not made, and every reason is said', async () => {
    const { bijou, project, brief, ids, fill, told } = await withIsle();
    fill('shore.ogg', null);
    bijou.layouts.settle(project, brief, { fields: { edition: 9 } });
    expect(await told()).toEqual(['Nothing fills shore.ogg (the shore).', 'Edition cannot be 9.']);
    await expect(bijou.packing.make(project, [brief])).rejects.toThrow(
      /Nothing fills .* Edition cannot/,
    );
    await expect(bijou.packing.make(project, ['nowhere'])).rejects.toThrow(/no brief "nowhere"/);
    await expect(bijou.packing.make(project, [])).rejects.toThrow(/No destination/);
    expect(bijou.packing.list(project)).toEqual([]);
    // A slot is emptied by the sound that goes.
    fill('shore.ogg', ids[2]!);
    bijou.edits.edit(project, [{ soundId: ids[2]!, removed: true }]);
    expect((await told())[0]).toBe('Nothing fills shore.ogg (the shore).');
  });

  test('keeps what is in it, whatever becomes of the project; a newer one says what is other', async () => {
    const { bijou, folder, project, ids, brief, make, outline } = await withIsle();
    const old = await make();
    const zip = await pieces(bijou.packing.zip(old.id).stream);
    const before = await storedFiles(folder);
    bijou.layouts.settle(project, brief, { title: 'Storm' });
    bijou.sounds.setRecipe(ids[0]!, {
      version: 1,
      steps: [{ kind: 'gain', on: true, params: { gainDb: -3 } }],
    });
    expect((await outline()).newest).toEqual({ id: old.id, isCurrent: false });
    expect((await bijou.packing.details(old.id, null)).now).toBeNull();
    const now = await make();
    const { changes } = (await bijou.packing.details(now.id, old.id)).since!;
    const paths = (files: readonly { path: string }[]) => files.map(({ path }) => path);
    expect([paths(changes.changed), changes.same]).toEqual([
      ['gull_1.ogg', 'icon.png', 'isle.json'],
      3,
    ]);
    expect(paths((await bijou.packing.details(old.id, null)).now!.changed)).toHaveLength(3);
    const patch = await unzipped(bijou.packing.patch(now.id, old.id).stream);
    expect([...patch.keys()]).toEqual(['patch.json', 'gull_1.ogg', 'icon.png', 'isle.json']);
    expect(JSON.parse(patch.get('patch.json')!.toString())).toMatchObject({
      ...{ pack: old.id, since: old.digest, removed: [], same: 3 },
    });
    // Everything else that held the old files is gone; the pack is not.
    bijou.packs.release(project, { sounds: ids, briefs: [brief] });
    await bijou.cleaning.cleanUp(project);
    await bijou.jobs.idle();
    expect(Buffer.compare(await pieces(bijou.packing.zip(old.id).stream), zip)).toBe(0);
    expect((await storedFiles(folder)).length).toBeGreaterThanOrEqual(before.length);
  });

  test('that was removed comes back within a day; then its bytes go', async () => {
    const { bijou, folder, project, brief, make } = await withIsle();
    const { id, list } = await make();
    bijou.packing.remove(id);
    expect(bijou.packing.list(project)).toEqual([]);
    bijou.packing.bringBack(id);
    expect(bijou.packing.list(project).map((pack) => pack.id)).toEqual([id]);
    bijou.packing.remove(id);
    const isle = list.find(({ path }) => path === 'isle.json')!;
    bijou.packing.letGo();
    expect(() => bijou.packing.bringBack(id)).not.toThrow();
    bijou.packing.remove(id);
    bijou.packing.letGo(Date.now() + 25 * 3_600_000);
    await bijou.jobs.idle();
    expect(await storedFiles(folder)).not.toContain(isle.sha256);
    await expect(bijou.packing.details(id, null)).rejects.toThrow(/not there any more/);
    expect((await bijou.packing.make(project, [brief])).id).toBeGreaterThan(id);
    await bijou.jobs.idle();
  });

  test('of a file that is damaged is not made', async () => {
    const { bijou, project, brief, make } = await withIsle();
    const { list } = await make();
    const { sha256 } = list.find(({ path }) => path === 'shore.ogg')!;
    const place = bijou.store.path(sha256);
    const bytes = await readFile(place);
    bytes[bytes.length - 1]! ^= 1;
    await writeFile(place, bytes);
    bijou.layouts.settle(project, brief, { title: 'Other' });
    const failed = await make();
    expect(failed).toMatchObject({ state: 'failed', files: 0 });
    expect(failed.error!.message).toMatch(/shore.ogg is damaged/);
  });

  test('that was being put together when something fell over is finished', async () => {
    const { bijou, folder, project, brief, make } = await withIsle();
    const { id, digest } = await make();
    await bijou.close();
    const { default: Database } = await import('better-sqlite3');
    const db = new Database(`${folder}/bijou.db`);
    db.prepare("UPDATE packs SET state = 'packing', digest = NULL WHERE id = ?").run(id);
    db.prepare("DELETE FROM packedFiles WHERE path = 'isle.json'").run();
    db.close();
    const { bijou: again } = await freshBijou(folder);
    await again.jobs.idle();
    expect(await again.packing.details(id, null)).toMatchObject({
      state: 'done',
      digest,
      files: 6,
    });
    expect((await outlineOf(again, project, [brief])).newest!.isCurrent).toBe(true);
  });
});
