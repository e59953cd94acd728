import { chromium } from 'playwright-core';
import { PNG } from 'pngjs';

export const GROUND = [229, 235, 232];

export interface Cell {
  readonly caption: string;
  readonly pictures: readonly PNG[];
  /** Set under the pictures, before the caption. */
  readonly drawing?: string;
}

/** Pictures with their captions on one sheet. The browser sets the words; everything else is drawn here. */
export async function captioned(cells: readonly Cell[], across: number, size: number, style = ''): Promise<Buffer> {
  const browser = await chromium.launch({ executablePath: process.env.CHROMIUM_PATH ?? '/usr/bin/chromium', args: ['--no-sandbox'] });
  const page = await browser.newPage({ viewport: { width: across * size, height: 400 } });
  const picture = (png: PNG): string =>
    `<img style="display:block" src="data:image/png;base64,${PNG.sync.write(png).toString('base64')}" width="${size}">`;
  await page.setContent(
    `<style>${style}</style><body style="margin:0;background:rgb(${GROUND});font:13px/1.3 sans-serif;color:#16202b;display:grid;grid-template-columns:repeat(${across},${size}px)">${cells
      .map(
        (c) =>
          `<div>${c.pictures.map(picture).join('')}${c.drawing ?? ''}<div style="padding:0 8px 10px;text-align:center">${c.caption}</div></div>`,
      )
      .join('')}`,
  );
  const png = await page.screenshot({ fullPage: true });
  await browser.close();
  return png;
}
