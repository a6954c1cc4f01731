import { choose, signIn } from './helpers';
import { expect, test } from './test';

test('a dispute from the countdown to the money that came back, its letter edited and its file made', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await page.goto('/lots/L-002/money');
  await page.getByRole('link', { name: 'Dispute with the supplier' }).click();
  await expect(page.getByText('The window for a dispute is open for 3 more days')).toBeVisible();
  const dispute = page.getByRole('region', { name: /^Dispute, / }).first();
  await expect(
    dispute.getByRole('heading', { name: /^\d+\.\d\d EUR asked, being written/ }),
  ).toBeVisible();

  const asked = dispute.getByRole('form', { name: 'What is asked' });
  await asked.getByLabel(/^Amount/).fill('400');
  await asked.getByRole('button', { name: 'Keep', exact: true }).click();
  // What the grounds do not carry is said, so that the file says it.
  await expect(asked.getByText(/^The grounds carry/)).toBeVisible();
  await asked.getByLabel(/^What the other/).fill('two days of our bench');
  const lines = asked.getByRole('table', { name: 'What the amount is made of' });
  await expect(lines.getByRole('row', { name: /^Together/ })).toContainText('400.00');
  await asked.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(dispute.getByRole('heading', { name: /^400\.00 EUR asked/ })).toBeVisible();

  // The letter and the file of before say so themselves.
  await expect(dispute.getByText(/^Overtaken: 400\.00 EUR is asked now/).first()).toBeVisible();

  const letters = dispute.getByRole('region', { name: 'Letters' });
  const letter = letters.getByRole('textbox', { name: 'The letter' });
  await expect(letter).toContainText('Dear Sir or Madam');
  await expect(letter).toContainText('They are not what was offered');
  await letter.press('Control+End');
  await letter.pressSequentially(' PS: photographs follow.');
  // Not stored yet, and there after a reload all the same.
  await expect(letters.getByText('Not stored yet; it stays in this browser')).toBeVisible();
  await page.reload();
  await expect(letter).toContainText('PS: photographs follow.');
  await letters.getByRole('button', { name: 'Keep the letter' }).click();
  await expect(page.getByText('Kept.').first()).toBeVisible();
  await page.reload();
  await expect(letter).toContainText('PS: photographs follow.');
  await letters.getByRole('button', { name: 'It went out' }).click();
  await expect(letters.getByText('went out').first()).toBeVisible();

  const files = dispute.getByRole('region', { name: 'Dispute files' });
  await files.getByRole('button', { name: 'Make it from what is known now' }).click();
  await expect(files.getByText(/^X-\d{4}-0002$/)).toBeVisible();
  const number = (await files.getByText(/^X-\d{4}-0002$/).innerText()).trim();
  const pdf = await page.request.get(`/api/disputes/files/${number}/pdf`);
  expect(pdf.headers()['content-type']).toBe('application/pdf');
  expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  const data = (await (await page.request.get(`/api/disputes/files/${number}/json`)).json()) as {
    remedy: { amount: string };
    evidence: { items: unknown[] };
    shortfall: { ah: number; amount: string };
    shortAh: { number: string }[];
  };
  expect(data.remedy.amount).toBe('400.00 EUR');
  expect(data.evidence.items).toHaveLength(32);

  await files.getByRole('link', { name: number }).click();
  await expect(page.getByRole('heading', { name: `Dispute file ${number}` })).toBeVisible();
  const lacks = page.getByRole('table', { name: 'What each cell lacks' });
  await expect(lacks.getByRole('row', { name: /^Together/ })).toContainText(
    data.shortfall.ah.toFixed(2),
  );
  await expect(lacks.getByRole('row', { name: /^Worth/ })).toContainText(data.shortfall.amount);
  const [first] = data.shortAh;
  await lacks.getByRole('row', { name: first!.number }).getByRole('link', { name: / ± / }).click();
  await expect(
    page.getByRole('heading', { name: new RegExp(`^Capacity .*of ${first!.number}$`) }),
  ).toBeVisible();
  await page.goBack();
  await page.getByRole('link', { name: 'Dispute', exact: true }).click();
  await expect(page.getByRole('region', { name: 'Dispute files' })).toBeVisible();

  const papers = dispute.getByRole('region', { name: 'Letters and papers kept' });
  await papers.locator('input[type=file]').setInputFiles({
    name: 'their answer.txt',
    mimeType: 'text/plain',
    buffer: Buffer.from('We offer 120.'),
  });
  const kept = papers.getByRole('link', { name: 'their answer.txt' });
  await expect(kept).toBeVisible();
  const back = await page.request.get((await kept.getAttribute('href'))!);
  expect(await back.text()).toBe('We offer 120.');
  expect(back.headers()['content-disposition']).toMatch(/^attachment/);

  await dispute.getByRole('button', { name: 'What happened next' }).click();
  const note = async (stage: string, text: string, amount?: string) => {
    const form = dispute.getByRole('form', { name: 'What happened next' });
    await choose(form.getByRole('combobox', { name: 'Now it is' }), stage);
    if (amount) await form.getByLabel(/^How much/).fill(amount);
    await form.getByLabel('What happened').fill(text);
    await form.getByRole('button', { name: 'Note it' }).click();
    await expect(page.getByRole('table', { name: 'What happened' })).toContainText(text);
  };
  await note('sent', 'with the file, by registered post');
  await note('agreed', 'they pay two thirds', '120');
  await note('paid', 'it is on the account', '120');
  await expect(page.getByText('120.00 EUR came back.')).toBeVisible();
  await page.goto('/suppliers');
  await page.getByRole('link', { name: 'Hollin Reach Surplus' }).click();
  await expect(page.getByRole('table', { name: 'Lots of this supplier' })).toContainText(
    'dispute paid',
  );
});
