import { shelfOfFile } from '../testing/testShelf';

const shelf = await shelfOfFile();

it('compares two lists for whoever may read, and refuses what is none', async () => {
  const reader = await shelf.tokenOf('reader');
  const ask = (body: object) => shelf.ask('POST', '/listings/compare', reader, body);
  const left = 'path,size\nmaps/a.tif,5\nmaps/b.tif,6\nmaps/c.tif,7\n';
  const { status, body } = await ask({ left, right: '5\t1700000000\t./maps/a.tif\n9\t1700000000\t./maps/b.tif\n' });
  expect(status).toBe(200);
  expect(body).toMatchObject({
    same: 1,
    counts: { missing: 1, different: 1, extra: 0, moved: 0 },
    first: { missing: [{ path: 'c.tif' }], different: [{ path: 'b.tif', by: 'size' }] },
    words: expect.stringMatching(/^They differ: 1 missing, 1 different; 1 is the same, by path and size/),
  });
  expect((await ask({ left, right: 'q/r/s\n' })).body['words']).toMatch(/next to no path in common/);
  expect((await ask({ left, right: '\n' })).body['words']).toMatch(/second list has no file/);
  for (const [wrong, pointer] of [
    [{ left }, '#/right'],
    [{ left, right: '' }, '#/right'],
    [{ left, right: 'x', leaveOut: [''] }, '#/leaveOut/0'],
    [{ left, right: 'x', fast: true }, '#/fast'],
  ] as const)
    expect((await ask(wrong)).body).toMatchObject({ errors: [{ pointer }] });
  // Five million characters a list, and not one more.
  expect((await ask({ left: 'a'.repeat(5_000_001), right: 'x' })).status).toBeGreaterThanOrEqual(400);
});
