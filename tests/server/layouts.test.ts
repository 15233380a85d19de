import { PNG } from 'pngjs';
import { cleanUp } from './folder';
import { outlineOf, withIsle } from './isle';

afterAll(cleanUp);

describe('what is decided about a pack', () => {
  test('while it is laid out, it is laid out with that', async () => {
    const { bijou, project, brief, outline } = await withIsle();
    await outline();
    bijou.layouts.settle(project, brief, { title: 'Before' });
    const asked = outline();
    // By then a thread is at it.
    await new Promise((resolve) => setImmediate(resolve));
    bijou.layouts.settle(project, brief, { title: 'Meanwhile' });
    expect((await asked).parts[0]!.title).toBe('Meanwhile');
    expect((await outline()).parts[0]!.title).toBe('Meanwhile');
    await expect(outlineOf(bijou, project, ['nowhere'])).rejects.toMatchObject({
      ...{ code: 'not-found', message: 'There is no brief "nowhere".' },
    });
  });

  test('can be undone and done again, with what is done to sounds in between', async () => {
    const { bijou, project, brief, ids, fill, outline } = await withIsle();
    const part = async () => (await outline()).parts[0]!;
    bijou.layouts.settle(project, brief, { title: 'Storm' });
    fill('cave.ogg', ids[2]!);
    bijou.layouts.settle(project, brief, { fields: { edition: 2 } });
    expect(await part()).toMatchObject({ title: 'Storm', fields: { edition: 2 } });
    expect(bijou.edits.undo(project)).toBe('Set the fields of “Isle”');
    expect(await part()).toMatchObject({ title: 'Storm', fields: { edition: 3 } });
    expect(bijou.edits.undo(project)).toBe('Fill cave.ogg of “Isle”');
    expect((await part()).slots[1]!.soundIds).toEqual([]);
    expect(bijou.edits.undo(project)).toBe('Set the title of “Isle”');
    expect((await part()).title).toBe('Skerry');
    for (let i = 0; i < 3; i++) bijou.edits.redo(project);
    expect(await part()).toMatchObject({ title: 'Storm', fields: { edition: 2 } });
    expect((await part()).slots[1]!.soundIds).toEqual([ids[2]]);
    // Something new takes the place of what was undone.
    bijou.edits.undo(project);
    bijou.layouts.settle(project, brief, { title: null });
    expect(bijou.edits.redo(project)).toBeNull();
    expect((await part()).title).toBe('Skerry');
  });

  test('a sound that is put into a slot puts out what was there; one may fill several', async () => {
    const { bijou, project, brief, ids, fill, outline } = await withIsle();
    const slots = async () => (await outline()).parts[0]!.slots.map(({ soundIds }) => soundIds);
    fill('shore.ogg', ids[0]!);
    expect(await slots()).toEqual([[ids[0]], []]);
    fill('cave.ogg', ids[0]!);
    expect(await slots()).toEqual([[ids[0]], [ids[0]]]);
    expect(
      (await outline()).files.filter(({ path }) => path.endsWith('.ogg')).map(({ path }) => path),
    ).toEqual([...['cave.ogg', 'gull_2.ogg', 'shore.ogg', 'surf.ogg']]);
    expect(() => fill('nowhere.ogg', ids[0]!)).toThrow(/no slot/);
    expect(() => fill('cave.ogg', 99)).toThrow(/does not go/);
    bijou.layouts.fill(project, brief, [
      { path: 'shore.ogg', soundId: null },
      { path: 'cave.ogg', soundId: null },
    ]);
    bijou.edits.edit(project, [{ soundId: ids[1]!, name: 'Shore' }]);
    // Its own name leads there already.
    expect(await slots()).toEqual([[ids[1]], []]);
    const found = await bijou.layouts.byName(project, brief);
    expect(found).toEqual([]);
    bijou.edits.edit(project, [{ soundId: ids[2]!, name: 'Cave!' }]);
    expect(await slots()).toEqual([[ids[1]], [ids[2]]]);
  });

  test('icons are taken that do, and drawn again', async () => {
    const { bijou, project, brief } = await withIsle();
    const given = PNG.sync.write(new PNG({ width: 64, height: 64 }));
    await bijou.layouts.setIcon(project, brief, new Uint8Array(given));
    expect(Buffer.compare(await bijou.layouts.icon(project, brief), given)).toBe(0);
    await expect(
      bijou.layouts.setIcon(
        project,
        brief,
        new Uint8Array(PNG.sync.write(new PNG({ width: 30, height: 30 }))),
      ),
    ).rejects.toThrow(/30 × 30/);
    await bijou.layouts.setIcon(project, brief, null);
    expect(PNG.sync.read(Buffer.from(await bijou.layouts.icon(project, brief))).width).toBe(32);
    bijou.edits.undo(project);
    expect(Buffer.compare(await bijou.layouts.icon(project, brief), given)).toBe(0);
  });

  test('calls are changed, taken over from elsewhere, and follow names again; a copy plays its own sounds', async () => {
    const { bijou, project, brief, ids, outline } = await withIsle();
    const calls = async () => (await outline()).parts[0]!.calls;
    expect((await calls()).map(({ id }) => id)).toEqual(['gull', 'surf']);
    expect(await bijou.layouts.proposedCalls(project, brief, 'each')).toHaveLength(3);
    const text =
      '{ "calls": [{ "id": "bird", "variants": [{ "path": "gull_2.ogg", "odds": 2 }, "shore.ogg"] ] }';
    expect(await bijou.layouts.doctor(project, brief, text)).toMatchObject({
      problems: [{ mend: 'put } there' }],
      missing: [],
      unused: ['gull_1.ogg'],
    });
    await bijou.layouts.takeOver(project, brief, text);
    expect((await calls())[0]).toMatchObject({
      id: 'bird',
      variants: [
        { soundId: ids[1], odds: 2 },
        { soundId: ids[2], odds: 1 },
      ],
    });
    const copy = await bijou.projects.copy(project);
    const [twin] = (await outlineOf(bijou, copy.id, [brief])).parts;
    const own = bijou.sounds.ofProject(copy.id).map(({ id }) => id);
    expect(own).toContain(twin!.calls[0]!.variants[0]!.soundId);
    bijou.layouts.setCalls(project, brief, null);
    expect((await calls()).map(({ id }) => id)).toEqual(['gull', 'surf']);
    expect(() => bijou.layouts.setCalls(project, 'web-page', [])).toThrow(/no index of calls/);
    await expect(bijou.layouts.takeOver(project, brief, '{"a": "b.ogg"}')).rejects.toThrow(
      /no index of calls/,
    );
  });
});
