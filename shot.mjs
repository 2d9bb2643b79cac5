import { chromium } from '@playwright/test';
import { findChromium } from './scripts/ground.mjs';
const [, , path, out, ...steps] = process.argv;
const browser = await chromium.launch({ executablePath: findChromium(), args: ['--no-sandbox'] });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.on('pageerror', (e) => console.log('PAGEERROR', e.message));
page.on('console', (m) => { if (m.type() === 'error') console.log('CONSOLE', m.text().slice(0, 300)); });
await page.request.post('http://localhost:3200/api/session', { data: { email: process.env.WHO ?? 'noor.amsel@brindlewood.example', password: 'brindlewood' }, headers: { origin: 'http://localhost:3200' } });
if (process.env.DARK) await page.context().addCookies([{ name: 'lane_lights', value: 'down', url: 'http://localhost:3200' }]);
await page.goto(`http://localhost:3200${path}`, { waitUntil: 'networkidle', timeout: 20000 }).catch(() => undefined);
await page.waitForTimeout(1200);
for (const s of steps) { await eval(`(async()=>{${s}})()`); await page.waitForTimeout(600); }
await page.screenshot({ path: out, fullPage: process.env.FULL === '1' });
await browser.close();
