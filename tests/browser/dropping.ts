import { expect, type Page } from '@playwright/test';

export const strip = (page: Page) => page.getByRole('region', { name: 'Listening' });

/** Drops a file on the page, or on a part of it, as the system would. */
export async function drop(
  page: Page,
  bytes: Buffer,
  name: string,
  on = 'main',
  invitation = 'Let go to bring them into',
): Promise<void> {
  const data = await page.evaluateHandle(
    ([base64, fileName]) => {
      const bytes = Uint8Array.from(atob(base64!), (letter) => letter.charCodeAt(0));
      const transfer = new DataTransfer();
      transfer.items.add(new File([bytes], fileName!));
      return transfer;
    },
    [bytes.toString('base64'), name],
  );
  await page.dispatchEvent(on, 'dragenter', { dataTransfer: data });
  await expect(page.getByText(invitation)).toBeVisible();
  await page.dispatchEvent(on, 'drop', { dataTransfer: data });
}

/** Waits until sound is really heard: time goes on and the analyser sees a signal. */
export async function expectPlaying(page: Page): Promise<void> {
  const read = async () => ({
    frame: Number(await strip(page).getAttribute('data-frame')),
    peak: Number(await strip(page).getAttribute('data-peak')),
  });
  await expect(strip(page)).toHaveAttribute('data-playing', 'true');
  await expect.poll(async () => (await read()).peak).toBeGreaterThan(0.05);
  const { frame } = await read();
  await expect.poll(async () => (await read()).frame).toBeGreaterThan(frame + 4_000);
}
