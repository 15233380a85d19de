import { expect, type APIRequestContext, type Page } from '@playwright/test';
import wavefile from 'wavefile';
import type { PackLine, ProjectState } from '@/wire';
import { send } from './sending';
import { open } from './page';

/** A real WAV file of 16 bits, written by an independent package. */
export function wav(channels: Float32Array[], rateHz: number): Buffer {
  const file = new wavefile.WaveFile();
  const whole = channels.map((channel) => channel.map((x) => Math.round(x * 32_767)));
  file.fromScratch(channels.length, rateHz, '16', whole.length === 1 ? whole[0]! : whole);
  return Buffer.from(file.toBuffer());
}

/** A project of its own with sounds that were brought in and read. */
export async function projectWith(
  request: APIRequestContext,
  name: string,
  files: Record<string, Buffer>,
): Promise<{ project: number; ids: number[] }> {
  const made = await request.post('/api/projects', { data: { name } });
  const project = ((await made.json()) as { id: number }).id;
  const ids = (await send(request, project, files)).map(({ body }) => body.soundId!);
  const states = async () => (await stateOf(request, project)).sounds.map(({ state }) => state);
  await expect.poll(states).toEqual(ids.map(() => 'ready'));
  return { project, ids };
}

export async function stateOf(request: APIRequestContext, project: number): Promise<ProjectState> {
  return (await (await request.get(`/api/projects/${project}`)).json()) as ProjectState;
}

/** What a sound goes to, and what has come of it. */
async function linesOf(request: APIRequestContext, project: number, sound: number) {
  const lines = await (await request.get(`/api/projects/${project}/lines`)).json();
  return (lines as PackLine[]).filter(({ assignment }) => assignment.soundId === sound);
}

/** Builds a sound as a WAV file and reads what came of it with an independent package. */
export async function builtFile(
  request: APIRequestContext,
  project: number,
  sound: number,
): Promise<{ frames: number; channels: number; rateHz: number; samples: Float64Array[] }> {
  await request.put(`/api/sounds/${sound}/assignments/wav-master`, { data: {} });
  const line = async () => (await linesOf(request, project, sound))[0]!;
  const { assignment } = await line();
  const started = await request.post(`/api/projects/${project}/builds`, {
    data: { assignments: [assignment.id] },
  });
  expect(await started.text()).not.toContain('error');
  const isDone = async () => {
    const [output] = (await line()).outputs;
    return output?.upToDate ? output.state : 'waiting';
  };
  await expect.poll(isDone).toBe('done');
  const [output] = (await line()).outputs;
  const bytes = await (await request.get(`/api/outputs/${output!.id}/file`)).body();
  const file = new wavefile.WaveFile(new Uint8Array(bytes));
  const { numChannels, sampleRate, bitsPerSample } = file.fmt as Record<string, number>;
  const read = file.getSamples(false) as unknown as Float64Array | Float64Array[];
  const samples = (Array.isArray(read) ? read : [read]).map((channel) =>
    channel.map((x) => x / 2 ** (bitsPerSample! - 1)),
  );
  return {
    frames: samples[0]!.length,
    channels: numChannels!,
    rateHz: sampleRate!,
    samples,
  };
}

export async function openShape(page: Page, project: number, sound: number): Promise<void> {
  await open(page, `/p/${project}/shape/${sound}`);
  await expect(page.getByRole('region', { name: 'Recipe' })).toBeVisible();
}

/** Types into a field of the marked part. */
export async function type(page: Page, field: 'Start' | 'End' | 'Length', text: string) {
  const region = page.getByRole('region', { name: 'Marked part' });
  await region.getByRole('textbox', { name: field, exact: true }).fill(text);
  await page.keyboard.press('Enter');
  // Keys belong to the workbench again.
  await page.getByRole('heading', { level: 1 }).click();
}

/** Drags over the waveform, from and to shares of its width. */
export async function drag(page: Page, from: number, to: number): Promise<void> {
  const box = (await page.getByTestId('waveform').boundingBox())!;
  const y = box.y + box.height / 2;
  await page.mouse.move(box.x + box.width * from, y);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * ((from + to) / 2), y, { steps: 3 });
  await page.mouse.move(box.x + box.width * to, y, { steps: 3 });
  await page.mouse.up();
}

/** Adds a step by its name, by keys alone. */
export async function addStep(page: Page, name: string): Promise<void> {
  const before = await page.locator('ol[aria-label=Steps] > li').count();
  await page.keyboard.press('a');
  await page.getByRole('textbox', { name: 'Search steps' }).fill(name);
  await page.keyboard.press('Enter');
  await expect(page.locator('ol[aria-label=Steps] > li')).toHaveCount(before + 1);
  await page.getByRole('heading', { level: 1 }).click();
}

export const steps = (page: Page) => page.locator('ol[aria-label=Steps] > li');
export const sentences = (page: Page) =>
  steps(page).evaluateAll((items) => items.map((item) => item.querySelector('p')!.textContent));
