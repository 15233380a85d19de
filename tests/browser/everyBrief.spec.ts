import { expect } from '@playwright/test';
import { builtinBriefs } from '@/core/brief/builtin';
import type { PackLine, Project, ProjectState } from '@/wire';
import { headerFaults } from '../../tools/headers';
import { ForeignDecoders } from '../../tools/legality/foreign';
import { test } from './page';

/** Frames by which strangers may come out short or long; see `tools/legality/judge`. */
const STRANGE: Record<string, { short: number; long: number }> = {
  vorbis: { short: 2_048, long: 0 },
  aac: { short: 1, long: 0 },
  'ima-adpcm': { short: 0, long: 4_088 },
};

/** What its destination says of a name, said once more. */
const names: Record<string, RegExp> = {
  'game-mod': /^[a-z0-9_]+\/[a-z0-9_]{1,60}\.ogg$/,
  'engine-effects': /^[A-Za-z0-9_-]+\.(wav|mp3|ogg)$/,
  handheld: /^[A-Z0-9_]{1,12}\.WAV$/,
  'pocket-toy': /^[a-z0-9_]{1,12}\.wav$/,
};

test('every brief that comes with Bijou, every demo sound: built, and judged by strangers', async ({
  page,
  request,
}) => {
  const made = await request.post('/api/projects/1/copy', { data: {} });
  const { id } = (await made.json()) as Project;
  const { sounds } = (await (await request.get(`/api/projects/${id}`)).json()) as ProjectState;
  await request.post(`/api/projects/${id}/assignments`, {
    data: {
      sounds: sounds.map((sound) => sound.id),
      briefs: builtinBriefs.map((brief) => brief.id),
      choices: { mono: 'left', clipping: 'lower', seconds: 1.2 },
    },
  });
  const built = await request.post(`/api/projects/${id}/builds`, { data: {} });
  expect(built.ok()).toBe(true);
  const state = async () =>
    (await (await request.get(`/api/projects/${id}`)).json()) as ProjectState;
  await expect
    .poll(async () => (await state()).cells.filter((cell) => cell.state === 'working').length, {
      timeout: 180_000,
      intervals: [1_000],
    })
    .toBe(0);
  const lines = (await (await request.get(`/api/projects/${id}/lines`)).json()) as PackLine[];
  expect(lines).toHaveLength(sounds.length * builtinBriefs.length);
  const decoders = await ForeignDecoders.open(page);
  const wrong: string[] = [];
  for (const { assignment, outputs, obstacle } of lines) {
    const sound = sounds.find((one) => one.id === assignment.soundId)!;
    const brief = builtinBriefs.find((one) => one.id === assignment.briefId)!;
    // The microphones under the roof: wherever so many channels are not taken.
    if (sound.name === 'lantern room' && obstacle) continue;
    expect([brief.id, sound.name, obstacle]).toEqual([brief.id, sound.name, null]);
    for (const output of outputs) {
      const file = brief.files.find((one) => one.id === output.fileId)!;
      const { facts } = output.verification!;
      const answer = await request.get(`/api/outputs/${output.id}/file`);
      // Plain bytes: parts of a Buffer are no copies.
      const bytes = new Uint8Array(await answer.body());
      const say = (what: string) => wrong.push(`${brief.id}/${output.path}: ${what}`);
      if (!output.verdict!.accepted) say(JSON.stringify(output.verdict!.findings));
      if (!(names[brief.id]?.test(output.path) ?? true)) say('its name');
      for (const fault of headerFaults(facts.container, bytes)) say(fault);
      // What is handed on may be in another form that is taken as well.
      if (!file.alsoTakes && facts.codec !== file.codec) say(`codec ${facts.codec}`);
      const decoded = await decoders
        .decode(facts.container, facts.codec, bytes, facts.sampleRateHz)
        .catch((error: unknown) => void say(`cannot be decoded: ${String(error)}`));
      if (!decoded) continue;
      const { short, long } = STRANGE[facts.codec] ?? { short: 0, long: 0 };
      const frames = decoded[0]!.length;
      if (decoded.length !== facts.channels) say(`${decoded.length} channels`);
      if (frames < facts.frames - short || frames > facts.frames + long) say(`${frames} frames`);
      const power = decoded.reduce(
        (sum, one) => sum + one.reduce((s, x) => s + x * x, 0) / one.length,
        0,
      );
      const rmsDbfs = 10 * Math.log10(power / decoded.length);
      if (Math.abs(rmsDbfs - facts.rmsDbfs!) > 0.7) say(`level ${rmsDbfs}, not ${facts.rmsDbfs}`);
    }
  }
  expect(wrong).toEqual([]);
});
