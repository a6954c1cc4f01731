import sharp from 'sharp';
import { randomUUID } from 'node:crypto';
import { describe, expect, it } from 'vitest';
import { keepPhoto, photoBytes, photosOfLot } from '../src/arrivals';
import { failure } from '../testing/failure';
import { claimedLot } from '../testing/fresh-lab';
import { fresh, useClaimsLab } from '../testing/claims-lab';

useClaimsLab();

describe('photographs', () => {
  const picture = () =>
    sharp({ create: { width: 900, height: 600, channels: 3, background: '#884422' } });
  const keep = (
    lotId: number,
    name: string,
    bytes: Uint8Array<ArrayBuffer> | Buffer<ArrayBuffer>,
    clientKey: string = randomUUID(),
  ) =>
    keepPhoto(fresh.lab, fresh.admin, {
      lotId,
      clientKey,
      subjectType: 'lot',
      subjectId: lotId,
      name,
      bytes,
    });

  it('are kept as JPEG without position data, with a thumbnail, once', async () => {
    const lot = await claimedLot(fresh, 1);
    const withPosition = await picture()
      .withExif({
        IFD0: { Make: 'bench camera' },
        IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '51/1 30/1 0/1' },
      })
      .jpeg()
      .toBuffer();
    expect((await sharp(withPosition).metadata()).exif).toBeDefined();
    const clientKey = randomUUID();
    const { id } = await keep(lot.id, 'box.jpg', withPosition, clientKey);
    expect(await keep(lot.id, 'box.jpg', withPosition, clientKey)).toEqual({ id: null });
    await keep(lot.id, 'b.png', await picture().png().toBuffer());
    await keep(lot.id, 'c.webp', await picture().webp().toBuffer());
    const photos = await photosOfLot(fresh.lab, fresh.admin, { lotId: lot.id });
    expect(photos.map((photo) => photo.name)).toEqual(['c.webp', 'b.png', 'box.jpg']);
    const full = await photoBytes(fresh.lab, fresh.admin, { id: id!, size: 'full' });
    const stored = await sharp(full).metadata();
    expect(stored).toMatchObject({ format: 'jpeg', width: 900, height: 600 });
    expect(stored.exif).toBeUndefined();
    const thumb = await photoBytes(fresh.lab, fresh.admin, { id: id!, size: 'thumb' });
    expect((await sharp(thumb).metadata()).width).toBe(320);
  });

  it('that are none, cut off, of another kind or too large are refused, and nothing is kept', async () => {
    const lot = await claimedLot(fresh, 1);
    const whole = await picture().jpeg().toBuffer();
    const noise = new TextEncoder().encode('not a picture at all');
    for (const [name, bytes, found] of [
      ['note.jpg', noise, /expected a photograph as JPEG, PNG or WebP/],
      ['empty.png', new Uint8Array(), /found an empty file/],
      ['cut.jpg', new Uint8Array(whole.subarray(0, 400)), /no whole picture/],
      ['plan.gif', new Uint8Array(await picture().gif().toBuffer()), /found gif/],
      ['huge.jpg', new Uint8Array(15 * 1024 * 1024 + 1), /at most 15 MB/],
    ] as const)
      expect((await failure(keep(lot.id, name, bytes))).message).toMatch(found);
    const foreign = await claimedLot(fresh, 1);
    expect(
      (
        await failure(
          keepPhoto(fresh.lab, fresh.admin, {
            lotId: lot.id,
            clientKey: randomUUID(),
            subjectType: 'lot',
            subjectId: foreign.id,
            name: 'a.jpg',
            bytes: new Uint8Array(whole),
          }),
        )
      ).code,
    ).toBe('notFound');
    expect(await photosOfLot(fresh.lab, fresh.admin, { lotId: lot.id })).toEqual([]);
  });
});
