import { writeFileSync } from 'node:fs';
import type { Page } from 'puppeteer-core';

const [WIDTH, HEIGHT] = [1280, 720];
const FRAMES = 3;

/** Films drawings side by side as a camera would see them held before a wall: a y4m of a few frames, luma with neutral chroma. */
export async function filmOf(page: Page, svgs: readonly string[], path: string): Promise<void> {
  const luma = await page.evaluate(
    async (drawings, width, height) => {
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [width, height];
      const on = canvas.getContext('2d') as CanvasRenderingContext2D;
      on.fillStyle = '#d8d8d8';
      on.fillRect(0, 0, width, height);
      const room = width / drawings.length;
      for (const [i, drawing] of drawings.entries()) {
        const image = new Image();
        image.src = `data:image/svg+xml;base64,${btoa(drawing)}`;
        await image.decode();
        const scale = Math.min((room * 0.8) / image.naturalWidth, (height * 0.6) / image.naturalHeight);
        const [w, h] = [image.naturalWidth * scale, image.naturalHeight * scale];
        // On white, as labels are.
        on.fillStyle = '#ffffff';
        on.fillRect(room * i + room * 0.04, height * 0.15, room * 0.92, height * 0.7);
        on.drawImage(image, room * i + (room - w) / 2, (height - h) / 2, w, h);
      }
      const { data } = on.getImageData(0, 0, width, height);
      let text = '';
      for (let i = 0; i < data.length; i += 4)
        text += String.fromCharCode(16 + Math.round(((data[i] as number) * 219) / 255));
      return btoa(text);
    },
    svgs,
    WIDTH,
    HEIGHT,
  );
  const frame = Buffer.concat([
    Buffer.from('FRAME\n'),
    Buffer.from(luma, 'base64'),
    Buffer.alloc((WIDTH * HEIGHT) / 2, 128),
  ]);
  writeFileSync(
    path,
    Buffer.concat([
      Buffer.from(`YUV4MPEG2 W${String(WIDTH)} H${String(HEIGHT)} F10:1 Ip A1:1 C420jpeg\n`),
      ...Array<Buffer>(FRAMES).fill(frame),
    ]),
  );
}
