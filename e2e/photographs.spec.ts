import type { Locator } from '@playwright/test';
import sharp from 'sharp';
import { signIn, takeInLot } from './helpers';
import { expect, test } from './test';

test.use({ viewport: { width: 1024, height: 768 } });

/** A plain photograph with a place of taking in it. */
const photograph = (format: 'jpeg' | 'png' | 'webp') =>
  sharp({ create: { width: 640, height: 480, channels: 3, background: '#7a5' } })
    .withExif({
      IFD0: { Artist: 'someone' },
      IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '48/1 0/1 0/1' },
    })
    .toFormat(format)
    .toBuffer();

/** Hands pictures to a part of the page as a drop or a paste does. */
async function hand(at: Locator, how: 'drop' | 'paste', name: string, bytes: Buffer) {
  await at.evaluate(
    (element, { how, name, base64 }) => {
      const data = new DataTransfer();
      const raw = Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
      data.items.add(new File([raw], name, { type: 'image/png' }));
      element.dispatchEvent(
        how === 'drop'
          ? new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true })
          : new ClipboardEvent('paste', { clipboardData: data, bubbles: true }),
      );
    },
    { how, name, base64: bytes.toString('base64') },
  );
}

test('a finding and its cell carry photographs; a pasted one goes to one place only', async ({
  page,
}) => {
  await signIn(page, 'lead');
  await takeInLot(
    page,
    { title: 'Photographed', supplier: 'Reedbank Cells', quantity: 3, model: 'Sedge F104' },
    'arrival/inspection',
  );
  const tile = page.getByRole('group', { name: 'Cells' }).getByRole('button').first();
  const number = /B-\d+/.exec(await tile.innerText())![0];
  await tile.click();
  await page.getByRole('button', { name: 'damaged or repaired terminal thread' }).click();
  await expect(page.getByText('All marks are stored.')).toBeVisible();
  const findings = page.getByRole('region', { name: 'Findings' });
  await findings.getByRole('button', { name: 'Photograph', exact: true }).click();
  const place = findings.getByRole('region', { name: new RegExp(`^${number}, damaged`) });
  await hand(place, 'drop', 'dropped.png', await photograph('png'));
  await expect(place.getByRole('img', { name: /dropped.png/ })).toBeVisible();
  await expect(findings.getByRole('button', { name: 'Photographs (1)' })).toBeVisible();

  // Made good: how it looks now is kept beside how it looked.
  await findings.getByRole('button', { name: 'Made good …' }).click();
  await page.getByLabel('Before').fill('thread pulled');
  await page.getByLabel('Done, and how it is now').fill('thread re-cut');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(findings).toContainText('Before: thread pulled.');

  await page.goto(`/cells/${number}`);
  await findings.getByRole('button', { name: 'Photographs (1)' }).click();
  const ofCell = page.getByRole('region', { name: `Photographs of ${number}` });
  await hand(place, 'paste', 'pasted-at-finding.png', await photograph('png'));
  // The finding was opened last, but a pointer over the cell's own pictures sends them there.
  await expect(page.getByRole('img', { name: /pasted-at-finding/ })).toHaveCount(1);
  await ofCell.hover();
  await hand(ofCell, 'paste', 'pasted-at-cell.png', await photograph('png'));
  await expect(ofCell.getByRole('img', { name: /pasted-at-cell/ })).toBeVisible();
  await expect(page.getByRole('img', { name: /pasted-at-cell/ })).toHaveCount(1);
  await ofCell.getByTestId('photo-cell').setInputFiles([
    { name: 'one.jpg', mimeType: 'image/jpeg', buffer: await photograph('jpeg') },
    { name: 'two.webp', mimeType: 'image/webp', buffer: await photograph('webp') },
  ]);
  await expect(ofCell.getByRole('img')).toHaveCount(3);

  // What is served is the picture without the place it was taken at.
  const address = await ofCell
    .getByRole('link')
    .filter({ has: page.getByRole('img', { name: /one.jpg/ }) })
    .getAttribute('href');
  const served = await page.request.get(address!);
  expect(served.ok()).toBe(true);
  expect((await sharp(await served.body()).metadata()).exif).toBeUndefined();
});

test('a pack carries photographs; one too large is refused before it is sent', async ({ page }) => {
  await signIn(page, 'technician');
  await page.goto('/lots/L-003/arrival/packs');
  const pack = page.getByRole('listitem').filter({ hasText: /P-\d+/ }).last();
  await pack.getByText(/^Photographs/).click();
  let sent = 0;
  page.on('request', (request) => {
    if (request.method() === 'POST' && request.url().includes('/photos')) sent++;
  });
  await page.getByTestId('photo-pack').setInputFiles({
    name: 'huge.jpg',
    mimeType: 'image/jpeg',
    buffer: Buffer.alloc(15 * 1024 * 1024 + 1),
  });
  await expect(
    page.getByText(
      'huge.jpg: expected a photograph of at most 15 MB; this has 15.0 MB. It was not stored.',
    ),
  ).toBeVisible();
  expect(sent).toBe(0);
  await page.getByTestId('photo-pack').setInputFiles({
    name: 'pack.jpg',
    mimeType: 'image/jpeg',
    buffer: await photograph('jpeg'),
  });
  await expect(pack.getByRole('img', { name: /pack.jpg/ })).toBeVisible();
  await page.context().setOffline(true);
  await page.getByTestId('photo-pack').setInputFiles({
    name: 'late.jpg',
    mimeType: 'image/jpeg',
    buffer: await photograph('jpeg'),
  });
  await expect(
    page.getByText('late.jpg: no connection. It was not stored; drop it again.'),
  ).toBeVisible();
  await page.context().setOffline(false);
});
