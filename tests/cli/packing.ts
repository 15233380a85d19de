import { encode } from '../core/files';
import { noise } from '../core/signals';
import { freshBijou, streamOf } from '../server/folder';
import { bijouOver } from './run';

const RATE = 44_100;
const isle = {
  ...{ id: 'isle', version: 1, title: 'Isle', purpose: 'A game.', notes: [] },
  files: [{ id: 'ogg', writer: 'ogg', settings: { quality: 3 } }],
  layout: {
    slots: [{ path: 'shore.ogg' }],
    icon: { path: 'icon.png', sizes: [32] },
    texts: [
      { path: 'isle.json', is: 'json', template: '{ "title": "{{title}}" }\n' },
      { path: 'calls.json', manifest: 'calls' },
    ],
  },
};

/** A data folder with three sounds that go to an island, of which one fills its slot. */
export async function dataFolder(more: object = {}) {
  const { bijou, folder } = await freshBijou();
  const project = bijou.projects.add('Skerry');
  const ids: number[] = [];
  for (const [i, name] of ['gull', 'storm', 'surf'].entries()) {
    const bytes = await encode([noise(RATE / 4, i + 1).map((x) => x * 0.2)], RATE, 'wav', {
      bits: 16,
    });
    ids.push(
      (await bijou.sounds.add(project, `${name}.wav`, streamOf(bytes), bytes.length)).sound.id,
    );
  }
  await bijou.jobs.idle();
  const { id: brief } = bijou.ownBriefs.bringIn(
    project,
    JSON.stringify({ ...isle, ...more }),
  ).brief;
  bijou.packs.send(project, { sounds: ids, briefs: [brief] });
  bijou.layouts.fill(project, brief, [{ path: 'shore.ogg', soundId: ids[2]! }]);
  return { bijou, folder, project, ids, brief };
}

/** Calls `bijou` beside the running application. */
export const call = bijouOver;

export interface PackJson {
  right: boolean;
  digest: string;
  files: { path: string; sha256: string; kind: string }[];
  problems: { message: string; weight: string }[];
  built: { built: number; cached: number; unchanged: number };
  rehearsals: {
    brief: string;
    host: string;
    accepted: boolean;
    refused: number;
    reasons: object[];
  }[];
  since?: { added: string[]; changed: string[]; removed: string[]; moved: unknown[]; same: number };
}
