import { choose, expect, openList, test, window } from './lane';

test('on an empty folder the first owner begins by the address that was printed, once; a forgotten password is replaced by a mail', async ({
  browser,
  emptyLane,
}) => {
  const signin = await window(browser, emptyLane, null, '/signin');
  await expect(signin.getByText('Nobody has begun here yet')).toBeVisible();
  await signin.goto('/welcome/guessed');
  await expect(signin.getByText('This link does not work')).toBeVisible();

  const path = /\/welcome\/\S+/.exec(emptyLane.printed())?.[0] ?? '';
  const page = await window(browser, emptyLane, null, path);
  // A long list is searched by typing; Enter takes what is found.
  await openList(page.getByLabel('Country'));
  await page.getByLabel('Search the list').fill('pola');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Country')).toHaveText('Poland');
  await page.getByLabel('Name of the company').fill('Saltmarsh Lending Library');
  await choose(page.getByLabel('Zone'), 'Europe/Warsaw');
  await page.getByLabel('Polish').check();
  await page.getByLabel('Your name').fill('Halina Orzel-Tarn');
  await page.getByLabel('Your e-mail address').fill('halina@saltmarsh.example');
  await page.getByLabel('Password').fill('ten letters or more');
  await page.getByLabel('The same again').fill('ten letters and more');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(page.getByText('The two passwords differ.')).toBeVisible();
  await page.getByLabel('The same again').fill('ten letters or more');
  await page.getByRole('button', { name: 'Begin' }).click();
  await expect(
    page
      .getByRole('gridcell', { name: /Halina Orzel-Tarn/ })
      .or(page.getByText('Halina Orzel-Tarn'))
      .first(),
  ).toBeVisible();

  const again = await window(browser, emptyLane, null, path);
  await expect(again.getByText('This workspace has an owner already. Sign in.')).toBeVisible();

  // Every page of an empty workspace opens.
  for (const stop of ['/doors', '/bots', '/queues', '/floor', '/review', '/desk', '/tofix', '/history']) {
    await page.goto(stop);
    await expect(page.getByRole('main')).toBeVisible();
  }

  await again.goto('/signin');
  await again.getByLabel('E-mail address').fill('halina@saltmarsh.example');
  await again.getByRole('button', { name: 'Forgot the password?' }).click();
  await expect(again.getByText(/a link is on its way/)).toBeVisible();
  await page.goto('/mailbox');
  const link = /\/password\/\S+/.exec((await page.getByRole('article').first().textContent()) ?? '')?.[0] ?? '';
  await again.goto(link);
  await again.getByLabel('Password', { exact: true }).fill('quite another one');
  await again.getByLabel('The same again').fill('quite another one');
  await again.getByRole('button', { name: 'Set it and sign in' }).click();
  await expect(again.getByRole('navigation').first()).toBeVisible();
  // Whoever was signed in before is led to the way in by themselves, and the link is used up.
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await page.goto('/people');
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await page.goto(link);
  await expect(page.getByText(/run out or was used already/)).toBeVisible();
});
