import { chromium } from '@playwright/test';
const [, , path, out, scheme = 'light', ...acts] = process.argv;
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--autoplay-policy=no-user-gesture-required'] });
const page = await browser.newPage({ baseURL: 'http://127.0.0.1:4711', viewport: { width: Number(process.env.W ?? 1280), height: Number(process.env.H ?? 800) }, colorScheme: scheme });
page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text()));
page.on('pageerror', (e) => console.log('pageerror', e.message));
await page.goto(path); await page.waitForTimeout(2500);
for (const act of acts) { if (act.startsWith('key:')) await page.keyboard.press(act.slice(4)); else if (act.startsWith('wait:')) await page.waitForTimeout(Number(act.slice(5))); else if (act.startsWith('scroll:')) { await page.mouse.move(500, 600); await page.mouse.wheel(0, Number(act.slice(7))); } else if (act.startsWith('click:')) await page.getByRole('button', { name: act.slice(6) }).first().click(); else if (act.startsWith('radio:')) await page.getByRole('radio', { name: act.slice(6) }).first().click(); await page.waitForTimeout(500); }
await page.screenshot({ path: out, fullPage: process.env.FULL === '1' });
await browser.close();
