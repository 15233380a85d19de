/** Pictures of the hosts, idle and at work. */
import { madePack } from './packPictures.mjs';

/** A host with the pack of the demo project that is meant for it. */
async function openHost(page, host, brief) {
  await madePack(page, [brief]);
  await page.goto(`/p/1/rehearse/${host}`);
  await page.getByText(/^Accepted: /).waitFor({ timeout: 20_000 });
  await page.waitForTimeout(1_500);
}

export const hostViews = [
  {
    name: 'filter-idle',
    path: '/p/1/rehearse',
    act: (page) => openHost(page, 'filter', 'ar-filter'),
  },
  {
    name: 'filter-work',
    path: '/p/1/rehearse',
    colorScheme: 'dark',
    async act(page) {
      await openHost(page, 'filter', 'ar-filter');
      await page
        .getByLabel('Something else that does something to foghorn.m4a')
        .selectOption('mouth');
      await page.getByLabel('What the mouth opens does to foghorn.m4a').selectOption('startOver');
      await page
        .getByLabel('Something else that does something to gallery wind.m4a')
        .selectOption('opened');
      await page.getByRole('button', { name: 'gallery wind.m4a repeats' }).click();
      await page.getByRole('button', { name: 'Play it through' }).click();
      await page.waitForTimeout(8_200);
    },
  },
  {
    name: 'island-idle',
    path: '/p/1/rehearse',
    act: (page) => openHost(page, 'mod', 'game-mod'),
  },
  {
    name: 'island-work',
    path: '/p/1/rehearse',
    async act(page) {
      await openHost(page, 'mod', 'game-mod');
      for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
      await page.keyboard.press('n');
      await page.waitForTimeout(500);
      await page.keyboard.press('n');
      for (let i = 0; i < 3; i++) {
        await page.getByRole('button', { name: 'Play creatures/gull' }).click();
        await page.waitForTimeout(300);
      }
      await page.keyboard.press('p');
      await page.waitForTimeout(400);
    },
  },
];
