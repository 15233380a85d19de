import { resolve } from 'node:path';
import { MemorySink } from '@/core/bytes/source';
import { errorFacts } from '@/core/errors';
import { writeSound } from '@/core/formats/write';
import type { Choices } from '@/core/brief/choices';
import { maskOf } from '@/core/pcm/speakers';
import { pcmFromChannels } from '@/core/pcm/pcm';
import { crossfadeAt } from '@/core/recipe/steps/cut';
import type { Step } from '@/core/recipe/types';
import { frameOfBar } from '@/core/tempo';
import { openBijou, type Bijou } from '@/server/bijou';
import { fillIsland } from './island/fill';
import { demoSounds } from './sounds';
import { waltzLoop, waltzTempo } from './sounds/keepersWaltz';
import { surfLoop } from './sounds/surfBed';
import type { DemoSound } from './types';

/** Where each demo sound goes, and what was decided for it: all but two at briefs that have no layout. */
const assignments: [fileName: string, briefId: string, choices?: Choices][] = [
  ['foghorn.wav', 'ar-filter'],
  ['foghorn.wav', 'web-page'],
  ['surf bed.wav', 'web-page'],
  ['buoy bell.wav', 'ar-filter'],
  ['gallery wind.ogg', 'ar-filter', { mono: 'left' }],
  ['door latch.wav', 'wav-master'],
  ["keeper's waltz.wav", 'web-page'],
  ["keeper's waltz.wav", 'wav-master'],
  ['foghorn.wav', 'web-stream'],
  ['rain on the gallery.mp3', 'web-stream'],
  // Nobody has said how its microphones under the roof are mixed down.
  ['lantern room.wav', 'web-stream'],
  ['gull.wav', 'web-single'],
  ['buoy bell.wav', 'web-single'],
  ['foghorn.wav', 'game-mod'],
  ['gull.wav', 'game-mod'],
  ['door latch.wav', 'game-mod'],
  ['surf bed.wav', 'game-mod', { slots: ['places/landing.ogg', 'places/shore.ogg'] }],
  ["keeper's waltz.wav", 'game-mod', { slots: ['places/house.ogg'] }],
  ['gallery wind.ogg', 'game-mod', { slots: ['places/gallery.ogg'] }],
  ['lamp motor.wav', 'game-mod', { slots: ['places/lamp_room.ogg'] }],
  ['door latch.wav', 'engine-effects'],
  ['gull.wav', 'engine-effects'],
  ['lamp motor.wav', 'engine-effects'],
  ['surf bed.wav', 'engine-music'],
  ["keeper's waltz.wav", 'engine-music'],
  ['foghorn.wav', 'handheld', { slots: ['TITLE.WAV'] }],
  ['surf bed.wav', 'handheld', { slots: ['SEA.WAV'] }],
  ['door latch.wav', 'pocket-toy'],
  ['gull.wav', 'pocket-toy', { prefix: 'z_' }],
  ["keeper's waltz.wav", 'composer-handover'],
  ['buoy bell.wav', 'archive'],
  ['lantern room.wav', 'archive'],
  // Nor what becomes of its loudest moments.
  ['thunder.wav', 'wav-master'],
];
const builtBriefs = new Set(['ar-filter', 'web-page', 'wav-master']);
const built = new Set(['foghorn.wav', 'buoy bell.wav', "keeper's waltz.wav"]);

async function encode(sound: DemoSound): Promise<Uint8Array> {
  const sink = new MemorySink();
  const pcm = pcmFromChannels(sound.make(sound.rateHz), sound.rateHz);
  const speakerMask = maskOf(sound.speakers ?? null);
  await writeSound({ ...pcm, speakerMask }, sound.writer, sound.settings, sink);
  return sink.bytes();
}

/** What somebody has written down about the sounds so far. */
function keepOrder(bijou: Bijou, projectId: number, ids: ReadonlyMap<string, number>): void {
  bijou.edits.edit(
    projectId,
    ['surf bed.wav', 'rain on the gallery.mp3', 'gallery wind.ogg'].map((fileName) => ({
      soundId: ids.get(fileName)!,
      labels: ['bed'],
    })),
  );
  const note = 'Too near for the beach; a second take is coming on Friday.';
  bijou.edits.edit(projectId, [{ soundId: ids.get('gull.wav')!, note }]);
  const reason = 'It is pitched up in the game and needs the room.';
  bijou.worries.setAside(projectId, 'spare-rate', [ids.get('buoy bell.wav')!], reason);
}

/** The waltz for the game: two bars of its introduction go, and it repeats with what rings behind its end. */
function shapeWaltz(bijou: Bijou, projectId: number, soundId: number): void {
  bijou.edits.edit(projectId, [{ soundId, tempo: waltzTempo }]);
  const { sampleRateHz: rateHz, frames } = bijou.sounds.byId(soundId).facts!;
  const bar = (n: number) => frameOfBar(n, 1, waltzTempo, rateHz);
  const step = (kind: string, params: Step['params'] = {}): Step => ({ kind, on: true, params });
  const cut = { startFrame: bar(1), endFrame: bar(3) };
  const cutFrames = cut.endFrame - cut.startFrame;
  const [startFrame, endFrame] = [bar(waltzLoop.fromBar), bar(waltzLoop.toBar)].map(
    (frame) => frame - cutFrames,
  ) as [number, number];
  const tailFrames = frames - cutFrames - endFrame;
  const steps = [
    step('cut', { ...cut, crossfadeFrames: crossfadeAt(rateHz) }),
    step('offset'),
    step('loop', {
      startFrame,
      endFrame,
      introFrames: startFrame,
      tailFrames,
      seam: 'tail',
      tailDb: 0,
    }),
    step('gain', { gainDb: -2 }),
    step('normalise', { to: 'lufs', target: -18, ceilingDbtp: -1 }),
  ];
  // As somebody would have done it, one after the other: the history can be read.
  for (let count = 1; count <= steps.length; count++) {
    bijou.sounds.setRecipe(soundId, { version: 1, steps: steps.slice(0, count) });
  }
}

/** The surf, looped by somebody who has not looked at the seam yet. */
function loopSurf(bijou: Bijou, soundId: number): void {
  const params = { ...surfLoop, introFrames: 0, tailFrames: 0, seam: 'cut' };
  bijou.sounds.setRecipe(soundId, { version: 1, steps: [{ kind: 'loop', on: true, params }] });
}

/** Makes the demo project in an empty data folder; leaves any other folder as it is. Answers whether it did. */
async function load(dataDir: string): Promise<boolean> {
  const bijou = await openBijou(dataDir);
  try {
    if (bijou.projects.all().length > 0) return false;
    console.log('Making the demo project: Marrow Skerry.');
    const projectId = bijou.projects.add('Marrow Skerry');
    const ids = new Map<string, number>();
    for (const sound of demoSounds) {
      const bytes = await encode(sound);
      const { sound: added } = await bijou.sounds.add(
        projectId,
        sound.fileName,
        (async function* () {
          yield bytes;
        })(),
        bytes.length,
        { group: sound.group },
      );
      ids.set(sound.fileName, added.id);
    }
    await bijou.jobs.idle();
    const rateHz = 48_000;
    bijou.sounds.setRecipe(ids.get('foghorn.wav')!, {
      version: 1,
      steps: [
        { kind: 'keep', on: true, params: { startFrame: 0.38 * rateHz, endFrame: 5.5 * rateHz } },
      ],
    });
    loopSurf(bijou, ids.get('surf bed.wav')!);
    shapeWaltz(bijou, projectId, ids.get("keeper's waltz.wav")!);
    keepOrder(bijou, projectId, ids);
    for (const [fileName, briefId, choices = {}] of assignments) {
      bijou.packs.assign(bijou.sounds.byId(ids.get(fileName)!), briefId, choices);
    }
    const ready = bijou.packs
      .lines(projectId)
      .filter(
        ({ assignment: { soundId, briefId } }) =>
          built.has(bijou.sounds.byId(soundId).fileName) && builtBriefs.has(briefId),
      );
    bijou.packs.build(
      projectId,
      ready.map(({ assignment }) => assignment.id),
    );
    await bijou.jobs.idle();
    return true;
  } finally {
    await bijou.close();
  }
}

/** The demo project, and so many sounds of the whole island if a large project is wanted. */
async function loadAll(): Promise<void> {
  const dataDir = resolve(process.env['BIJOU_DATA'] ?? 'data');
  const islandSounds = Number(process.env['BIJOU_ISLAND'] ?? 0);
  if ((await load(dataDir)) && islandSounds > 0) await fillIsland(dataDir, islandSounds);
}

await loadAll().catch((error: unknown) => {
  const { message, hint } = errorFacts(error);
  console.error(`${message} ${hint}`);
  process.exitCode = 1;
});
