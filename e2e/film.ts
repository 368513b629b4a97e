import { writeFileSync } from 'node:fs';
import type { Page } from 'puppeteer-core';

const [WIDTH, HEIGHT] = [1280, 720];
const FRAMES = 3;

/** Films a drawing as a camera would see it held before a wall: a y4m of a few frames, luma with neutral chroma. */
export async function filmOf(page: Page, svg: string, path: string): Promise<void> {
  const luma = await page.evaluate(
    async (drawing, width, height) => {
      const image = new Image();
      image.src = `data:image/svg+xml;base64,${btoa(drawing)}`;
      await image.decode();
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [width, height];
      const on = canvas.getContext('2d') as CanvasRenderingContext2D;
      on.fillStyle = '#d8d8d8';
      on.fillRect(0, 0, width, height);
      const scale = Math.min((width * 0.7) / image.naturalWidth, (height * 0.6) / image.naturalHeight);
      on.drawImage(image, width * 0.15, height * 0.2, image.naturalWidth * scale, image.naturalHeight * scale);
      const { data } = on.getImageData(0, 0, width, height);
      let text = '';
      for (let i = 0; i < data.length; i += 4) text += String.fromCharCode(16 + Math.round(((data[i] as number) * 219) / 255));
      return btoa(text);
    },
    svg,
    WIDTH,
    HEIGHT,
  );
  const frame = Buffer.concat([Buffer.from('FRAME\n'), Buffer.from(luma, 'base64'), Buffer.alloc((WIDTH * HEIGHT) / 2, 128)]);
  writeFileSync(
    path,
    Buffer.concat([Buffer.from(`YUV4MPEG2 W${String(WIDTH)} H${String(HEIGHT)} F10:1 Ip A1:1 C420jpeg\n`), ...Array<Buffer>(FRAMES).fill(frame)]),
  );
}
