import sharp from 'sharp';
import { drawSheet, onlyBlock } from '../drawing';
import { PictureTooLargeError, type PixelFormat, SHEET_FORMATS, type SheetFormat, checkPixels, endingOf } from '../formats';
import { createSheet } from '../job';
import { setSheet } from '../setting';
import { headline, shippedFaces } from '../testing';
import { type RenderOptions, renderSheetOnDemand, writeSheets } from '.';

describe('a sheet as a picture', () => {
  const sheet = { ...createSheet('s', 'Sheet', 144, 72, 'pt'), blocks: [headline('Ag', { frame: { xPt: 10, yPt: 0, widthPt: 120, heightPt: 70 } })] };
  const pictures = SHEET_FORMATS.filter(({ kind }) => kind === 'pixels');
  const called = (id: string): SheetFormat => SHEET_FORMATS.find((one) => one.id === id)!;

  async function made(id: string, asked: Readonly<Record<string, string>> = {}): Promise<Uint8Array> {
    const format = called(id);
    if (format.kind !== 'pixels') throw new Error('No picture');
    const options = format.options.parse(asked);
    const faces = await shippedFaces('playfair-display-bold');
    return renderSheetOnDemand(
      { drawing: drawSheet(sheet, setSheet(sheet, faces)), faces, pictures: new Map() },
      id,
      format.pixels(sheet, options),
      options as RenderOptions,
    );
  }

  it('is read by another reader in every format, as large as was asked, with its physical size and sRGB', async () => {
    for (const { id } of pictures) {
      for (const [asked, width, density] of [
        [{}, 192, 96],
        [{ scale: '3' }, 576, 288],
        [{ width: '500' }, 500, 250],
        [{ ppi: '300' }, 600, 300],
      ] as const) {
        const bytes = await made(id, asked);
        const about = await sharp(bytes).metadata();
        expect([about.format, about.width, about.height])
          .withContext(`${id} ${JSON.stringify(asked)}`)
          .toEqual([id as 'png', width, width / 2]);
        if (id !== 'webp') expect(about.density).withContext(id).toBe(density);
        expect(about.space).toBe('srgb');
        // PNG names the space, the others hold its profile.
        expect(id === 'png' ? Buffer.from(bytes).includes('sRGB') : about.icc !== undefined)
          .withContext(id)
          .toBeTrue();
        const [grey] = (await sharp(bytes).greyscale().stats()).channels;
        expect([(grey?.min ?? 255) < 40, (grey?.max ?? 0) > 245]).toEqual([true, true]);
      }
    }
  });

  it('leaves the ground out where it is to be transparent, and is smaller at less quality', async () => {
    for (const id of ['png', 'webp']) {
      const opaque = await sharp(await made(id)).stats();
      const clear = await sharp(await made(id, { transparent: 'true' })).stats();
      expect([opaque.isOpaque, clear.isOpaque]).withContext(id).toEqual([true, false]);
    }
    for (const id of ['jpeg', 'webp'])
      expect((await made(id, { quality: '20', scale: '3' })).length).toBeLessThan((await made(id, { quality: '95', scale: '3' })).length);
  });

  it('is asked for in one way, and named by it', () => {
    for (const { id, options, ...format } of pictures) {
      expect(options.safeParse({ width: '100', ppi: '72' }).success)
        .withContext(id)
        .toBeFalse();
      for (const bad of [{ width: '0' }, { ppi: 'many' }, { scale: '4' }, { width: '1e9' }])
        expect(options.safeParse(bad).success).withContext(JSON.stringify(bad)).toBeFalse();
      const ending = (asked: object): string => endingOf({ id, options, ...format }, options.parse(asked));
      expect([ending({ scale: '2' }), ending({ width: '640' }), ending({ ppi: '300' })]).toEqual(
        ['@2x', '-640px', '-300ppi'].map((said) => said + format.extension),
      );
    }
  });

  it('is as long as its format has room for, and refused in words beyond', async () => {
    const faces = await shippedFaces('playfair-display-bold');
    const long = { ...createSheet('s', 'Ribbon', 1, 20, 'pt'), blocks: [] };
    const material = { drawing: drawSheet(long, []), faces, pictures: new Map<string, string>() };
    for (const [id, most] of [
      ['webp', 16_383],
      ['jpeg', 65_535],
    ] as const) {
      const wide = Math.floor(most / 20);
      const written = (width: number) => writeSheets(called(id), [material], { title: '', language: undefined }, called(id).options.parse({ width }));
      expect((await sharp((await written(Math.min(wide, 900))) as Uint8Array).metadata()).format).toBe(id);
      await expectAsync(written(wide + 1)).toBeRejectedWithError(PictureTooLargeError, new RegExp(`at most ${id === 'jpeg' ? '66 million' : most}`));
    }
    expect(() => checkPixels({ width: 10, height: 65_536 }, called('jpeg') as PixelFormat)).toThrowError(PictureTooLargeError);
    expect(() => checkPixels({ width: 10, height: 65_536 }, called('png') as PixelFormat)).not.toThrow();
  });

  it('of a block alone shows all of it, turned and with its shadow, and nothing else', async () => {
    const faces = await shippedFaces('playfair-display-bold');
    const base = headline('Ag', { id: 'one', frame: { xPt: 40, yPt: 30, widthPt: 120, heightPt: 70 } });
    const block = {
      ...base,
      rotationDeg: 25,
      style: { ...base.style, sizePt: 50, shadow: { xMilliem: 100, yMilliem: 100, blurMilliem: 60, colour: '#802020' } },
    };
    const wide = { ...createSheet('s', 'Sheet', 300, 200, 'pt'), blocks: [block] };
    const whole = drawSheet(wide, setSheet(wide, faces));
    const alone = onlyBlock(whole, 'one', faces)!;
    expect([alone.widthPt < 150, alone.heightPt < 150, onlyBlock(whole, 'two', faces)]).toEqual([true, true, undefined]);
    const inked = async (drawing: typeof whole): Promise<number> => {
      const png = await renderSheetOnDemand(
        { drawing, faces, pictures: new Map() },
        'png',
        { width: Math.round(drawing.widthPt * 3), height: Math.round(drawing.heightPt * 3) },
        { transparent: true },
      );
      const { channels } = await sharp(png).stats();
      return (channels[3]?.mean ?? 0) * drawing.widthPt * drawing.heightPt;
    };
    const [all, own] = [await inked(whole), await inked(alone)];
    expect(Math.abs(own / all - 1)).toBeLessThan(0.02);
  });
});
