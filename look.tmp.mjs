import { chromium } from '@playwright/test';
const [, , user, theme, ...paths] = process.argv;
const at = 'http://localhost:3055';
const b = await chromium.launch({ executablePath: process.env.CHROMIUM, args: ['--no-sandbox'] });
const c = await b.newContext({ viewport: { width: 1280, height: 800 } });
const p = await c.newPage();
p.on('console', (m) => m.type() === 'error' && console.log('console', m.text().slice(0, 300)));
p.on('pageerror', (e) => console.log('page', e.message));
await c.request.post(`${at}/api/session`, { data: { email: `${user}@brindlewood.example`, password: 'brindlewood' }, headers: { origin: at } });
if (theme === 'dark') await p.addInitScript(() => document.documentElement.setAttribute('data-lights', 'down'));
for (const [i, step] of paths.entries()) {
  const [path, ...acts] = step.split(' => ');
  await p.goto(at + path);
  await p.waitForTimeout(1200);
  if (theme === 'dark') await p.evaluate(() => document.documentElement.setAttribute('data-lights', 'down'));
  for (const act of acts) { await eval(`(async () => { ${act} })()`); await p.waitForTimeout(600); }
  await p.screenshot({ path: `/tmp/look${i}.png` });
}
await b.close();
