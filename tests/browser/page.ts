import type { Page } from '@playwright/test';

/** Until the page's own code has taken over what the server drew: keys mean nothing before. */
export async function hydrated(page: Page): Promise<void> {
  await page.waitForFunction(() =>
    Object.keys(document.querySelector('main') ?? {}).some((key) => key.startsWith('__react')),
  );
}

/** Opens an address and waits until it can be used. */
export async function open(page: Page, path: string): Promise<void> {
  await page.goto(path);
  await hydrated(page);
}
