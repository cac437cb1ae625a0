import { createHash } from 'node:crypto';
import type { Locator } from '@playwright/test';
import { PNG } from 'pngjs';
import { SIZES, beside, expect, expectNothingSerious, row, test } from './program.ts';

// A file that belongs to a time: attached, shown small, taken away, undone; and sent when it can be.

/** A small picture of one tint. */
function picture(): Buffer {
  const png = new PNG({ width: 32, height: 24 });
  png.data.fill(0x90);
  return PNG.sync.write(png);
}

async function attach(it: Locator, file: { name: string; mimeType: string; buffer: Buffer }) {
  const choosing = it.page().waitForEvent('filechooser');
  await it.getByRole('button', { name: 'Attach a file: Weigh the hives' }).click();
  await (await choosing).setFiles(file);
}

for (const size of SIZES)
  test.describe(`${size.width}`, () => {
    test.use({ viewport: size });

    test.beforeEach(async ({ page, someone, write }) => {
      await someone();
      await write('Weigh the hives every Tuesday');
      await page.goto('/');
      const it = row(page, 'Weigh the hives');
      await it.getByRole('button', { name: /^Weigh the hives,/ }).click();
    });

    test('a picture attached, shown, taken away and undone; opened as it was', async ({ page }) => {
      const it = row(page, 'Weigh the hives');
      const told = beside(page, it);
      const png = picture();
      await attach(told, { name: 'frame three.png', mimeType: 'image/png', buffer: png });
      await expect(told.getByText('frame three.png is attached.')).toBeVisible();
      const shown = told.getByRole('img', { name: 'frame three.png' });
      const link = told.getByRole('link', { name: 'frame three.png' });
      await expect(link).toBeVisible();
      await expect(shown).toBeVisible();
      const read = await page.request.get((await link.getAttribute('href'))!);
      expect(read.headers()['content-type']).toBe('image/png');
      const sum = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');
      expect(sum(await read.body())).toBe(sum(png));
      await expectNothingSerious(page, 'a row with a file');
      await told.getByRole('button', { name: 'Take away frame three.png' }).click();
      await expect(shown).toHaveCount(0);
      await told.getByRole('button', { name: /^Undo/ }).click();
      await expect(shown).toBeVisible();
      // It stays with this time when that has ended, and the next one has none.
      await it.getByRole('button', { name: 'Done: Weigh the hives', exact: true }).click();
      await expect(it.getByText('Back again Tue 1 Dec')).toBeVisible();
      await it.getByRole('button', { name: /^Weigh the hives,/ }).click();
      await expect(it.getByRole('link', { name: 'frame three.png' })).toBeVisible();
    });

    test('without a connection it says that it waits, and is sent after', async ({ page }) => {
      const told = beside(page, row(page, 'Weigh the hives'));
      await expect(told.getByRole('button', { name: /^Attach a file/ })).toBeVisible();
      await page.context().setOffline(true);
      await attach(told, { name: 'odd.png', mimeType: 'image/png', buffer: picture() });
      await expect(told.getByText(/is sent once there is a connection/)).toBeVisible();
      await expect(told.getByRole('img', { name: 'odd.png' })).toBeVisible();
      await page.context().setOffline(false);
      await expect(told.getByRole('link', { name: 'odd.png' })).toBeVisible({ timeout: 20_000 });
      // What is empty, or too long, is said at once.
      await attach(told, { name: 'none.txt', mimeType: 'text/plain', buffer: Buffer.alloc(0) });
      await expect(told.getByText('There is nothing in this file.')).toBeVisible();
      const eleven = Buffer.alloc(11 * 1024 * 1024);
      await attach(told, { name: 'long.bin', mimeType: '', buffer: eleven });
      await expect(told.getByText('A file has 10 MB at most.')).toBeVisible();
    });
  });
