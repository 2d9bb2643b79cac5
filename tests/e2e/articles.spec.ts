import { customer, expect, say, test, window } from './lane';

test('what customers ask of the articles is judged: what answered, what followed, and what none fitted is written', async ({
  browser,
  lane,
}) => {
  const asking = async (...questions: string[]) => {
    const handset = await customer(browser, lane, 'Website chat');
    await say(handset, 'opening hours');
    await expect(handset.getByText('Ask me in your own words', { exact: false })).toBeVisible();
    for (const question of questions) await say(handset, question);
    return handset;
  };
  const content = await asking('when do I get my deposit back', 'thanks');
  await expect(content.getByText('Thank you for writing', { exact: false })).toBeVisible();
  await expect((await asking('lodging for my zebra')).getByText('nothing', { exact: false })).toBeVisible();
  await asking('zebra lodging please');

  const page = await window(browser, lane, 'Noor Amsel', '/bots/articles');
  await page.getByRole('tab', { name: 'Questions asked' }).click();
  const answered = page.getByRole('row', { name: /^The deposit/ });
  await expect(answered).toContainText('“when do I get my deposit back”');
  await expect(answered).toContainText('1100%');
  const nothing = page.getByRole('region', { name: 'Nothing fitted' });
  await expect(nothing.getByRole('listitem')).toHaveCount(1);
  await expect(nothing.getByRole('listitem')).toContainText('zebra lodging please');

  // Written from there, with the question it should answer: what that does is shown, and it answers.
  await nothing.getByRole('button', { name: 'Write one' }).click();
  await expect(page.getByLabel('Title')).toHaveValue(/zebra/i);
  await page.getByLabel('Title').fill('Zebras');
  await page.getByLabel('Text').fill('A zebra finds lodging at the zoo.');
  await page.getByLabel('Questions it should answer').fill('where is lodging for a zebra');
  await expect(
    page.getByText('Of 1 kept question, 0 are answered by the right article now and 1 would be.'),
  ).toBeVisible();
  await page.getByLabel('Look at it again on').fill('1 Jan 2020');
  await page.getByRole('button', { name: 'Keep the article' }).click();
  await expect(page.getByRole('button', { name: /^Zebras/ })).toContainText('look again');
  await expect(
    (await asking('lodging for my zebra')).getByText('finds lodging at the zoo', { exact: false }),
  ).toBeVisible();
  await page.getByRole('link', { name: 'Earlier versions' }).click();
  await expect(page.getByText('Zebras').first()).toBeVisible();
  await page.goto('/tofix');
  await expect(page.getByText('This article was to be looked at again on 2020-01-01.')).toBeVisible();
});
