import type { Layout } from '@/core/brief/layout';
import type { BriefText } from '@/core/brief/schema';
import type { Bijou } from '@/server/bijou';
import type { PackOutline } from '@/wire';
import { encode } from '../core/files';
import { noise } from '../core/signals';
import { freshBijou, streamOf } from './folder';

const RATE = 44_100;
const sounds = ['gull_1', 'gull_2', 'surf'];
const layout: Layout = {
  slots: [
    { path: 'shore.ogg', title: 'the shore' },
    { path: 'cave.ogg', isOptional: true },
  ],
  fields: [{ id: 'edition', title: 'Edition', value: 3, oneOf: [2, 3] }],
  icon: { path: 'icon.png', sizes: [32, 64] },
  texts: [
    {
      path: 'isle.json',
      is: 'json',
      template: '{ "title": "{{title}}", "edition": {{edition}} }\n',
    },
    { path: 'calls.json', manifest: 'calls' },
  ],
};
const isle: BriefText = {
  ...{ id: 'isle', version: 1, title: 'Isle', purpose: 'A game.', notes: [] },
  files: [{ id: 'ogg', writer: 'ogg', settings: { quality: 3 } }],
  names: { case: 'lower', characters: 'a-z0-9_' },
  layout,
};

/** A pack as it would be made now. */
export async function outlineOf(bijou: Bijou, project: number, briefs: string[]) {
  const text = await bijou.packing.outline(project, briefs);
  return JSON.parse(new TextDecoder().decode(text)) as PackOutline;
}

/** Sounds that go to an island of one's own, the last of them into its slot. */
export async function withIsle() {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Skerry');
  const ids: number[] = [];
  for (const [i, name] of sounds.entries()) {
    const samples = noise(RATE / 4, i + 1).map((x) => x * 0.2);
    const bytes = await encode([samples], RATE, 'wav', { bits: 16 });
    const { sound } = await bijou.sounds.add(project, `${name}.wav`, streamOf(bytes), bytes.length);
    ids.push(sound.id);
  }
  await bijou.jobs.idle();
  const { id: brief } = bijou.ownBriefs.bringIn(project, JSON.stringify(isle)).brief;
  bijou.packs.send(project, { sounds: ids, briefs: [brief] });
  const fill = (path: string, soundId: number | null) =>
    bijou.layouts.fill(project, brief, [{ path, soundId }]);
  fill('shore.ogg', ids[2]!);
  const make = async () => {
    const { id } = await bijou.packing.make(project, [brief]);
    await bijou.jobs.idle();
    return await bijou.packing.details(id, null);
  };
  const outline = () => outlineOf(bijou, project, [brief]);
  const told = async () =>
    (await outline()).troubles
      .filter(({ weight }) => weight === 'wrong')
      .map(({ message }) => message);
  return { bijou, folder, project, ids, brief, fill, make, outline, told };
}
